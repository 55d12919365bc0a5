/** Invoices and the money received for them. */
@NullMarked
package app.pragmata.server.billing;

import org.jspecify.annotations.NullMarked;
