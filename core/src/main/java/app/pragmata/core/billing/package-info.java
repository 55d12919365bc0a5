/** What the customer pays, on either basis, and the invoice. */
@NullMarked
package app.pragmata.core.billing;

import org.jspecify.annotations.NullMarked;
