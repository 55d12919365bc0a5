/** What people are paid for, and the file that the wages are reckoned from. */
@NullMarked
package app.pragmata.server.wages;

import org.jspecify.annotations.NullMarked;
