package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** What an invoice would read, before it has a number. */
public record InvoiceDraft(List<ChargeLine> lines, VatBreakdown vat) {
  public InvoiceDraft {
    lines = List.copyOf(lines);
  }

  static InvoiceDraft of(List<ChargeLine> lines) {
    return new InvoiceDraft(
        lines,
        VatBreakdown.of(
            lines.stream()
                .map(line -> new VatBreakdown.Taxed(line.vatRate(), line.net()))
                .toList()));
  }

  /** Net charges per category; categories without a line are left out. */
  public Map<Category, Money> netByCategory() {
    var sums = new EnumMap<Category, Money>(Category.class);
    lines.forEach(line -> sums.merge(line.category(), line.net(), Money::plus));
    return sums;
  }
}
