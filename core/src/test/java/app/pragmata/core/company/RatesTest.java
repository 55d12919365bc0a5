package app.pragmata.core.company;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.assertj.core.api.ThrowableAssert.ThrowingCallable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RatesTest {
  private static final long IMRE = 7;
  private static final LocalDate JANUARY = LocalDate.of(2026, 1, 1);
  private static final LocalDate RISE = LocalDate.of(2026, 10, 1);
  private static final LocalDate NOVEMBER = LocalDate.of(2026, 11, 23);

  private final Rates rates =
      new Rates(
          Map.of(
              IMRE,
              new InForce<>(
                  "wage", List.of(wage(JANUARY, "19.00", "0.23"), wage(RISE, "19.60", "0.23")))),
          Map.of(
              RateClass.NORMAL,
              new InForce<>(
                  "normal rate", List.of(terms(JANUARY, "1", "56.00"), terms(RISE, "1", "58.00"))),
              RateClass.OVERTIME,
              new InForce<>("overtime rate", List.of(terms(JANUARY, "1.5", "87.00")))),
          new InForce<>(
              "vehicle cost",
              List.of(
                  new Rates.VehicleCost(JANUARY, new BigDecimal("0.36")),
                  new Rates.VehicleCost(RISE, new BigDecimal("0.38")))));

  @Test
  void the_cost_rate_is_the_wage_with_its_on_costs_unrounded() {
    assertThat(rates.costPerHour(IMRE, RateClass.NORMAL, NOVEMBER)).isEqualByComparingTo("24.108");
  }

  @Test
  void the_class_factor_multiplies_the_whole_cost_rate() {
    assertThat(rates.costPerHour(IMRE, RateClass.OVERTIME, NOVEMBER))
        .isEqualByComparingTo("36.162");
  }

  @ParameterizedTest
  @CsvSource({"2026-09-30,23.37", "2026-10-01,24.108", "2026-11-23,24.108", "2026-01-01,23.37"})
  void the_wage_in_force_on_the_day_worked_counts(LocalDate day, BigDecimal costPerHour) {
    assertThat(rates.costPerHour(IMRE, RateClass.NORMAL, day)).isEqualByComparingTo(costPerHour);
  }

  @ParameterizedTest
  @CsvSource({"2026-09-30,56.00", "2026-10-01,58.00"})
  void the_charge_rate_changes_on_its_day(LocalDate day, String perHour) {
    assertThat(rates.chargePerHour(RateClass.NORMAL, day)).isEqualTo(UnitPrice.of(perHour));
  }

  @ParameterizedTest
  @CsvSource({"2026-09-30,0.36", "2026-10-01,0.38"})
  void a_mile_costs_what_it_cost_on_its_day(LocalDate day, BigDecimal perMile) {
    assertThat(rates.costPerMile(day)).isEqualByComparingTo(perMile);
  }

  @Test
  void a_day_before_the_first_wage_is_refused_and_named() {
    refuses(() -> rates.costPerHour(IMRE, RateClass.NORMAL, JANUARY.minusDays(1)), "2025-12-31");
  }

  @Test
  void a_person_without_a_wage_is_refused_and_never_costs_nothing() {
    refuses(() -> rates.costPerHour(99, RateClass.NORMAL, NOVEMBER), "wage");
  }

  @Test
  void a_class_without_terms_is_refused_by_its_name() {
    refuses(() -> rates.chargePerHour(RateClass.NIGHT, NOVEMBER), "night");
  }

  @Test
  void terms_may_be_given_in_any_order() {
    var shuffled =
        new InForce<>("wage", List.of(wage(RISE, "19.60", "0.23"), wage(JANUARY, "19.00", "0.23")));
    assertThat(shuffled.on(RISE.minusDays(1)).wagePerHour()).isEqualByComparingTo("19.00");
  }

  private static Rates.Wage wage(LocalDate from, String perHour, String onCosts) {
    return new Rates.Wage(from, new BigDecimal(perHour), new BigDecimal(onCosts));
  }

  private static Rates.ClassTerms terms(LocalDate from, String factor, String charge) {
    return new Rates.ClassTerms(from, new BigDecimal(factor), UnitPrice.of(charge));
  }

  private static void refuses(ThrowingCallable act, String naming) {
    assertThatThrownBy(act)
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(Rule.NOTHING_IN_FORCE))
        .hasMessageContaining(naming);
  }
}
