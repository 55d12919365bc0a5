package app.pragmata.core.quoting;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.VatRate;
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
  private static final VatRate REDUCED = new VatRate("reduced", "S", new BigDecimal("5"));

  @Provide
  Arbitrary<Offer> offers() {
    Arbitrary<OfferLine> lines =
        Combinators.combine(
                Arbitraries.longs().between(0, 500_000),
                Arbitraries.integers().between(0, 100),
                Arbitraries.integers().between(0, 2),
                Arbitraries.of(STANDARD, REDUCED))
            .as(OfferLawsTest::line);
    return Combinators.combine(lines.list().ofMinSize(1).ofMaxSize(25), shares(), shares())
        .as((all, discount, deposit) -> new Offer(all, discount, deposit, List.of()));
  }

  private static OfferLine line(long price, int discount, int choice, VatRate rate) {
    return new OfferLine.Priced(
        new QuoteLine.Other("Post", BigDecimal.ONE, Money.of("1.00"), Money.ofMinor(price), rate),
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
}
