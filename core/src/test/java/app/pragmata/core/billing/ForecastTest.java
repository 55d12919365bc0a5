package app.pragmata.core.billing;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.company.InForce;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Wording;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.company.WorkingHours;
import app.pragmata.core.costing.AnyJob;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Variances;
import app.pragmata.core.costing.WorkAhead;
import app.pragmata.core.costing.WorkAhead.PromisedWork;
import app.pragmata.core.costing.WorkAhead.Visit;
import app.pragmata.core.costing.WorkAhead.Worker;
import app.pragmata.core.costing.WorkedExample;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.OtherCost;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.domains.Domain;
import org.junit.jupiter.api.Test;

/** By hand, from the swing gate's ram: promised 2:30 of labour, a drive, a ram and photocells. */
class ForecastTest {
  private static final LocalDate DAY = WorkedExample.DAY;
  private static final BillingBasis FIXED = new BillingBasis.FixedPrice();
  private static final BillingBasis WORKED = new BillingBasis.TimeAndParts();
  private static final Money PROMISED = Money.of("612.00");
  private static final WorkingCalendar CALENDAR =
      new WorkingCalendar(
          ZoneId.of("Europe/London"),
          new InForce<>(
              "working hours",
              List.of(
                  new WorkingHours(
                      DAY.minusYears(1),
                      EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
                      LocalTime.of(7, 0),
                      LocalTime.of(17, 0),
                      LocalTime.of(22, 0),
                      LocalTime.of(6, 0),
                      RateClass.OVERTIME))),
          Set.of());

  private static JobFacts notBegun() {
    return new JobFacts(WorkedExample.job().promise(), List.of(), List.of());
  }

  private static List<PromisedWork> work(JobFacts job) {
    return job.promise().stream()
        .filter(QuoteLine.Labour.class::isInstance)
        .map(line -> new PromisedWork(((QuoteLine.Labour) line).minutes(), 0, false))
        .toList();
  }

  private static WorkAhead ahead(JobFacts job, List<PromisedWork> work, Visit... visits) {
    return WorkAhead.of(
        job, List.of(visits), work, List.of(), WorkedExample.terms(), CALENDAR, DAY);
  }

  private static Forecast forecast(
      JobFacts job, WorkAhead ahead, BillingBasis basis, PromiseKind promise) {
    return Forecast.of(
        new Forecast.Charged(
            job, job, basis, Cover.NONE, Optional.of(new Promised(promise, PROMISED)), Money.ZERO),
        ahead,
        WorkedExample.terms(),
        Wording.of(Locale.UK),
        DAY);
  }

  private static Visit visit(long id, LocalTime start, Worker... workers) {
    return new Visit(id, DAY.plusDays(1), start, List.of(workers));
  }

  private static final Worker TECHNICIAN = new Worker(WorkedExample.TECHNICIAN, 0, 60);

  @Test
  void a_job_that_is_not_begun_comes_to_what_it_was_quoted_at() {
    Forecast forecast =
        forecast(notBegun(), ahead(notBegun(), work(notBegun())), FIXED, PromiseKind.FIXED_PRICE);
    assertThat(forecast.sheet().actualCost()).isEqualTo(Money.of("304.67"));
    assertThat(forecast.net()).isEqualTo(PROMISED);
    assertThat(forecast.margin().percent()).isEqualByComparingTo("50.22");
  }

  private static OtherCost awaited(String cost) {
    return new OtherCost(0, DAY, "Crane", Money.of(cost), WorkedExample.STANDARD);
  }

  @Test
  void a_bill_that_is_awaited_is_to_come_instead_of_what_was_promised_of_such() {
    QuoteLine.Other promised =
        new QuoteLine.Other(
            "Crane", BigDecimal.ONE, Money.of("80.00"), UnitPrice.of("92"), WorkedExample.STANDARD);
    var job = new JobFacts(List.of(promised), List.of(), List.of());
    for (String expected : List.of("50.00", "120.00")) {
      WorkAhead ahead =
          WorkAhead.of(
              job,
              List.of(),
              List.of(),
              List.of(awaited(expected)),
              WorkedExample.terms(),
              CALENDAR,
              DAY);
      assertThat(ahead.items().getFirst().kind()).isEqualTo(WorkAhead.Kind.AWAITED);
      assertThat(ahead.items().stream().map(WorkAhead.Item::cost).collect(Money.sum()))
          .isEqualTo(Money.of(expected.equals("50.00") ? "80.00" : "120.00"));
    }
  }

