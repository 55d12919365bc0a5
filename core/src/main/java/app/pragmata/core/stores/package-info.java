/** Stock at moving-average cost and charge-out prices. */
@NullMarked
package app.pragmata.core.stores;

import org.jspecify.annotations.NullMarked;
