package app.pragmata.core.jobs;

import app.pragmata.core.Coded;
import app.pragmata.core.money.Money;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** How a job is charged. */
public sealed interface BillingBasis {
  /** The quote's lines, whatever the work took. */
  record FixedPrice() implements BillingBasis {}

  /** What was worked, driven and fitted, by the charging rules. */
  record TimeAndParts() implements BillingBasis {}

  /**
   * What was worked, driven and fitted, made to come to what the customer was told on site.
   *
   * @param told all that the job is to cost the customer
   * @param withVat whether that is with VAT
   */
  record PromisedOnSite(Money told, boolean withVat) implements BillingBasis {
    public PromisedOnSite {
      if (!told.isPositive()) {
        throw new IllegalArgumentException("Nobody is told a price of " + told);
      }
    }
  }

  /** Nil, with the reason kept: warranty or goodwill. */
  record NotCharged(String reason) implements BillingBasis {
    public NotCharged {
      if (reason.isBlank()) {
        throw new IllegalArgumentException("A reason is needed");
      }
    }
  }

  /** The bases by name. */
  enum Code implements Coded {
    FIXED_PRICE,
    TIME_AND_PARTS,
    PROMISED_ON_SITE,
    NOT_CHARGED
  }

  /**
   * The basis of this name.
   *
   * @param reason of one that is not charged
   * @param onSite of one that was promised on site
   */
  static BillingBasis of(Code code, @Nullable String reason, @Nullable PromisedOnSite onSite) {
    return switch (code) {
      case FIXED_PRICE -> new FixedPrice();
      case TIME_AND_PARTS -> new TimeAndParts();
      case PROMISED_ON_SITE -> Objects.requireNonNull(onSite);
      case NOT_CHARGED -> new NotCharged(Objects.requireNonNull(reason));
    };
  }
}
