package app.pragmata.core.company;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.VatRate;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Map;

/**
 * The company's rates of VAT; the percent of each holds from a day until the next.
 *
 * @param usualCode the one that is taken where nobody says another
 */
public record VatRates(String usualCode, Map<String, Percents> byCode) {
  /** A rate's category of EN 16931 and its percents. */
  public record Percents(String category, InForce<Percent> percent) {}

  /** So many per cent from a day on. */
  public record Percent(LocalDate fromDay, BigDecimal percent) implements InForce.Dated {}

  public VatRates {
    byCode = Map.copyOf(byCode);
    if (!byCode.containsKey(usualCode)) {
      throw new IllegalArgumentException("The usual rate " + usualCode + " is none of the rates");
    }
  }

  public boolean has(String code) {
    return byCode.containsKey(code);
  }

  /** A rate as it is on a tax day; refused when there is none of this code or it had no percent. */
  public VatRate on(String code, LocalDate taxDay) {
    Percents percents = byCode.get(code);
    if (percents == null) {
      throw new Refused(Rule.NOT_FOUND, "This VAT rate does not exist. Choose one from the list.");
    }
    return new VatRate(code, percents.category(), percents.percent().on(taxDay).percent());
  }

  /** The usual rate as it is on a tax day. */
  public VatRate usualOn(LocalDate taxDay) {
    return on(usualCode, taxDay);
  }

  /** All rates as they are on a tax day, the highest first. */
  public List<VatRate> listOn(LocalDate taxDay) {
    return byCode.keySet().stream()
        .map(code -> on(code, taxDay))
        .sorted(Comparator.comparing(VatRate::percent).reversed().thenComparing(VatRate::code))
        .toList();
  }
}
