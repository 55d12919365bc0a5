package app.pragmata.core.books;

import static app.pragmata.core.costing.WorkedExample.billing;
import static app.pragmata.core.costing.WorkedExample.costing;
import static app.pragmata.core.costing.WorkedExample.cover;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.Category;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.costing.AnyJob;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.jobs.BillingBasis.TimeAndParts;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.domains.Domain;

/** Any job, from its first clock to its last penny, in the books. */
@Domain(AnyJob.class)
class LifeOfAJobTest {
  private static final CostObject JOB = new CostObject(7, 2_007, "repairs");
  private static final CostPlace WIP = CostPlace.WORK_IN_PROGRESS;

  @Property
  void every_entry_of_a_jobs_life_balances(@ForAll JobFacts job) {
    assertThat(life(job))
        .allSatisfy(entry -> assertThat(sum(List.of(entry))).isEqualTo(Money.ZERO));
  }

  @Property
  void before_billing_work_in_progress_is_what_the_job_cost(@ForAll JobFacts job) {
    assertThat(balance(work(job), PostingCategory.WORK_IN_PROGRESS))
        .isEqualTo(costing().cost(job).actualCost());
  }

  @Property
  void after_billing_work_in_progress_is_nil(@ForAll JobFacts job) {
    assertThat(balance(life(job), PostingCategory.WORK_IN_PROGRESS)).isEqualTo(Money.ZERO);
  }

  @Property
  void after_billing_the_customer_owes_the_gross(@ForAll JobFacts job) {
    assertThat(balance(life(job), PostingCategory.TRADE_DEBTORS))
        .isEqualTo(draft(job).vat().gross());
  }

  @Property
  void sales_less_cost_of_sales_is_the_jobs_margin(@ForAll JobFacts job) {
    Money result = Money.ZERO;
    for (Category category : Category.values()) {
      result =
          result
              .minus(balance(life(job), PostingCategory.sales(category)))
              .minus(balance(life(job), PostingCategory.costOfSales(category)));
    }
    assertThat(result).isEqualTo(costing().cost(job).marginOn(draft(job).vat().net()).amount());
  }

  @Property
  void a_job_that_is_not_charged_leaves_its_cost_in_warranty_and_goodwill(@ForAll JobFacts job) {
    Money cost = costing().cost(job).actualCost();
    var entries = new ArrayList<>(work(job));
    entries.add(Posting.entryFor(new BooksEvent.JobNotCharged(JOB, cost)));
    assertThat(balance(entries, PostingCategory.WORK_IN_PROGRESS)).isEqualTo(Money.ZERO);
    assertThat(balance(entries, PostingCategory.WARRANTY_AND_GOODWILL)).isEqualTo(cost);
  }

  @Property
  void reversing_everything_leaves_nothing_in_any_account(@ForAll JobFacts job) {
    var entries = new ArrayList<>(life(job));
    life(job).forEach(entry -> entries.add(entry.reversed()));
    assertThat(PostingCategory.values())
        .allSatisfy(category -> assertThat(balance(entries, category)).isEqualTo(Money.ZERO));
  }

  @Property
  void money_received_in_two_parts_leaves_no_debt_and_what_is_over_is_a_deposit(
      @ForAll JobFacts job) {
    Money gross = draft(job).vat().gross();
    Money half = Money.ofMinor(gross.minor() / 2);
    var entries = new ArrayList<>(life(job));
    entries.add(Posting.entryFor(new BooksEvent.MoneyReceived(half, half)));
    entries.add(Posting.entryFor(new BooksEvent.MoneyReceived(gross, gross.minus(half))));
    assertThat(balance(entries, PostingCategory.TRADE_DEBTORS)).isEqualTo(Money.ZERO);
    assertThat(balance(entries, PostingCategory.CUSTOMER_DEPOSITS)).isEqualTo(half.negated());
  }

  /** Everything that is posted while the work is done and checked. */
  private static List<JournalEntry> work(JobFacts job) {
    var entries = new ArrayList<JournalEntry>();
    for (VisitFacts visit : job.visits()) {
      Money labour = Money.ZERO;
      Money drive = Money.ZERO;
      Money distance = Money.ZERO;
      for (TimeEntry entry : allTimes(visit)) {
        TimeEntry.Cost cost = costing().cost(entry);
        labour = entry.kind() == TimeEntry.Kind.LABOUR ? labour.plus(cost.time()) : labour;
        drive = entry.kind() == TimeEntry.Kind.DRIVE ? drive.plus(cost.time()) : drive;
        distance = distance.plus(cost.distance());
      }
      entries.add(Posting.entryFor(new BooksEvent.TimeApproved(JOB, WIP, labour, drive, distance)));
      visit
          .parts()
          .forEach(
              use -> entries.add(Posting.entryFor(new BooksEvent.PartUsed(JOB, WIP, use.cost()))));
    }
    for (JobFacts.OtherCost other : job.otherCosts()) {
      Money vat = VatBreakdown.vatOn(other.vatTreatment().group(), other.cost());
      entries.add(Posting.entryFor(new BooksEvent.SupplierBilled(JOB, WIP, other.cost(), vat)));
    }
    return entries;
  }

  /** What was recorded on the visit, and its shares of drives home. */
  private static List<TimeEntry> allTimes(VisitFacts visit) {
    return Stream.concat(visit.times().stream(), visit.drivesHome().stream()).toList();
  }

  private static List<JournalEntry> life(JobFacts job) {
    CostSheet sheet = costing().cost(job);
    Bill draft = draft(job);
    Map<Category, Money> costs =
        Arrays.stream(Category.values())
            .collect(
                Collectors.toMap(category -> category, category -> sheet.rung(category).actual()));
    var entries = new ArrayList<>(work(job));
    entries.add(
        Posting.entryFor(
            new BooksEvent.InvoicePosted(
                draft.vat().gross(),
                draft.vat().vat(),
                List.of(BooksEvent.Charged.work(JOB, draft.netByCategory(), costs)))));
    return entries;
  }

  private static Bill draft(JobFacts job) {
    return billing().bill(job, new TimeAndParts(), cover());
  }

  private static Money balance(List<JournalEntry> entries, PostingCategory category) {
    return entries.stream()
        .flatMap(entry -> entry.lines().stream())
        .filter(line -> line.category() == category)
        .map(line -> line.debit().minus(line.credit()))
        .collect(Money.sum());
  }

  private static Money sum(List<JournalEntry> entries) {
    return entries.stream()
        .flatMap(entry -> entry.lines().stream())
        .map(line -> line.debit().minus(line.credit()))
        .collect(Money.sum());
  }
}
