package app.pragmata.core.money;

import java.util.Comparator;
import java.util.List;
import java.util.TreeMap;

/**
 * The VAT of a document: per rate the sum of its net lines, and the tax computed on that sum and
 * rounded half up (EN 16931 BR-CO-17).
 */
public record VatBreakdown(List<PerRate> rates) {
  /** A net amount and the rate that applies to it. */
  public record Taxed(VatRate rate, Money net) {}

  /** All that is taxed at one rate. */
  public record PerRate(VatRate rate, Money net, Money vat) {}

  public VatBreakdown {
    rates = List.copyOf(rates);
  }

  /** Rates in descending order of percent; no lines give no rates. */
  public static VatBreakdown of(List<Taxed> lines) {
    var netByRate =
        new TreeMap<VatRate, Money>(
            Comparator.comparing(VatRate::percent).reversed().thenComparing(VatRate::code));
    lines.forEach(line -> netByRate.merge(line.rate(), line.net(), Money::plus));
    return new VatBreakdown(
        netByRate.entrySet().stream()
            .map(
                entry ->
                    new PerRate(
                        entry.getKey(), entry.getValue(), vatOn(entry.getKey(), entry.getValue())))
            .toList());
  }

  public static Money vatOn(VatRate rate, Money net) {
    return net.times(rate.percent().movePointLeft(2));
  }

  public Money net() {
    return rates.stream().map(PerRate::net).collect(Money.sum());
  }

  public Money vat() {
    return rates.stream().map(PerRate::vat).collect(Money.sum());
  }

  public Money gross() {
    return net().plus(vat());
  }
}
