package app.pragmata.core.quoting;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;

/** What holds for every offer, however its lines, discounts and options are mixed. */
class OfferLawsTest {
  private static final VatTreatment REDUCED = VatTreatment.rated("reduced", "5");

  @Provide
  Arbitrary<Offer> offers() {
    Arbitrary<OfferLine> lines =
        Combinators.combine(
                Arbitraries.longs().between(0, 500_000),
                Arbitraries.integers().between(0, 100),
                Arbitraries.integers().between(0, 2),
                Arbitraries.of(STANDARD, REDUCED))
            .as(OfferLawsTest::line);
    Arbitrary<AmountOrShare> discounts =
        Arbitraries.oneOf(
            shares(),
            Arbitraries.longs()
                .between(0, 300_000)
                .map(minor -> new AmountOrShare.Fixed(Money.ofMinor(minor))));
    return Combinators.combine(lines.list().ofMinSize(1).ofMaxSize(25), discounts, shares())
        .as((all, discount, deposit) -> new Offer(all, discount, deposit, List.of()));
  }

  private static OfferLine line(long price, int discount, int choice, VatTreatment rate) {
    return new OfferLine.Priced(
        new QuoteLine.Other(
            "Post",
            BigDecimal.ONE,
            Money.of("1.00"),
            UnitPrice.of(Money.ofMinor(price).toString()),
            rate),
        share(discount),
        choice == 0 ? new Choice.Included() : new Choice.Option(choice == 1));
  }

  private static Arbitrary<AmountOrShare> shares() {
    return Arbitraries.integers().between(0, 100).map(OfferLawsTest::share);
  }

  private static AmountOrShare share(int percent) {
    return new AmountOrShare.OfTotal(Share.ofPercent(Integer.toString(percent)));
  }

  @Property
  void no_line_is_ever_charged_less_than_nothing_or_more_than_its_full_price(
      @ForAll("offers") Offer offer) {
    for (QuoteLine line : offer.shown()) {
      assertThat(line.net()).isBetween(Money.ZERO, line.full());
    }
  }

  @Property
  void the_total_is_what_the_lines_that_count_come_to(@ForAll("offers") Offer offer) {
    assertThat(offer.totals().vat().net())
        .isEqualTo(offer.promised().stream().map(QuoteLine::net).collect(Money.sum()));
  }

  @Property
  void a_deposit_never_exceeds_the_total(@ForAll("offers") Offer offer) {
    assertThat(offer.depositDue()).isBetween(Money.ZERO, offer.totals().vat().gross());
  }

  @Property
  void choosing_what_is_chosen_already_changes_nothing(@ForAll("offers") Offer offer) {
    var taken = new HashSet<Integer>();
    for (int i = 0; i < offer.lines().size(); i++) {
      if (offer.lines().get(i) instanceof OfferLine.Priced priced
          && priced.choice() instanceof Choice.Option option
          && option.taken()) {
        taken.add(i);
      }
    }
    assertThat(offer.choose(taken)).isEqualTo(offer);
  }

  @Property
  void choosing_one_more_option_never_makes_the_offer_cheaper(@ForAll("offers") Offer offer) {
    var none = new HashSet<Integer>();
    var all = new ArrayList<Integer>();
    for (int i = 0; i < offer.lines().size(); i++) {
      if (offer.lines().get(i) instanceof OfferLine.Priced priced
          && priced.choice() instanceof Choice.Option) {
        all.add(i);
      }
    }
    Money before = offer.choose(none).totals().vat().net();
    Money after = offer.choose(new HashSet<>(all)).totals().vat().net();
    assertThat(after).isGreaterThanOrEqualTo(before);
  }

  @Property
  void an_offer_without_faults_never_becomes_free_by_discount_whatever_is_chosen(
      @ForAll("offers") Offer offer, @ForAll long seed) {
    if (!offer.faults().isEmpty()) {
      return;
    }
    var random = new java.util.Random(seed);
    var taken = new HashSet<Integer>();
    for (int i = 0; i < offer.lines().size(); i++) {
      if (offer.lines().get(i) instanceof OfferLine.Priced priced
          && priced.choice() instanceof Choice.Option
          && random.nextBoolean()) {
        taken.add(i);
      }
    }
    Offer chosen = offer.choose(taken);
    Money full = chosen.promised().stream().map(QuoteLine::full).collect(Money.sum());
    assertThat(full.isZero() || chosen.totals().vat().net().isPositive()).isTrue();
  }

  @Property
  void prices_shown_with_vat_add_up_to_the_total(@ForAll("offers") Offer offer) {
    Money shown = Money.ZERO;
    for (int i = 0; i < offer.lines().size(); i++) {
      if (offer.lines().get(i) instanceof OfferLine.Priced priced && priced.choice().counts()) {
        shown = shown.plus(offer.shownGross().get(i));
      }
    }
    assertThat(shown).isEqualTo(offer.totals().vat().gross());
  }
}
