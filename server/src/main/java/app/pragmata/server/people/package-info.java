/** Who works here and what they may do; signing in and out. */
@NullMarked
package app.pragmata.server.people;

import org.jspecify.annotations.NullMarked;
