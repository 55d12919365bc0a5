package app.pragmata.core.billing;

import app.pragmata.core.Coded;
import app.pragmata.core.money.VatTreatment;

/** A treatment of VAT, and who said that a line has it. */
public record SaidVat(VatTreatment treatment, By by) {
  /** All but the line itself is a default that wants a look when the job is checked. */
  public enum By implements Coded {
    LINE,
    JOB,
    PROMISED_LINE,
    ACCEPTED_QUOTE,
    KIND_OF_JOB,
    CUSTOMER,
    PRICE_LIST,
    SUPPLIERS_BILL,
    COMPANY
  }

  /** That of a line which says it itself. */
  public static SaidVat byLine(VatTreatment treatment) {
    return new SaidVat(treatment, By.LINE);
  }
}
