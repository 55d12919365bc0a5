/** The priced offer: its lines, its totals and its states. */
@NullMarked
package app.pragmata.core.quoting;

import org.jspecify.annotations.NullMarked;
