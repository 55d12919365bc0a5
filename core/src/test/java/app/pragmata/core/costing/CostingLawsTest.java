package app.pragmata.core.costing;

import static app.pragmata.core.costing.WorkedExample.costing;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.money.Money;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.domains.Domain;

/** What holds for the cost ladder of every job. */
@Domain(AnyJob.class)
class CostingLawsTest {
  @Property
  void the_rungs_add_up_to_the_cost(@ForAll JobFacts job) {
    CostSheet sheet = costing().cost(job);
    assertThat(
            Arrays.stream(Category.values())
                .map(category -> sheet.rung(category).actual())
                .collect(Money.sum()))
        .isEqualTo(sheet.actualCost());
  }

  @Property
  void a_ladder_never_loses_or_makes_a_penny_against_what_was_recorded(@ForAll JobFacts job) {
    Money times =
        job.visits().stream()
            .flatMap(visit -> Stream.concat(visit.times().stream(), visit.drivesHome().stream()))
            .map(entry -> costing().cost(entry).total())
            .collect(Money.sum());
    Money parts = job.parts().map(PartUse::cost).collect(Money.sum());
    Money others = job.otherCosts().stream().map(JobFacts.OtherCost::cost).collect(Money.sum());
    assertThat(costing().cost(job).actualCost()).isEqualTo(times.plus(parts).plus(others));
  }

  @Property
  void a_job_costs_what_its_visits_cost_one_by_one(@ForAll JobFacts job) {
    Money oneByOne =
        job.visits().stream()
            .map(visit -> new JobFacts(List.of(), List.of(visit), List.of()))
            .map(alone -> costing().cost(alone).actualCost())
            .collect(Money.sum());
    Money others = job.otherCosts().stream().map(JobFacts.OtherCost::cost).collect(Money.sum());
    assertThat(costing().cost(job).actualCost()).isEqualTo(oneByOne.plus(others));
  }

  @Property
  void a_visit_that_did_not_happen_costs_all_the_same(@ForAll JobFacts job) {
    var inVain =
        new JobFacts(
            job.promise(),
            job.visits().stream()
                .map(
                    v ->
                        new VisitFacts(
                            v.id(),
                            v.day(),
                            Charging.NOTHING,
                            v.times(),
                            v.parts(),
                            v.drivesHome()))
                .toList(),
            job.otherCosts());
    assertThat(costing().cost(inVain)).isEqualTo(costing().cost(job));
  }

  @Property
  void the_variances_of_each_category_add_up_to_it(@ForAll JobFacts job) {
    CostSheet sheet = costing().cost(job);
    Variances variances = costing().variances(job, sheet);
    assertThat(variances.labour().hours().plus(variances.labour().rate()))
        .isEqualTo(sheet.rung(Category.LABOUR).variance());
    assertThat(
            variances
                .drive()
                .minutes()
                .plus(variances.drive().miles())
                .plus(variances.drive().rate()))
        .isEqualTo(sheet.rung(Category.DRIVE).variance());
    assertThat(variances.parts().quantity().plus(variances.parts().price()))
        .isEqualTo(sheet.rung(Category.PARTS).variance());
    assertThat(variances.other()).isEqualTo(sheet.rung(Category.OTHER).variance());
  }

  @Property
  void what_over_and_under_come_to_is_the_difference_of_the_margins(@ForAll JobFacts job) {
    CostSheet sheet = costing().cost(job);
    Money variances =
        Arrays.stream(Category.values())
            .map(category -> sheet.rung(category).variance())
            .collect(Money.sum());
    assertThat(sheet.quotedMargin().amount().minus(sheet.marginOn(sheet.quotedNet()).amount()))
        .isEqualTo(variances);
  }

  @Property
  void the_quantities_behind_the_money_are_those_of_the_entries(@ForAll JobFacts job) {
    CostSheet sheet = costing().cost(job);
    int labour = job.times(Kind.LABOUR).mapToInt(entry -> entry.minutes()).sum();
    int drive = job.times(Kind.DRIVE).mapToInt(entry -> entry.minutes()).sum();
    assertThat(sheet.actual().labourMinutes()).isEqualTo(labour);
    assertThat(sheet.actual().driveMinutes()).isEqualTo(drive);
  }
}
