package app.pragmata.core.jobs;

import app.pragmata.core.Coded;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

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

  /** The bases by name. */
  enum Code implements Coded {
    FIXED_PRICE,
    TIME_AND_PARTS,
    NOT_CHARGED
  }

  /** The basis of this name; only one that is not charged has a reason. */
  static BillingBasis of(Code code, @Nullable String reason) {
    return switch (code) {
      case FIXED_PRICE -> new FixedPrice();
      case TIME_AND_PARTS -> new TimeAndParts();
      case NOT_CHARGED -> new NotCharged(Objects.requireNonNull(reason));
    };
  }
}
