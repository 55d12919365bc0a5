/** Parts, prices and stock. */
@NullMarked
package app.pragmata.server.stores;

import org.jspecify.annotations.NullMarked;
