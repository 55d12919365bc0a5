/** What customers owe, their money from its coming in on, and the card terminal's stand-in. */
@NullMarked
package app.pragmata.server.receipts;

import org.jspecify.annotations.NullMarked;
