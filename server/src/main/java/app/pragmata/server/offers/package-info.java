/** What a customer does behind their link: read, choose, ask, decline, accept. */
@NullMarked
package app.pragmata.server.offers;

import org.jspecify.annotations.NullMarked;
