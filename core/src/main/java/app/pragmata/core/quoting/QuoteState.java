package app.pragmata.core.quoting;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.VatBreakdown;
import java.time.LocalDate;

/** Where a quote stands. Each state offers only the moves that may follow it. */
public sealed interface QuoteState {
  /** Being written; only here may lines change. */
  record Draft() implements QuoteState {
    public Sent send(Offer offer, LocalDate validUntil, LocalDate today) {
      if (offer.promised().isEmpty()) {
        throw new Refused(
            Rule.NO_LINES, "The quote has no lines yet. Add at least one before sending it.");
      }
      if (!offer.faults().isEmpty()) {
        throw new Refused(offer.faults());
      }
      VatBreakdown.of(
              offer.shown().stream()
                  .map(line -> new VatBreakdown.Net(line.vatTreatment(), line.net()))
                  .toList())
          .requireOneScope("quote");
      return new Sent(notPast(validUntil, today));
    }
  }

  /** With the customer, who may answer until the last day inclusive. */
  record Sent(LocalDate validUntilInclusive) implements QuoteState {
    public Accepted accept() {
      return new Accepted();
    }

    public Declined decline() {
      return new Declined();
    }

    /** Back to the desk, to be changed before it is sent again. */
    public Draft takeBack() {
      return new Draft();
    }
  }

  /** The customer's yes; the lines are the promise from here on. */
  record Accepted() implements QuoteState {}

  record Declined() implements QuoteState {}

  /** Sent, but the last day passed without an answer. */
  record Lapsed() implements QuoteState {
    public Draft takeBack() {
      return new Draft();
    }
  }

  /** The states by name; that a sent quote has lapsed is a matter of the day and never stored. */
  enum Code implements Coded {
    DRAFT,
    SENT,
    ACCEPTED,
    DECLINED,
    LAPSED
  }

  /** The state's name. */
  default Code code() {
    return switch (this) {
      case Draft draft -> Code.DRAFT;
      case Sent sent -> Code.SENT;
      case Accepted accepted -> Code.ACCEPTED;
      case Declined declined -> Code.DECLINED;
      case Lapsed lapsed -> Code.LAPSED;
    };
  }

  /**
   * A sent quote as it stands today: lapsed once its last day has passed, by the day and not by
   * somebody remembering.
   */
  static QuoteState sent(LocalDate validUntilInclusive, LocalDate today) {
    return validUntilInclusive.isBefore(today) ? new Lapsed() : new Sent(validUntilInclusive);
  }

  private static LocalDate notPast(LocalDate validUntil, LocalDate today) {
    if (validUntil.isBefore(today)) {
      throw new Refused(Rule.DAY_PASSED, "Its last day has passed. Set a later day, then send it.");
    }
    return validUntil;
  }
}
