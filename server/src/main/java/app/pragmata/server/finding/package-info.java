/** The one field that finds everything. */
@NullMarked
package app.pragmata.server.finding;

import org.jspecify.annotations.NullMarked;
