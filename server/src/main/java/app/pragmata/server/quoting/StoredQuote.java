package app.pragmata.server.quoting;

import app.pragmata.core.money.Money;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.generated.tables.records.QuoteRecord;
import app.pragmata.server.records.Act;
import org.jspecify.annotations.Nullable;

/** A quote as it is stored, for those who take an answer or money for it. */
public final class StoredQuote {
  private final QuoteRecord row;

  StoredQuote(QuoteRecord row) {
    this.row = row;
  }

  QuoteRecord row() {
    return row;
  }

  public long id() {
    return row.getId();
  }

  public long number() {
    return row.getNumber();
  }

  public int version() {
    return row.getVersion();
  }

  public String title() {
    return row.getTitle();
  }

  public long customerId() {
    return row.getCustomerId();
  }

  public long kindOfJobId() {
    return row.getKindOfJobId();
  }

  /** Which edition is being written or was sent last. */
  public int edition() {
    return row.getEdition();
  }

  /** Whether it was taken back, or never sent. */
  public boolean isDraft() {
    return row.getState() == QuoteState.Code.DRAFT;
  }

  public boolean isAccepted() {
    return row.getState() == QuoteState.Code.ACCEPTED;
  }

  /** Where it stands on the act's day. */
  public QuoteState state(Act act) {
    return QuoteService.state(row, act);
  }

  /** Who said yes; null while nobody has. */
  public @Nullable String acceptedBy() {
    return row.getAcceptedBy();
  }

  /** What it comes to with VAT. */
  public Money gross() {
    return Money.ofMinor(row.getNetMinor() + row.getVatMinor());
  }
}
