/** What every capability shares: how wrong input and refused moves are named. */
@NullMarked
package app.pragmata.core;

import org.jspecify.annotations.NullMarked;
