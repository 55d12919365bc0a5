package app.pragmata.core.quoting;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Fault;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class OfferTest {
  private static final TypedMoney TYPED = TypedMoney.of("GBP", Locale.UK);

  private static final VatTreatment REDUCED = VatTreatment.rated("reduced", "5");
  private static final AmountOrShare NOTHING = AmountOrShare.nothing();

  private static QuoteLine line(String name, String price, VatTreatment rate) {
    return new QuoteLine.Other(name, BigDecimal.ONE, Money.of("1.00"), UnitPrice.of(price), rate);
  }

  private static OfferLine included(String name, String price) {
    return included(name, price, "");
  }

  private static OfferLine included(String name, String price, String discount) {
    return new OfferLine.Priced(
        line(name, price, STANDARD), TYPED.amountOrShare(discount), new Choice.Included());
  }

  private static OfferLine option(String name, String price) {
    return new OfferLine.Priced(line(name, price, STANDARD), NOTHING, new Choice.Option(false));
  }

  private static OfferLine alternative(String name, String price, boolean taken) {
    return new OfferLine.Priced(
        line(name, price, STANDARD), NOTHING, new Choice.Alternative("Motor", taken));
  }

  private static Offer offer(String discount, OfferLine... lines) {
    return new Offer(List.of(lines), TYPED.amountOrShare(discount), NOTHING, List.of());
  }

  private static Money net(Offer offer) {
    return offer.totals().vat().net();
  }

  @Test
  void a_lines_own_discount_comes_off_before_the_offers() {
    assertThat(net(offer("10%", included("Gate", "200.00", "50"), included("Post", "100.00"))))
        .isEqualTo(Money.of("225.00"));
  }

  @Test
  void an_amount_off_the_whole_is_spread_over_the_vat_treatments_in_proportion() {
    Offer offer =
        new Offer(
            List.of(
                included("Gate", "300.00"),
                new OfferLine.Priced(
                    line("Ramp", "100.00", REDUCED), NOTHING, new Choice.Included())),
            TYPED.amountOrShare("40"),
            NOTHING,
            List.of());
    assertThat(offer.totals().vat().groups())
        .extracting(rate -> rate.net().toString())
        .containsExactly("270.00", "90.00");
    assertThat(offer.totals().vat().vat()).isEqualTo(Money.of("58.50"));
  }

  @Test
  void an_option_counts_only_once_it_is_chosen() {
    Offer offer = offer("", included("Gate", "200.00"), option("Lamp", "60.00"));
    assertThat(net(offer)).isEqualTo(Money.of("200.00"));
    assertThat(net(offer.choose(Set.of(1)))).isEqualTo(Money.of("260.00"));
  }

  @Test
  void an_alternative_takes_the_place_of_the_other() {
    Offer offer =
        offer("", alternative("Chain", "90.00", true), alternative("Belt", "140.00", false));
    assertThat(net(offer.choose(Set.of(1)))).isEqualTo(Money.of("140.00"));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {"0,1|Only one of “Motor” can be chosen.", "|Choose one of “Motor”."})
  void of_options_that_exclude_each_other_exactly_one_is_chosen(String taken, String message) {
    Offer offer =
        offer("", alternative("Chain", "90.00", true), alternative("Belt", "140.00", false));
    Set<Integer> chosen = taken == null ? Set.of() : Set.of(0, 1);
    assertThatThrownBy(() -> offer.choose(chosen)).isInstanceOf(Refused.class).hasMessage(message);
  }

  @Test
  void what_is_included_anyway_is_not_there_to_be_chosen() {
    assertThatThrownBy(() -> offer("", included("Gate", "200.00")).choose(Set.of(0)))
        .isInstanceOf(Refused.class);
  }

  @Test
  void a_share_off_the_whole_also_lowers_what_is_not_chosen_yet() {
    Offer offer = offer("10%", included("Gate", "200.00"), option("Lamp", "60.00"));
    assertThat(offer.shown().get(1).net()).isEqualTo(Money.of("54.00"));
  }

  @ParameterizedTest
  @ValueSource(strings = {"101%", "100.5 %", "ten per cent", "-5", "5%%", "%"})
  void a_discount_that_is_no_discount_is_not_read(String typed) {
    assertThatThrownBy(() -> TYPED.amountOrShare(typed)).isInstanceOf(Unreadable.class);
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "12.5%", "45.00", "100%"})
  void an_amount_or_share_reads_back_as_it_was_written(String text) {
    assertThat(TYPED.amountOrShare(text).text()).isEqualTo(text);
  }

  @Test
  void a_discount_larger_than_the_lines_is_a_fault() {
    assertThat(offer("201", included("Gate", "200.00")).faults())
        .extracting(Fault::field)
        .containsExactly("discount");
  }

  @Test
  void a_deposit_is_a_share_of_the_total_with_vat() {
    Offer offer =
        new Offer(
            List.of(included("Gate", "200.00")), NOTHING, TYPED.amountOrShare("25%"), List.of());
    assertThat(offer.depositDue()).isEqualTo(Money.of("60.00"));
  }

  @Test
  void a_deposit_larger_than_the_total_is_a_fault() {
    Offer offer =
        new Offer(
            List.of(included("Gate", "200.00")), NOTHING, TYPED.amountOrShare("240.01"), List.of());
    assertThat(offer.faults()).extracting(Fault::field).containsExactly("deposit");
  }

  @Test
  void a_deposit_in_money_is_never_more_than_what_the_chosen_lines_come_to() {
    Offer offer =
        new Offer(
            List.of(included("Gate", "50.00"), option("Lamp", "30.00")),
            NOTHING,
            TYPED.amountOrShare("90.00"),
            List.of());
    assertThat(offer.choose(Set.of()).depositDue()).isEqualTo(Money.of("60.00"));
    assertThat(offer.choose(Set.of(1)).depositDue()).isEqualTo(Money.of("90.00"));
  }

  private static OfferLine taken(String name, String price) {
    return new OfferLine.Priced(line(name, price, STANDARD), NOTHING, new Choice.Option(true));
  }

  @Test
  void a_discount_that_leaves_nothing_once_an_option_is_left_out_keeps_the_offer_from_being_sent() {
    assertThat(offer("60", included("Gate", "50.00"), taken("Lamp", "30.00")).faults())
        .extracting(Fault::field, Fault::rule)
        .containsExactly(org.assertj.core.groups.Tuple.tuple("discount", Rule.EXCEEDS_LIMIT));
  }

  @Test
  void a_discount_smaller_than_what_the_customer_cannot_leave_out_keeps_nothing_back() {
    assertThat(offer("49.99", included("Gate", "50.00"), taken("Lamp", "30.00")).faults())
        .isEmpty();
  }

  @Test
  void a_discount_as_large_as_the_cheapest_alternative_or_the_cheapest_option_is_a_fault() {
    assertThat(
            offer("90", alternative("Chain", "90.00", false), alternative("Belt", "140.00", true))
                .faults())
        .hasSize(1);
    assertThat(offer("30", taken("Lamp", "30.00"), taken("Bell", "80.00")).faults()).hasSize(1);
  }

  @ParameterizedTest
  @CsvSource({"100%,''", "'',100%"})
  void discounts_of_everything_are_a_fault(String onAll, String onTheLine) {
    assertThat(offer(onAll, included("Gate", "50.00", onTheLine)).faults())
        .extracting(Fault::field)
        .containsExactly("discount");
  }

  @Test
  void what_has_no_price_at_all_may_be_offered() {
    assertThat(offer("10%", included("Look at it", "0.00")).faults()).isEmpty();
  }

  @Test
  void prices_shown_with_vat_add_up_to_the_total() {
    Offer offer =
        offer(
            "",
            included("Screw", "0.21"),
            included("Nut", "0.21"),
            included("Washer", "0.21"),
            included("Bolt", "0.21"),
            included("Clip", "0.17"));
    assertThat(offer.totals().vat().gross()).isEqualTo(Money.of("1.21"));
    assertThat(offer.shownGross().stream().collect(Money.sum())).isEqualTo(Money.of("1.21"));
  }

  @Test
  void what_is_not_chosen_is_shown_with_its_own_vat() {
    assertThat(offer("", included("Gate", "50.00"), option("Lamp", "30.00")).shownGross())
        .containsExactly(Money.of("60.00"), Money.of("36.00"));
  }

  private static Offer staged(String... parts) {
    var stages = new ArrayList<Stage>();
    for (String part : parts) {
      stages.add(new Stage("Stage " + stages.size(), TYPED.amountOrShare(part)));
    }
    return new Offer(
        List.of(included("Gate", "200.00"), option("Lamp", "50.00")), NOTHING, NOTHING, stages);
  }

  @Test
  void stages_in_shares_add_up_to_the_net_total_to_the_penny() {
    Offer offer =
        new Offer(
            List.of(included("Gate", "100.00")),
            NOTHING,
            NOTHING,
            List.of(
                new Stage("a", TYPED.amountOrShare("33.33%")),
                new Stage("b", TYPED.amountOrShare("33.33%")),
                new Stage("c", TYPED.amountOrShare("33.34%"))));
    assertThat(offer.stageAmounts())
        .extracting(Money::toString)
        .containsExactly("33.33", "33.33", "33.34");
  }

  @Test
  void what_falls_due_at_each_stage_with_vat_adds_up_to_the_gross_total_to_the_penny() {
    Offer offer = staged("33.33%", "33.33%", "33.34%");
    assertThat(offer.totals().vat().gross()).isEqualTo(Money.of("240.00"));
    assertThat(offer.stageGross().stream().collect(Money.sum())).isEqualTo(Money.of("240.00"));
    assertThat(offer.stageGross().getFirst()).isEqualTo(Money.of("79.99"));
  }

  @Test
  void an_offer_without_stages_has_no_amounts_of_them() {
    assertThat(staged().stageAmounts()).isEmpty();
    assertThat(staged().stageGross()).isEmpty();
  }

  @Test
  void what_an_option_adds_to_stages_in_amounts_falls_to_the_last() {
    assertThat(staged("150", "50").choose(Set.of(1)).stageAmounts())
        .extracting(Money::toString)
        .containsExactly("150.00", "100.00");
  }

  @ParameterizedTest
  @CsvSource({"50%, 40%", "100, 90", "50%, 100"})
  void stages_that_do_not_add_up_are_a_fault(String first, String second) {
    assertThat(staged(first, second).faults()).extracting(Fault::field).containsExactly("stages");
  }

  @Property
  void a_spread_amount_adds_up_to_itself_and_no_part_exceeds_its_weight(
      @ForAll @Size(min = 1, max = 40) List<@LongRange(min = 0, max = 1_000_000) Long> weights,
      @ForAll @IntRange(max = 100) int percent) {
    List<Money> whole = weights.stream().map(Money::ofMinor).toList();
    Money total = whole.stream().collect(Money.sum());
    Money off = Money.ofMinor(total.minor() * percent / 100);
    List<Money> parts = off.spreadOver(whole);
    assertThat(parts.stream().collect(Money.sum())).isEqualTo(off);
    for (int i = 0; i < parts.size(); i++) {
      assertThat(parts.get(i).minor()).isBetween(0L, whole.get(i).minor());
    }
  }
}