  @Test
  void when_the_work_is_done_only_bills_are_to_come() {
    WorkAhead ahead = WorkAhead.ofBills(List.of(awaited("75.00")), DAY);
    Forecast forecast = forecast(WorkedExample.job(), ahead, FIXED, PromiseKind.FIXED_PRICE);
    assertThat(forecast.sheet().actualCost()).isEqualTo(Money.of("428.36"));
  }

  @Test
  void whoever_is_planned_is_reckoned_at_their_own_wage() {
    WorkAhead ahead =
        ahead(
            notBegun(),
            work(notBegun()),
            visit(9, LocalTime.of(9, 0), new Worker(1L, 0, 180), new Worker(2L, 30, 150)));
    // 3:00 at 24.108 and 2:30 at 12.21 x 1.138.
    assertThat(ahead.addedTo(notBegun()).visits().getFirst().times().stream().limit(2))
        .extracting(entry -> entry.approved().total())
        .containsExactly(Money.of("72.32"), Money.of("34.74"));
  }

  @Test
  void planned_work_past_the_working_hours_is_reckoned_as_overtime() {
    WorkAhead ahead =
        ahead(notBegun(), List.of(), visit(9, LocalTime.of(16, 30), new Worker(1L, 0, 90)));
    // 30 minutes at 24.108 and 60 at half as much again.
    assertThat(ahead.items().stream().limit(2))
        .extracting(WorkAhead.Item::cost)
        .containsExactly(Money.of("12.05"), Money.of("36.16"));
  }

  @Test
  void a_further_visit_after_all_that_was_promised_drives_as_the_one_before() {
    JobFacts job = WorkedExample.job();
    WorkAhead ahead = ahead(job, work(job), visit(9, LocalTime.of(9, 0), TECHNICIAN));
    Forecast forecast = forecast(job, ahead, FIXED, PromiseKind.FIXED_PRICE);
    // 353.36 so far, an hour at 24.108, 40 minutes and 18.4 miles of drive.
    assertThat(forecast.sheet().actualCost()).isEqualTo(Money.of("400.53"));
    assertThat(forecast.margin().amount()).isEqualTo(Money.of("211.47"));
    assertThat(forecast.margin().percent()).isEqualByComparingTo("34.55");
  }

  @Test
  void an_estimate_charges_what_is_to_come_by_time_and_parts() {
    JobFacts job = WorkedExample.job();
    WorkAhead ahead = ahead(job, work(job), visit(9, LocalTime.of(9, 0), TECHNICIAN));
    // 642.15 so far, another hour at 58.00 and another call-out.
    assertThat(forecast(job, ahead, WORKED, PromiseKind.ESTIMATE).net())
        .isEqualTo(Money.of("745.15"));
  }

  @Test
  void not_more_than_is_charged_however_much_is_to_come() {
    JobFacts job = WorkedExample.job();
    WorkAhead ahead = ahead(job, work(job), visit(9, LocalTime.of(9, 0), TECHNICIAN));
    assertThat(forecast(job, ahead, WORKED, PromiseKind.NOT_MORE_THAN).net()).isEqualTo(PROMISED);
  }

  @Test
  void what_was_worked_on_a_planned_visit_is_to_come_no_more() {
    JobFacts job = WorkedExample.job();
    // 3:20 were worked on visit 1, of which 4:00 are planned.
    WorkAhead ahead = ahead(job, work(job), visit(1, LocalTime.of(9, 0), new Worker(1L, 0, 240)));
    assertThat(ahead.labourMinutes()).isEqualTo(40);
  }

  @Test
  void a_line_that_took_longer_than_promised_leaves_the_others_as_long_as_they_were() {
    JobFacts job = WorkedExample.job();
    // 3:20 on the first line, which is done; nothing yet on the second.
    var work = List.of(new PromisedWork(90, 200, true), new PromisedWork(60, 0, false));
    assertThat(ahead(job, work).labourMinutes()).isEqualTo(60);
  }

  @Test
  void work_that_was_clocked_on_no_line_counts_for_the_lines_that_are_done_first() {
    JobFacts example = WorkedExample.job();
    QuoteLine wall =
        new QuoteLine.Labour(
            "Chase the wall",
            90,
            RateClass.NORMAL,
            new BigDecimal("24.108"),
            UnitPrice.of("58.00"),
            WorkedExample.STANDARD);
    var job =
        new JobFacts(
            Stream.concat(example.promise().stream(), Stream.of(wall)).toList(),
            example.visits(),
            List.of());
    var work = List.of(new PromisedWork(150, 0, true), new PromisedWork(90, 0, false));
    // Of 3:20 in all, 50 minutes are of the second line.
    assertThat(ahead(job, work).labourMinutes()).isEqualTo(40);
  }

