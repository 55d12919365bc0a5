package app.pragmata.core.jobs;

import app.pragmata.core.Coded;

/** What a quote promises of its price. */
public enum PromiseKind implements Coded {
  /** The quoted lines, whatever the work takes. */
  FIXED_PRICE,
  /** About so much: time and parts are charged, and more than that only with a reason. */
  ESTIMATE,
  /** Time and parts are charged, up to the quoted net. */
  NOT_MORE_THAN;

  /** How a job with this promise is charged unless somebody says otherwise. */
  public BillingBasis.Code basis() {
    return this == FIXED_PRICE ? BillingBasis.Code.FIXED_PRICE : BillingBasis.Code.TIME_AND_PARTS;
  }

  /** As part of a sentence, such as “an estimate”. */
  public String words() {
    return switch (this) {
      case FIXED_PRICE -> "a fixed price";
      case ESTIMATE -> "an estimate";
      case NOT_MORE_THAN -> "not more than its total";
    };
  }
}
