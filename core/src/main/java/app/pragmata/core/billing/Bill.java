package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.Coded;
import app.pragmata.core.jobs.PromisedStage;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatGroup;
import app.pragmata.core.money.VatTreatment;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;

/**
 * What an invoice charges for one job.
 *
 * @param deductions what was billed before of the same promise; only a final bill has any
 */
public record Bill(Kind kind, List<ChargeLine> lines, List<Deduction> deductions) {
  /** How far the job is billed by it. */
  public enum Kind implements Coded {
    /** A part of a fixed price, billed ahead of work. */
    STAGE,
    /** Some visits and suppliers' bills, by time and parts. */
    PART,
    /** All that is left; it closes the job. */
    FINAL
  }

  public Bill {
    lines = List.copyOf(lines);
    deductions = List.copyOf(deductions);
    if (kind != Kind.FINAL && !deductions.isEmpty()) {
      throw new IllegalArgumentException("Only a final bill takes off what was billed before");
    }
  }

  /** The bill of a stage: a line for each VAT group of the promise, spread by its net. */
  public static Bill ofStage(PromisedStage stage, List<QuoteLine> promise) {
    var treatments = new LinkedHashMap<VatGroup, VatTreatment>();
    promise.forEach(
        line -> treatments.putIfAbsent(line.vatTreatment().group(), line.vatTreatment()));
    List<VatBreakdown.Taxed> groups =
        VatBreakdown.of(
                promise.stream()
                    .map(line -> new VatBreakdown.Net(line.vatTreatment(), line.net()))
                    .toList())
            .groups();
    List<Money> nets =
        stage.net().spreadOver(groups.stream().map(VatBreakdown.Taxed::net).toList());
    var lines = new ArrayList<ChargeLine>();
    for (int i = 0; i < groups.size(); i++) {
      if (!nets.get(i).isZero()) {
        VatTreatment treatment = Objects.requireNonNull(treatments.get(groups.get(i).group()));
        lines.add(ChargeLine.ahead(stage.name(), nets.get(i), treatment));
      }
    }
    return new Bill(Kind.STAGE, lines, List.of());
  }

  /** The same with no more net than this; what is cut is spread over the lines by their nets. */
  Bill cutTo(Money most) {
    Money beyond = net().minus(most);
    if (!beyond.isPositive()) {
      return this;
    }
    List<Money> cuts = beyond.spreadOver(lines.stream().map(ChargeLine::net).toList());
    var left = new ArrayList<ChargeLine>();
    for (int i = 0; i < lines.size(); i++) {
      left.add(lines.get(i).cut(cuts.get(i)));
    }
    return new Bill(kind, left, deductions);
  }

  /** The tax on it alone; on an invoice of several jobs it is computed on all of them. */
  public VatBreakdown vat() {
    return VatBreakdown.of(taxed().toList());
  }

  Stream<VatBreakdown.Net> taxed() {
    return Stream.concat(
        lines.stream().map(line -> new VatBreakdown.Net(line.vatTreatment(), line.net())),
        deductions.stream()
            .map(each -> new VatBreakdown.Net(each.vatTreatment(), each.net().negated())));
  }

  /** Net charges per category; categories without a line are left out, and so are stages. */
  public Map<Category, Money> netByCategory() {
    var sums = new EnumMap<Category, Money>(Category.class);
    for (ChargeLine line : lines) {
      if (line.category() != null) {
        sums.merge(line.category(), line.net(), Money::plus);
      }
    }
    return sums;
  }

  /**
   * What it charges more than another bill of the same work, per category; less below nothing.
   * Where both charge the same, the category is left out.
   */
  public Map<Category, Money> above(Bill other) {
    var sums = new EnumMap<>(netByCategory());
    other
        .netByCategory()
        .forEach((category, net) -> sums.merge(category, net.negated(), Money::plus));
    sums.values().removeIf(Money::isZero);
    return sums;
  }

  /** What all lines come to, without VAT. */
  public Money net() {
    return lines.stream().map(ChargeLine::net).collect(Money.sum());
  }

  /** What the warranty does not bear because lines were taken out of it. */
  public Money forgone() {
    return lines.stream().map(line -> line.reductions().forgone()).collect(Money.sum());
  }

  /** What of them is billed ahead of work. */
  public Money ahead() {
    return kind == Kind.STAGE ? net() : Money.ZERO;
  }

  /** What was billed before and is taken off, without VAT. */
  public Money deducted() {
    return deductions.stream().map(Deduction::net).collect(Money.sum());
  }
}
