/** Balanced journal entries for every event of the work. */
@NullMarked
package app.pragmata.core.books;

import org.jspecify.annotations.NullMarked;
