package app.pragmata.core.quoting;

import app.pragmata.core.money.AmountOrShare;

/** A part of the price that falls due at some point of the work, such as "on delivery". */
public record Stage(String name, AmountOrShare part) {}
