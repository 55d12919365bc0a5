package app.pragmata.core.quoting;

import app.pragmata.core.Fault;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.PromisedStage;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/**
 * All that is offered: lines of which the customer may choose some, what comes off the whole, the
 * deposit (of the gross total) and the stages (of the net total).
 */
public record Offer(
    List<OfferLine> lines, AmountOrShare discount, AmountOrShare deposit, List<Stage> stages) {
  private static final int SHARE_DECIMALS = 8;

  public Offer {
    lines = List.copyOf(lines);
    stages = List.copyOf(stages);
  }

  /** Lines without options, discount, deposit or stages. */
  public static Offer of(List<QuoteLine> lines) {
    return new Offer(
        lines.stream()
            .map(
                line ->
                    (OfferLine)
                        new OfferLine.Priced(line, AmountOrShare.nothing(), new Choice.Included()))
            .toList(),
        AmountOrShare.nothing(),
        AmountOrShare.nothing(),
        List.of());
  }

  /**
   * The lines that count as things stand, in their order, each with all that comes off it: the
   * offer's discount is spread over them in proportion to what their own and the warranty leave.
   */
  public List<QuoteLine> promised() {
    List<OfferLine.Priced> counted = priced().stream().filter(p -> p.choice().counts()).toList();
    List<Money> left = counted.stream().map(OfferLine.Priced::left).toList();
    Money whole = left.stream().collect(Money.sum());
    Money off = discount.of(whole);
    List<Money> spread = (off.compareTo(whole) > 0 ? whole : off).spreadOver(left);
    var promise = new ArrayList<QuoteLine>();
    for (int i = 0; i < counted.size(); i++) {
      OfferLine.Priced line = counted.get(i);
      promise.add(line.line().reducedBy(line.own().andOfWhole(spread.get(i))));
    }
    return promise;
  }

  /**
   * Every priced line in its order, as the customer reads it: those that count as promised, the
   * others with what would come off them.
   */
  public List<QuoteLine> shown() {
    var promised = new ArrayList<>(promised());
    return priced().stream()
        .map(
            priced ->
                priced.choice().counts()
                    ? promised.removeFirst()
                    : priced.line().reducedBy(offOther(priced)))
        .toList();
  }

  /**
   * Every priced line's net with its VAT, in the order of {@link #shown}: those that count are
   * spread so that they add up to the total, whose VAT is computed from the net of each group; the
   * others have their own.
   */
  public List<Money> shownGross() {
    List<QuoteLine> shown = shown();
    List<OfferLine.Priced> priced = priced();
    var gross =
        new ArrayList<>(
            shown.stream()
                .map(
                    line ->
                        line.net()
                            .plus(VatBreakdown.vatOn(line.vatTreatment().group(), line.net())))
                .toList());
    for (VatBreakdown.Taxed taxed : totals().vat().groups()) {
      List<Integer> ofGroup =
          IntStream.range(0, shown.size())
              .filter(i -> priced.get(i).choice().counts())
              .filter(i -> shown.get(i).vatTreatment().group().equals(taxed.group()))
              .boxed()
              .toList();
      List<Money> spread =
          taxed
              .net()
              .plus(taxed.vat())
              .spreadOver(ofGroup.stream().map(i -> shown.get(i).net()).toList());
      for (int i = 0; i < ofGroup.size(); i++) {
        gross.set(ofGroup.get(i), spread.get(i));
      }
    }
    return gross;
  }

  /** An amount off the whole stays on what is chosen; only a share also lowers what is not. */
  private Reductions offOther(OfferLine.Priced priced) {
    return priced
        .own()
        .andOfWhole(
            discount instanceof AmountOrShare.OfTotal share ? share.of(priced.left()) : Money.ZERO);
  }

  public QuoteTotals totals() {
    return QuoteTotals.of(promised());
  }

  /**
   * The deposit in money, of the gross total as things stand; never more than that, for what the
   * customer leaves out may bring the total below an amount that was asked for.
   */
  public Money depositDue() {
    Money gross = totals().vat().gross();
    Money asked = deposit.of(gross);
    return asked.compareTo(gross) > 0 ? gross : asked;
  }

  /**
   * What each stage comes to, without VAT. Shares are of the net total and add up to it to the
   * penny; with amounts, whatever an option adds or takes away falls to the last stage. Without
   * stages there are none.
   */
  public List<Money> stageAmounts() {
    if (stages.isEmpty()) {
      return List.of();
    }
    Money net = totals().vat().net();
    if (stages.stream().allMatch(stage -> stage.part() instanceof AmountOrShare.OfTotal)) {
      return net.spreadByShare(
          stages.stream()
              .map(Stage::part)
              .map(AmountOrShare.OfTotal.class::cast)
              .map(part -> part.share().fraction().setScale(SHARE_DECIMALS, RoundingMode.HALF_UP))
              .map(BigDecimal::unscaledValue)
              .toList());
    }
    var amounts = new ArrayList<>(stages.stream().map(stage -> stage.part().of(net)).toList());
    Money rest = net.minus(amounts.stream().collect(Money.sum()));
    amounts.set(amounts.size() - 1, amounts.getLast().plus(rest));
    return amounts;
  }

  /** The stages as they are promised once the offer is accepted. */
  public List<PromisedStage> promisedStages() {
    List<Money> amounts = stageAmounts();
    return IntStream.range(0, stages.size())
        .mapToObj(i -> new PromisedStage(i + 1, stages.get(i).name(), amounts.get(i)))
        .toList();
  }

  /** What falls due at each stage, with VAT; adds up to the gross total to the penny. */
  public List<Money> stageGross() {
    return totals().vat().gross().spreadOver(stageAmounts());
  }

  /**
   * The same offer with these lines chosen, numbered from nothing in the order of all lines.
   * Refused when a line is not there to be chosen, or when a group has not exactly one of its
   * alternatives.
   */
  public Offer choose(Set<Integer> taken) {
    var chosen = new ArrayList<OfferLine>();
    for (int i = 0; i < lines.size(); i++) {
      boolean takes = taken.contains(i);
      chosen.add(
          switch (lines.get(i)) {
            case OfferLine.Words words -> words;
            case OfferLine.Priced priced ->
                new OfferLine.Priced(
                    priced.line(), priced.discount(), priced.warranty(), choice(priced, takes));
          });
    }
    for (int index : taken) {
      if (index < 0
          || index >= lines.size()
          || !(lines.get(index) instanceof OfferLine.Priced priced)
          || priced.choice() instanceof Choice.Included) {
        throw new Refused(
            Rule.NOT_AN_OPTION,
            "One of the chosen lines is not an option of this offer. Choose again.");
      }
    }
    var offer = new Offer(chosen, discount, deposit, stages);
    List<Fault> faults = offer.alternativeFaults();
    if (!faults.isEmpty()) {
      throw new Refused(faults);
    }
    return offer;
  }

  private static Choice choice(OfferLine.Priced priced, boolean taken) {
    return switch (priced.choice()) {
      case Choice.Included included -> included;
      case Choice.Option option -> new Choice.Option(taken);
      case Choice.Alternative alternative -> new Choice.Alternative(alternative.group(), taken);
    };
  }

  /** All that keeps the offer from being sent, each at the field where it was entered. */
  public List<Fault> faults() {
    var faults = new ArrayList<>(alternativeFaults());
    discountFault().ifPresent(faults::add);
    Money gross = totals().vat().gross();
    if (deposit.of(gross).compareTo(gross) > 0) {
      faults.add(
          new Fault(
              "deposit",
              Rule.EXCEEDS_LIMIT,
              "The deposit is more than the total of %s with VAT. Enter less.".formatted(gross)));
    }
    stageFault().ifPresent(faults::add);
    return faults;
  }

  /**
   * No choice that the customer may make brings what has a price to nil or below by discounts; by
   * warranty alone it may. What is left grows with what is chosen, so the smallest choices decide.
   */
  private Optional<Fault> discountFault() {
    return smallestChoices()
        .filter(choice -> choice.undiscounted().isPositive())
        .map(Chosen::left)
        .filter(left -> discount.of(left).compareTo(left) >= 0)
        .min(Comparator.naturalOrder())
        .map(
            left ->
                new Fault(
                    "discount",
                    Rule.EXCEEDS_LIMIT,
                    left.isPositive()
                        ? "With the fewest lines chosen they come to %s, and the discount leaves nothing of it. Enter less."
                            .formatted(left)
                        : "With the fewest lines chosen the discounts leave nothing to pay. Take some off."));
  }

  /** What some lines come to after warranty, without discounts and after their own. */
  private record Chosen(Money undiscounted, Money left) {
    static final Chosen NOTHING = new Chosen(Money.ZERO, Money.ZERO);

    static Chosen of(OfferLine.Priced priced) {
      return new Chosen(priced.undiscounted(), priced.left());
    }

    Chosen plus(Chosen other) {
      return new Chosen(undiscounted.plus(other.undiscounted), left.plus(other.left));
    }
  }

  /**
   * The choice of the cheapest alternatives and no option, and each that differs from it by one
   * line: one of them is the smallest that has a price at all.
   */
  private Stream<Chosen> smallestChoices() {
    Chosen included =
        priced().stream()
            .filter(priced -> priced.choice() instanceof Choice.Included)
            .map(Chosen::of)
            .reduce(Chosen.NOTHING, Chosen::plus);
    Map<String, List<Chosen>> alternatives = new LinkedHashMap<>();
    var options = new ArrayList<Chosen>();
    for (OfferLine.Priced priced : priced()) {
      switch (priced.choice()) {
        case Choice.Included counted -> {}
        case Choice.Option option -> options.add(Chosen.of(priced));
        case Choice.Alternative alternative ->
            alternatives
                .computeIfAbsent(alternative.group(), group -> new ArrayList<>())
                .add(Chosen.of(priced));
      }
    }
    Comparator<Chosen> cheapest =
        Comparator.comparing(Chosen::left).thenComparing(Chosen::undiscounted);
    Map<String, Chosen> least = new LinkedHashMap<>();
    alternatives.forEach((group, of) -> least.put(group, of.stream().min(cheapest).orElseThrow()));
    Chosen base =
        Stream.concat(Stream.of(included), least.values().stream())
            .reduce(Chosen.NOTHING, Chosen::plus);
    Stream<Chosen> withOneOption = options.stream().map(base::plus);
    Stream<Chosen> withAnotherAlternative =
        alternatives.entrySet().stream()
            .flatMap(
                group ->
                    group.getValue().stream()
                        .map(other -> without(included, least, group.getKey()).plus(other)));
    return Stream.of(Stream.of(base), withOneOption, withAnotherAlternative)
        .flatMap(choices -> choices);
  }

  private static Chosen without(Chosen included, Map<String, Chosen> least, String group) {
    return least.entrySet().stream()
        .filter(other -> !other.getKey().equals(group))
        .map(Map.Entry::getValue)
        .reduce(included, Chosen::plus);
  }

  private Optional<Fault> stageFault() {
    if (stages.isEmpty()) {
      return Optional.empty();
    }
    boolean shares = stages.stream().allMatch(s -> s.part() instanceof AmountOrShare.OfTotal);
    boolean amounts = stages.stream().allMatch(s -> s.part() instanceof AmountOrShare.Fixed);
    if (!shares && !amounts) {
      return Optional.of(
          new Fault(
              "stages",
              Rule.STAGES_OF_TWO_KINDS,
              "Enter all stages as shares or all as amounts, so that they can be added up."));
    }
    Money whole = shares ? Money.of("100.00") : totals().vat().net();
    Money sum = stages.stream().map(stage -> stage.part().of(whole)).collect(Money.sum());
    if (sum.equals(whole)) {
      return Optional.empty();
    }
    return Optional.of(
        new Fault(
            "stages",
            Rule.STAGES_DO_NOT_ADD_UP,
            shares
                ? "The stages add up to %s %%. Make it 100 %%.".formatted(sum)
                : "The stages add up to %s, the net total is %s. Make them the same."
                    .formatted(sum, whole)));
  }

  private List<Fault> alternativeFaults() {
    Map<String, Integer> takenByGroup = new LinkedHashMap<>();
    Map<String, Integer> sizeByGroup = new LinkedHashMap<>();
    for (OfferLine.Priced priced : priced()) {
      if (priced.choice() instanceof Choice.Alternative alternative) {
        takenByGroup.merge(alternative.group(), alternative.taken() ? 1 : 0, Integer::sum);
        sizeByGroup.merge(alternative.group(), 1, Integer::sum);
      }
    }
    var faults = new ArrayList<Fault>();
    takenByGroup.forEach(
        (group, taken) -> {
          if (sizeByGroup.getOrDefault(group, 0) < 2) {
            faults.add(
                new Fault(
                    "lines",
                    Rule.LONE_ALTERNATIVE,
                    "“%s” has one alternative only. Add another or make it an option."
                        .formatted(group)));
          } else if (taken != 1) {
            faults.add(
                new Fault(
                    "lines",
                    Rule.NOT_ONE_ALTERNATIVE,
                    taken == 0
                        ? "Choose one of “%s”.".formatted(group)
                        : "Only one of “%s” can be chosen.".formatted(group)));
          }
        });
    return faults;
  }

  private List<OfferLine.Priced> priced() {
    return lines.stream()
        .filter(OfferLine.Priced.class::isInstance)
        .map(OfferLine.Priced.class::cast)
        .toList();
  }
}
