/** The Money line and the list behind each of its stages. */
@NullMarked
package app.pragmata.server.worklists;

import org.jspecify.annotations.NullMarked;
