/** Calls as they are taken, the fault talks that guide them, and what comes of them. */
@NullMarked
package app.pragmata.server.calls;

import org.jspecify.annotations.NullMarked;
