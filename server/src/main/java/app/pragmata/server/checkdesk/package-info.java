/** What the office checks before it goes home, and what in it is odd. */
@NullMarked
package app.pragmata.server.checkdesk;

import org.jspecify.annotations.NullMarked;
