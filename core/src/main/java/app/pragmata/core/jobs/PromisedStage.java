package app.pragmata.core.jobs;

import app.pragmata.core.money.Money;

/**
 * A part of an accepted price that falls due at some point of the work.
 *
 * @param position in the quote's schedule, from one
 * @param net as it was accepted, without VAT
 */
public record PromisedStage(int position, String name, Money net) {}
