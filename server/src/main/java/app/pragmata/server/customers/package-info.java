/** Who pays and where the work is. */
@NullMarked
package app.pragmata.server.customers;

import org.jspecify.annotations.NullMarked;
