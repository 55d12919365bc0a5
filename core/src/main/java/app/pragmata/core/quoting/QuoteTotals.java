package app.pragmata.core.quoting;

import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import java.util.List;

/** What an offer comes to, for the customer and for us. */
public record QuoteTotals(VatBreakdown vat, Money cost) {
  public static QuoteTotals of(List<QuoteLine> lines) {
    return new QuoteTotals(
        VatBreakdown.of(
            lines.stream()
                .map(line -> new VatBreakdown.Net(line.vatTreatment(), line.net()))
                .toList()),
        lines.stream().map(QuoteLine::cost).collect(Money.sum()));
  }

  public Margin margin() {
    return new Margin(vat.net(), cost);
  }
}
