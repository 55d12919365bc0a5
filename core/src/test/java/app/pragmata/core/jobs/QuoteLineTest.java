package app.pragmata.core.jobs;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.quoting.QuoteTotals;
import java.math.BigDecimal;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.IntRange;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Scale;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class QuoteLineTest {
  private static final BigDecimal COST_PER_HOUR = new BigDecimal("24.108");

  @Test
  void labour_costs_the_cost_rate_and_is_charged_the_charge_rate() {
    QuoteLine line = labour(155);
    assertThat(line.cost()).isEqualTo(Money.of("62.28"));
    assertThat(line.net()).isEqualTo(Money.of("149.83"));
  }

  @Test
  void a_drive_costs_its_minutes_and_its_miles_whatever_is_charged_for_it() {
    assertThat(drive(new DriveCharge.PerCallOut(UnitPrice.of("45.00"))).cost())
        .isEqualTo(Money.of("23.06"));
    assertThat(drive(new DriveCharge.None()).cost()).isEqualTo(Money.of("23.06"));
  }

  @Test
  void a_call_out_has_one_price() {
    assertThat(drive(new DriveCharge.PerCallOut(UnitPrice.of("45.00"))).net())
        .isEqualTo(Money.of("45.00"));
  }

  @Test
  void a_drive_by_the_mile_is_its_distance_at_the_rate_rounded_once() {
    QuoteLine line = drive(new DriveCharge.PerMile(UnitPrice.of("0.65")));
    assertThat(line.unitPrice()).isEqualTo(UnitPrice.of("0.65"));
    assertThat(line.net()).isEqualTo(Money.of("11.96"));
  }

  @Test
  void a_drive_by_the_hour_is_its_minutes_at_the_rate_rounded_once() {
    assertThat(drive(new DriveCharge.PerHour(UnitPrice.of("31.00"))).net())
        .isEqualTo(Money.of("20.67"));
  }

  @Property
  void the_rule_of_a_drive_is_the_same_after_it_was_stored(
      @ForAll @LongRange(min = 1, max = 90_000) long rate) {
    for (DriveCharge charge :
        List.of(
            new DriveCharge.PerCallOut(UnitPrice.of(Money.ofMinor(rate).toString())),
            new DriveCharge.PerHour(UnitPrice.of(Money.ofMinor(rate).toString())),
            new DriveCharge.PerMile(UnitPrice.of(Money.ofMinor(rate).toString())),
            new DriveCharge.None())) {
      assertThat(DriveCharge.of(charge.rule(), charge.rate())).isEqualTo(charge);
    }
  }

  @Test
  void a_part_is_costed_at_its_exact_average_and_rounded_once() {
    QuoteLine line =
        new QuoteLine.Part(
            1,
            "Cable",
            new BigDecimal("14"),
            new BigDecimal("1.33333333"),
            UnitPrice.of("2.10"),
            STANDARD);
    assertThat(line.cost()).isEqualTo(Money.of("18.67"));
    assertThat(line.net()).isEqualTo(Money.of("29.40"));
  }

  @Test
  void anything_else_has_a_cost_and_a_price_per_unit() {
    QuoteLine line =
        new QuoteLine.Other(
            "Skip hire", new BigDecimal("1.5"), Money.of("80.00"), UnitPrice.of("92.00"), STANDARD);
    assertThat(line.cost()).isEqualTo(Money.of("120.00"));
    assertThat(line.net()).isEqualTo(Money.of("138.00"));
  }

  @Test
  void every_kind_of_line_has_its_category() {
    assertThat(app.pragmata.core.costing.WorkedExample.job().promise())
        .extracting(QuoteLine::category)
        .containsExactly(
            Category.LABOUR, Category.DRIVE, Category.PARTS, Category.PARTS, Category.OTHER);
  }

  @Property
  void totals_neither_lose_nor_make_a_penny_against_their_lines(
      @ForAll @Size(max = 30) List<@IntRange(max = 900) Integer> minutes,
      @ForAll @Size(max = 30) List<@LongRange(max = 90_000) Long> prices,
      @ForAll @BigRange(min = "0.001", max = "50") @Scale(3) BigDecimal quantity) {
    var lines = new java.util.ArrayList<QuoteLine>();
    minutes.forEach(length -> lines.add(labour(length)));
    prices.forEach(
        price ->
            lines.add(
                new QuoteLine.Part(
                    1,
                    "Part",
                    quantity,
                    new BigDecimal("3.3"),
                    UnitPrice.of(Money.ofMinor(price).toString()),
                    STANDARD)));
    QuoteTotals totals = QuoteTotals.of(lines);
    assertThat(totals.vat().net())
        .isEqualTo(lines.stream().map(QuoteLine::net).collect(Money.sum()));
    assertThat(totals.cost()).isEqualTo(lines.stream().map(QuoteLine::cost).collect(Money.sum()));
    assertThat(totals.margin().amount()).isEqualTo(totals.vat().net().minus(totals.cost()));
  }

  private static QuoteLine drive(DriveCharge charge) {
    return new QuoteLine.Drive(
        "Drive",
        40,
        new BigDecimal("18.4"),
        COST_PER_HOUR,
        new BigDecimal("0.38"),
        charge,
        STANDARD);
  }

  private static QuoteLine labour(int minutes) {
    return new QuoteLine.Labour(
        "Work", minutes, RateClass.NORMAL, COST_PER_HOUR, UnitPrice.of("58.00"), STANDARD);
  }
}
