/** What people are paid for. */
@NullMarked
package app.pragmata.core.wages;

import org.jspecify.annotations.NullMarked;
