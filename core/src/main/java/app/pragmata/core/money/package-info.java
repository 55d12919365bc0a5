/** Amounts of the book currency, shares, minutes and VAT. */
@NullMarked
package app.pragmata.core.money;

import org.jspecify.annotations.NullMarked;
