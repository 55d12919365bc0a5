/** Money of customers that came in, and which of their debts it pays. */
@NullMarked
package app.pragmata.core.receipts;

import org.jspecify.annotations.NullMarked;
