package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.Fault;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatGroup;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What of a posted invoice can still be credited.
 *
 * @param groups its VAT groups, with what earlier credits have left of them
 */
public record Creditable(List<Line> lines, List<Off> deductions, List<Group> groups) {
  /**
   * A charged line.
   *
   * @param position on the invoice
   * @param category null for a stage
   * @param left its net less what was credited of it
   */
  public record Line(
      int position,
      long jobId,
      ChargeLine.Of of,
      @Nullable Category category,
      VatGroup vat,
      Money left) {}

  /**
   * What the invoice took off because it was billed ahead of work; nothing once it is given back.
   */
  public record Off(int position, long jobId, VatGroup vat, Money left) {}

  /** A VAT group with what is left of its net and its tax. */
  public record Group(VatGroup group, Money net, Money vat) {}

  /** What of a line is not charged after all; of the sign that the line has, never nothing. */
  public record Less(Line line, Money net) {
    private boolean isLeft() {
      return line.left().isNegative()
          ? net.isNegative() && net.compareTo(line.left()) >= 0
          : net.isPositive() && net.compareTo(line.left()) <= 0;
    }
  }

  /**
   * A credit note before it has a number.
   *
   * @param given the deductions that the credit gives back, each whole
   */
  public record Credit(List<Less> lines, List<Off> given, List<VatBreakdown.Taxed> vat) {
    public Credit {
      lines = List.copyOf(lines);
      given = List.copyOf(given);
      vat = List.copyOf(vat);
    }

    public Money net() {
      return vat.stream().map(VatBreakdown.Taxed::net).collect(Money.sum());
    }

    public Money vatAmount() {
      return vat.stream().map(VatBreakdown.Taxed::vat).collect(Money.sum());
    }

    public Money gross() {
      return net().plus(vatAmount());
    }

    /** Whether it credits nothing. */
    public boolean isEmpty() {
      return lines.isEmpty() && given.isEmpty();
    }

    /** What is no sale of the job after all, by category. */
    public Map<Category, Money> netByCategory(long jobId) {
      var sums = new TreeMap<Category, Money>();
      for (Less less : lines) {
        if (less.line().jobId() == jobId && less.line().category() != null) {
          sums.merge(less.line().category(), less.net(), Money::plus);
        }
      }
      return sums;
    }

    /** What was billed ahead of the job's work and is not after all. */
    public Money ahead(long jobId) {
      return lines.stream()
          .filter(less -> less.line().jobId() == jobId && less.line().category() == null)
          .map(Less::net)
          .collect(Money.sum());
    }

    /** What is billed ahead of the job's work again. */
    public Money given(long jobId) {
      return given.stream().filter(off -> off.jobId() == jobId).map(Off::left).collect(Money.sum());
    }
  }

  public Creditable {
    lines = List.copyOf(lines);
    deductions = List.copyOf(deductions);
    groups = List.copyOf(groups);
  }

  /** All that is left of some lines. */
  public List<Less> whole(List<Line> of) {
    return of.stream()
        .filter(line -> !line.left().isZero())
        .map(line -> new Less(line, line.left()))
        .toList();
  }

  /**
   * What is still asked for of some lines: all that is left of them, but where some of a VAT group
   * was billed before, only so much less, spread over its lines.
   */
  public List<Less> price(List<Line> of) {
    var less = new ArrayList<Less>();
    for (Group group : groups) {
      List<Line> inGroup =
          of.stream()
              .filter(line -> line.vat().equals(group.group()))
              .filter(line -> !line.left().isZero())
              .toList();
      Money left = inGroup.stream().map(Line::left).collect(Money.sum());
      if (left.compareTo(group.net()) <= 0) {
        less.addAll(whole(inGroup));
      } else if (group.net().isPositive()) {
        List<Money> shares = group.net().spreadOver(inGroup.stream().map(Line::left).toList());
        for (int i = 0; i < inGroup.size(); i++) {
          if (!shares.get(i).isZero()) {
            less.add(new Less(inGroup.get(i), shares.get(i)));
          }
        }
      }
    }
    return less;
  }

  /**
   * The credit of these lines, with its VAT: computed on each group's net, but what completes a
   * group takes what is left of its tax. Refused when more would be credited than is left.
   *
   * @param given deductions that go back together with the work
   */
  public Credit credit(List<Less> asked, List<Off> given) {
    var faults = new ArrayList<Fault>();
    for (int i = 0; i < asked.size(); i++) {
      if (!asked.get(i).isLeft()) {
        faults.add(
            new Fault(
                "lines/%d/amount".formatted(i),
                Rule.EXCEEDS_LIMIT,
                "Only %s of this line is left to credit. Enter that or less."
                    .formatted(asked.get(i).line().left())));
      }
    }
    if (!faults.isEmpty()) {
      throw new Refused(faults);
    }
    var netByGroup = new TreeMap<VatGroup, Money>();
    asked.forEach(less -> netByGroup.merge(less.line().vat(), less.net(), Money::plus));
    given.forEach(off -> netByGroup.merge(off.vat(), off.left().negated(), Money::plus));
    Map<VatGroup, Group> left =
        groups.stream().collect(Collectors.toMap(Group::group, group -> group));
    List<VatBreakdown.Taxed> vat =
        netByGroup.entrySet().stream()
            .filter(each -> !each.getValue().isZero())
            .map(each -> taken(Objects.requireNonNull(left.get(each.getKey())), each.getValue()))
            .toList();
    return new Credit(asked, given, vat);
  }

  private static VatBreakdown.Taxed taken(Group left, Money net) {
    if (net.compareTo(left.net()) > 0) {
      throw new Refused(
          Rule.EXCEEDS_LIMIT,
          "Only %s is left of this invoice to credit at %s %% VAT, for the rest was billed before. Credit less, or take the work back and credit the earlier invoice."
              .formatted(left.net(), left.group().percent().toPlainString()));
    }
    Money computed = VatBreakdown.vatOn(left.group(), net);
    boolean completes = net.equals(left.net());
    return new VatBreakdown.Taxed(
        left.group(), net, completes || computed.compareTo(left.vat()) > 0 ? left.vat() : computed);
  }
}
