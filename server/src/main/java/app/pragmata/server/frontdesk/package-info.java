/** Whoever calls: the card with all that is known of them, and the lists to find them in. */
@NullMarked
package app.pragmata.server.frontdesk;

import org.jspecify.annotations.NullMarked;
