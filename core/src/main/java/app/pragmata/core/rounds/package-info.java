/** Recurring work: what was agreed with a customer, and the days on which its rounds are due. */
@NullMarked
package app.pragmata.core.rounds;

import org.jspecify.annotations.NullMarked;
