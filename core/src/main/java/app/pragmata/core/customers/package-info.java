/** How a customer is reached: phone numbers, postcodes and mail addresses as people write them. */
@NullMarked
package app.pragmata.core.customers;

import org.jspecify.annotations.NullMarked;
