package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.jobs.BillingBasis.PromisedOnSite;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import java.util.ArrayList;
import java.util.Comparator;

/**
 * Makes a bill come to what the customer was told on site. What is less is spread over the lines by
 * their nets after warranty; what is more is a line of its own, treated for VAT like the largest
 * one.
 *
 * @param worked by time and parts
 * @param words of the line of its own
 * @param otherwise how that line is treated where there is no other
 */
record OnSitePrice(Bill worked, String words, SaidVat otherwise) {

  /**
   * The bill that comes to it. VAT is rounded per group, so that not every total with VAT can be
   * had: then the next lower one that can.
   */
  Bill of(PromisedOnSite promised) {
    if (!promised.withVat()) {
      return at(promised.told());
    }
    long low = 0;
    long high = promised.told().minor();
    while (low < high) {
      long middle = low + (high - low + 1) / 2;
      boolean above = at(Money.ofMinor(middle)).vat().gross().compareTo(promised.told()) > 0;
      low = above ? low : middle;
      high = above ? middle - 1 : high;
    }
    return at(Money.ofMinor(low));
  }

  private Bill at(Money net) {
    Money missing = net.minus(worked.net());
    if (!missing.isPositive()) {
      return worked.cutTo(net);
    }
    var lines = new ArrayList<>(worked.lines());
    lines.add(
        new ChargeLine(
            new ChargeLine.Of.Promise(),
            Category.OTHER,
            words,
            Priced.one(new UnitPrice(missing.major())),
            Reductions.NONE,
            worked.lines().stream()
                .max(Comparator.comparing(ChargeLine::net))
                .map(ChargeLine::vat)
                .orElse(otherwise)));
    return new Bill(worked.kind(), lines, worked.deductions());
  }
}
