package app.pragmata.core.money;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.util.List;
import java.util.TreeMap;

/**
 * The VAT of a document: per group the sum of its net lines, and the tax computed on that sum and
 * rounded half up (EN 16931 BR-CO-17).
 */
public record VatBreakdown(List<Taxed> groups) {
  /** A net amount, or all that a document has of a group, before its tax. */
  public record Net(VatGroup group, Money net) {
    public Net(VatTreatment treatment, Money net) {
      this(treatment.group(), net);
    }
  }

  /** All of a document in one group, and the tax on it. */
  public record Taxed(VatGroup group, Money net, Money vat) {}

  public VatBreakdown {
    groups = List.copyOf(groups);
  }

  /** Groups in descending order of percent; no lines give no groups. */
  public static VatBreakdown of(List<Net> lines) {
    var netByGroup = new TreeMap<VatGroup, Money>();
    lines.forEach(line -> netByGroup.merge(line.group(), line.net(), Money::plus));
    return new VatBreakdown(
        netByGroup.entrySet().stream()
            .map(
                entry ->
                    new Taxed(
                        entry.getKey(), entry.getValue(), vatOn(entry.getKey(), entry.getValue())))
            .toList());
  }

  public static Money vatOn(VatGroup group, Money net) {
    return net.times(group.percent().movePointLeft(2));
  }

  /**
   * Refused where what is outside the scope of VAT stands beside what is not (EN 16931 BR-O-11 to
   * BR-O-14).
   *
   * @param document what it is, such as “invoice”
   */
  public void requireOneScope(String document) {
    long outside =
        groups.stream()
            .filter(each -> each.group().category() == VatCategory.OUTSIDE_SCOPE)
            .count();
    if (outside > 0 && outside < groups.size()) {
      throw new Refused(
          Rule.OUTSIDE_SCOPE_BESIDE_OTHERS,
          "What is outside the scope of VAT stands alone on its %s. Put the rest on one of its own."
              .formatted(document));
    }
  }

  /** Refused where the customer accounts for VAT and has no VAT number (EN 16931 BR-AE-2). */
  public void requireVatNumber(String vatNumber) {
    if (vatNumber.isBlank()
        && groups.stream()
            .anyMatch(each -> each.group().category() == VatCategory.REVERSE_CHARGE)) {
      throw new Refused(
          Rule.WITHOUT_VAT_NUMBER,
          "The reverse charge needs the customer's VAT number. Enter it on the customer's card first.");
    }
  }

  public Money net() {
    return groups.stream().map(Taxed::net).collect(Money.sum());
  }

  public Money vat() {
    return groups.stream().map(Taxed::vat).collect(Money.sum());
  }

  public Money gross() {
    return net().plus(vat());
  }
}
