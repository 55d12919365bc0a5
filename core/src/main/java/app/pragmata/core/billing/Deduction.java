package app.pragmata.core.billing;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatTreatment;

/**
 * What was billed ahead of work and not credited, in one VAT group, so that the final invoice does
 * not charge it again (EN 16931 BG-20, an allowance of the whole document).
 *
 * @param invoiceId the stage's invoice
 * @param net above nothing
 * @param vatTreatment of the same treatment, as on the final invoice's tax day
 */
public record Deduction(long invoiceId, long invoiceNumber, Money net, VatTreatment vatTreatment) {
  public Deduction {
    if (!net.isPositive()) {
      throw new IllegalArgumentException("A deduction is more than nothing, not " + net);
    }
  }
}
