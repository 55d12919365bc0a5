/** Money taken before the invoice, and the card terminal's stand-in. */
@NullMarked
package app.pragmata.server.deposits;

import org.jspecify.annotations.NullMarked;