  @Test
  void below_the_floor_it_says_what_costs_more_the_dearest_first() {
    JobFacts job = WorkedExample.job();
    WorkAhead ahead = ahead(job, work(job), visit(9, LocalTime.of(9, 0), new Worker(1L, 0, 300)));
    Forecast forecast = forecast(job, ahead, FIXED, PromiseKind.FIXED_PRICE);
    assertThat(forecast.reasons(new BigDecimal("30")))
        .containsExactly(
            "labour costs 149.67 more, 5:50 longer than quoted",
            "drive costs 28.37 more than quoted",
            "parts costs 14.25 more than quoted");
  }

  @Test
  void at_the_floor_nothing_is_said() {
    JobFacts job = WorkedExample.job();
    WorkAhead ahead = ahead(job, work(job), visit(9, LocalTime.of(9, 0), TECHNICIAN));
    Forecast forecast = forecast(job, ahead, FIXED, PromiseKind.FIXED_PRICE);
    assertThat(forecast.isBelow(new BigDecimal("34.55"))).isFalse();
    assertThat(forecast.reasons(new BigDecimal("34.55"))).isEmpty();
    assertThat(forecast.isBelow(new BigDecimal("34.56"))).isTrue();
  }

  @Test
  void what_is_not_charged_is_below_no_floor() {
    JobFacts job = WorkedExample.job();
    Forecast forecast =
        forecast(
            job,
            ahead(job, work(job)),
            new BillingBasis.NotCharged("Goodwill"),
            PromiseKind.ESTIMATE);
    assertThat(forecast.isBelow(new BigDecimal("99"))).isFalse();
  }

  @Property
  @Domain(AnyJob.class)
  void what_is_not_begun_comes_to_its_quote_in_every_category(@ForAll JobFacts any) {
    var job = new JobFacts(any.promise(), List.of(), List.of());
    CostSheet sheet = WorkedExample.costing().cost(ahead(job, work(job)).addedTo(job));
    for (Category category : Category.values()) {
      assertThat(sheet.rung(category).variance()).as(category.code()).isEqualTo(Money.ZERO);
    }
  }

  @Property
  @Domain(AnyJob.class)
  void nothing_that_was_spent_is_forgotten(@ForAll JobFacts job) {
    CostSheet so = WorkedExample.costing().cost(job);
    WorkAhead ahead = ahead(job, work(job), visit(99, LocalTime.of(15, 0), TECHNICIAN));
    CostSheet end = WorkedExample.costing().cost(ahead.addedTo(job));
    assertThat(end.actualCost())
        .isEqualTo(
            so.actualCost()
                .plus(ahead.items().stream().map(WorkAhead.Item::cost).collect(Money.sum())));
    assertThat(end.actual().labourMinutes())
        .isEqualTo(so.actual().labourMinutes() + ahead.labourMinutes());
  }

  @Property
  @Domain(AnyJob.class)
  void the_variances_of_a_forecast_add_up_to_the_difference_of_its_margins(@ForAll JobFacts job) {
    WorkAhead ahead = ahead(job, work(job), visit(99, LocalTime.of(15, 0), TECHNICIAN));
    Forecast forecast = forecast(job, ahead, WORKED, PromiseKind.ESTIMATE);
    Variances variances = WorkedExample.costing().variances(ahead.addedTo(job), forecast.sheet());
    Money all =
        variances
            .labour()
            .hours()
            .plus(variances.labour().rate())
            .plus(variances.drive().minutes())
            .plus(variances.drive().miles())
            .plus(variances.drive().rate())
            .plus(variances.parts().quantity())
            .plus(variances.parts().price())
            .plus(variances.other());
    assertThat(forecast.margin().amount().minus(forecast.sheet().quotedMargin().amount()))
        .isEqualTo(forecast.net().minus(forecast.sheet().quotedNet()).minus(all));
  }

  @Property
  @Domain(AnyJob.class)
  void a_promise_of_labour_is_never_to_come_twice(@ForAll JobFacts job) {
    WorkAhead ahead = ahead(job, work(job), visit(99, LocalTime.of(15, 0), TECHNICIAN));
    int promised = work(job).stream().mapToInt(PromisedWork::minutes).sum();
    assertThat(ahead.labourMinutes()).isLessThanOrEqualTo(Math.max(60, promised));
    assertThat(ahead.items()).allSatisfy(item -> assertThat(item.cost().isNegative()).isFalse());
    assertThat(ahead.items())
        .filteredOn(item -> item instanceof WorkAhead.Item.Time)
        .extracting(item -> ((WorkAhead.Item.Time) item).entry().kind())
        .isSubsetOf(TimeEntry.Kind.LABOUR, TimeEntry.Kind.DRIVE);
  }
}
