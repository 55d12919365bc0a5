/** Starts the program. */
@NullMarked
package app.pragmata.server;

import org.jspecify.annotations.NullMarked;
