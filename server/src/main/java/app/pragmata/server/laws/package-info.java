/** What must always be true of the books, over all that is below. */
@NullMarked
package app.pragmata.server.laws;

import org.jspecify.annotations.NullMarked;
