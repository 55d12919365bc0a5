/** The journal, the accounts and the laws that they obey. */
@NullMarked
package app.pragmata.server.books;

import org.jspecify.annotations.NullMarked;
