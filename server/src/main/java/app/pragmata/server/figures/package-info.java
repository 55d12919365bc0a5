/** What the work of a while adds up to. */
@NullMarked
package app.pragmata.server.figures;

import org.jspecify.annotations.NullMarked;
