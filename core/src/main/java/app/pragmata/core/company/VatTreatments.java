package app.pragmata.core.company;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.VatCategory;
import app.pragmata.core.money.VatGroup;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The company's treatments of VAT; the percent of each that has one holds from a day until the
 * next.
 *
 * @param usualCode the one that is taken where nobody says another
 */
public record VatTreatments(String usualCode, Map<String, Kind> byCode) {
  private static final String UNKNOWN =
      "This VAT treatment does not exist. Choose one from the list.";

  /**
   * What a treatment is on every day.
   *
   * @param reason why there is no tax; empty where the category needs none
   * @param percent of no meaning unless the category is rated
   */
  public record Kind(VatCategory category, String reason, InForce<Percent> percent) {}

  /** So many per cent from a day on. */
  public record Percent(LocalDate fromDay, BigDecimal percent) implements InForce.Dated {}

  public VatTreatments {
    byCode = Map.copyOf(byCode);
    if (!byCode.containsKey(usualCode)) {
      throw new IllegalArgumentException(
          "The usual treatment " + usualCode + " is none of the company's");
    }
  }

  /** Adds a fault unless there is a treatment of this code; empty or null says none, and may. */
  public void requireKnown(Reading reading, String field, @Nullable String code) {
    if (code != null && !code.isEmpty() && !byCode.containsKey(code)) {
      reading.fault(field, Rule.NOT_FOUND, UNKNOWN);
    }
  }

  /** Whether customers so treated account for VAT themselves. */
  public boolean isReverseCharge(@Nullable String code) {
    Kind kind = code == null ? null : byCode.get(code);
    return kind != null && kind.category() == VatCategory.REVERSE_CHARGE;
  }

  /**
   * A treatment as it is on a tax day; refused when there is none of this code or it had no
   * percent.
   */
  public VatTreatment on(String code, LocalDate taxDay) {
    Kind kind = byCode.get(code);
    if (kind == null) {
      throw new Refused(Rule.NOT_FOUND, UNKNOWN);
    }
    BigDecimal percent =
        kind.category() == VatCategory.RATED
            ? kind.percent().on(taxDay).percent()
            : BigDecimal.ZERO;
    return new VatTreatment(code, new VatGroup(kind.category(), percent, kind.reason()));
  }

  /** The usual treatment as it is on a tax day. */
  public VatTreatment usualOn(LocalDate taxDay) {
    return on(usualCode, taxDay);
  }

  /** All treatments as they are on a tax day, the highest percent first. */
  public List<VatTreatment> listOn(LocalDate taxDay) {
    return byCode.keySet().stream()
        .map(code -> on(code, taxDay))
        .sorted(Comparator.comparing(VatTreatment::group).thenComparing(VatTreatment::code))
        .toList();
  }
}
