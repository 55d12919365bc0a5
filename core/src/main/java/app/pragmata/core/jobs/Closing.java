package app.pragmata.core.jobs;

import app.pragmata.core.Coded;
import app.pragmata.core.books.CostPlace;
import app.pragmata.core.money.Money;
import java.time.Instant;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The document that closes a job: nothing more is done on it that would be charged.
 *
 * @param invoiceNumber of its final invoice; null when it is not charged or was called off
 */
public record Closing(Kind kind, @Nullable Long invoiceNumber, Instant at) {
  /** What may close a job. */
  public enum Kind implements Coded {
    INVOICE,
    NOT_CHARGED,
    CALLED_OFF;

    /** Where such a document brings the job's cost, and what comes late. */
    public CostPlace costPlace() {
      return switch (this) {
        case INVOICE -> CostPlace.COST_OF_SALES;
        case NOT_CHARGED -> CostPlace.WARRANTY_AND_GOODWILL;
        case CALLED_OFF -> CostPlace.WORK_CALLED_OFF;
      };
    }
  }

  /** How far a job is on its way to the money. */
  public enum Billed implements Coded {
    /** No closing document stands, or it was called off. */
    UNBILLED,
    BILLED,
    /** Its invoices owe nothing. */
    SETTLED
  }

  public Closing {
    if ((kind == Kind.INVOICE) != (invoiceNumber != null)) {
      throw new IllegalArgumentException(kind + " with the number " + invoiceNumber);
    }
  }

  /**
   * Computed from the documents alone.
   *
   * @param closing empty while no closing document stands
   * @param owed on all of the job's invoices
   */
  public static Billed billed(Optional<Closing> closing, Money owed) {
    if (closing.isEmpty() || closing.get().kind() == Kind.CALLED_OFF) {
      return Billed.UNBILLED;
    }
    return owed.isZero() ? Billed.SETTLED : Billed.BILLED;
  }
}
