package app.pragmata.core.billing;

/** How a job is charged. */
public sealed interface BillingBasis {
  /** The quote's lines, whatever the work took. */
  record FixedPrice() implements BillingBasis {}

  /** What was worked, driven and fitted, by the charging rules. */
  record TimeAndParts() implements BillingBasis {}

  /** Nil, with the reason kept: warranty or goodwill. */
  record NotCharged(String reason) implements BillingBasis {
    public NotCharged {
      if (reason.isBlank()) {
        throw new IllegalArgumentException("A reason is needed");
      }
    }
  }
}
