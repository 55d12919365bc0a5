package app.pragmata.core.costing;

import static app.pragmata.core.costing.WorkedExample.STANDARD;
import static app.pragmata.core.costing.WorkedExample.costing;
import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.util.List;
import org.junit.jupiter.api.Test;

class VariancesTest {
  private static Variances of(List<QuoteLine> promise, JobFacts.VisitFacts... visits) {
    var facts = new JobFacts(promise, List.of(visits), List.of());
    return costing().variances(facts, costing().cost(facts));
  }

  private static QuoteLine labour(int minutes, String costPerHour) {
    return new QuoteLine.Labour(
        "Look at it",
        minutes,
        RateClass.NORMAL,
        new BigDecimal(costPerHour),
        UnitPrice.of("58.00"),
        STANDARD);
  }

  private static QuoteLine drive(int minutes, String miles) {
    return new QuoteLine.Drive(
        "Call-out",
        minutes,
        new BigDecimal(miles),
        new BigDecimal("24.00"),
        new BigDecimal("0.40"),
        new DriveCharge.PerCallOut(UnitPrice.of("45.00")),
        STANDARD);
  }

  private static QuoteLine part(long id, String quantity, String cost) {
    return new QuoteLine.Part(
        id,
        "A part",
        new BigDecimal(quantity),
        new BigDecimal(cost),
        UnitPrice.of("26.90"),
        STANDARD);
  }

  private static PartUse use(long id, String quantity, String cost) {
    return new PartUse(
        id,
        id,
        "A part",
        new BigDecimal(quantity),
        Money.of(cost),
        UnitPrice.of("26.90"),
        STANDARD,
        false);
  }

  private static JobFacts.VisitFacts visit(int labour, int drive, String miles, PartUse... parts) {
    return new JobFacts.VisitFacts(
        1,
        WorkedExample.DAY,
        Charging.WHOLE,
        List.of(
            WorkedExample.entry(1, Kind.LABOUR, RateClass.NORMAL, labour, "0"),
            WorkedExample.entry(2, Kind.DRIVE, RateClass.NORMAL, drive, miles)),
        List.of(parts),
        List.of());
  }

  @Test
  void labour_splits_into_fifty_minutes_more_and_the_overtime_rate() {
    Variances example = costing().variances(job(), costing().cost(job()));
    assertThat(example.labour())
        .isEqualTo(new Variances.Labour(Money.of("20.09"), Money.of("9.04")));
  }

  @Test
  void more_hours_at_the_quoted_wage_are_no_rate_variance_however_few_were_quoted() {
    assertThat(of(List.of(labour(1, "24.108")), visit(60, 0, "0")).labour())
        .isEqualTo(new Variances.Labour(Money.of("23.71"), Money.ZERO));
  }

  @Test
  void work_without_a_quote_is_all_hours_minutes_miles_and_quantity() {
    Variances all = of(List.of(), visit(60, 30, "10", use(1, "2", "28.50")));
    assertThat(all.labour()).isEqualTo(new Variances.Labour(Money.of("24.11"), Money.ZERO));
    assertThat(all.drive())
        .isEqualTo(new Variances.Drive(Money.of("12.05"), Money.of("3.80"), Money.ZERO));
    assertThat(all.parts()).isEqualTo(new Variances.Parts(Money.of("28.50"), Money.ZERO));
  }

  @Test
  void quoted_work_that_was_never_done_is_all_under() {
    assertThat(of(List.of(labour(150, "24.108"))).labour().hours()).isEqualTo(Money.of("-60.27"));
  }

  @Test
  void the_quoted_rate_is_that_of_all_lines_by_their_minutes() {
    assertThat(
            of(List.of(labour(60, "20.00"), labour(180, "40.00")), visit(300, 0, "0"))
                .labour()
                .hours())
        .isEqualTo(Money.of("35.00"));
  }

  @Test
  void a_drive_splits_into_minutes_miles_and_rates() {
    // 30 min more at 24.00, 5 mi fewer at 0.40; the rest of 24.11 + 3.80 against 12.00 + 6.00.
    assertThat(of(List.of(drive(30, "15")), visit(0, 60, "10")).drive())
        .isEqualTo(new Variances.Drive(Money.of("12.00"), Money.of("-2.00"), Money.of("-0.09")));
  }

  @Test
  void parts_split_into_what_was_fitted_more_and_what_it_cost() {
    assertThat(
            of(
                    List.of(part(1, "1", "10.00"), part(2, "2", "5.00")),
                    visit(0, 0, "0", use(1, "3", "33.00"), use(9, "1", "4.00")))
                .parts())
        .isEqualTo(new Variances.Parts(Money.of("14.00"), Money.of("3.00")));
  }

  @Test
  void half_a_penny_of_a_variance_rounds_up() {
    assertThat(of(List.of(labour(60, "0.30")), visit(61, 0, "0")).labour().hours())
        .isEqualTo(Money.of("0.01"));
  }
}
