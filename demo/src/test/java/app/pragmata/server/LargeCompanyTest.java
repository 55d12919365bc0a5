package app.pragmata.server;

import static app.pragmata.server.generated.Tables.COST_RELEASE;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.demo.Demo;
import app.pragmata.server.billing.CheckedJobs;
import app.pragmata.server.billing.InvoiceService;
import app.pragmata.server.laws.Laws;
import app.pragmata.server.worklists.Standings;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.transaction.support.TransactionTemplate;

/** The large company with eight technicians and nine weeks of settled work: its rows are right. */
class LargeCompanyTest {
  private static final int TECHNICIANS = 8;
  private static final int SETTLED_WEEKS = 9;
  private static final int JOBS_A_WEEK = TECHNICIANS * 20;

  private static ConfigurableApplicationContext program;
  private static DSLContext database;
  private static Visitor office;

  @BeforeAll
  static void load() {
    String name = RunningPragmata.databaseForTests() + "_large";
    DemoTemplate.makeEmpty(name);
    program =
        RunningPragmata.start(
            name,
            new SettableClock(SettableClock.moment("2026-11-24T06:30")),
            List.of(Pragmata.class, Demo.class),
            "pragmata.large=true",
            "pragmata.large.technicians=" + TECHNICIANS,
            "pragmata.large.customers=200",
            "pragmata.large.weeks=" + SETTLED_WEEKS);
    database = program.getBean(DSLContext.class);
    office = Visitor.signedInAt(RunningPragmata.address(program), "hester");
  }

  @AfterAll
  static void stop() {
    program.close();
  }

  @Test
  void all_laws_hold() {
    assertThat(Laws.check(database)).isNotEmpty().allMatch(Laws.Finding::holds);
  }

  @ParameterizedTest
  @CsvFileSource(resources = "/ways-of-money-and-cost.csv", delimiter = '|')
  void every_way_that_money_and_cost_can_go_stands_in_each_week(String way, String count) {
    assertThat(database.fetchSingle(count).get(0, Integer.class))
        .as(way)
        .isGreaterThanOrEqualTo(2 * SETTLED_WEEKS);
  }

  @ParameterizedTest
  @ValueSource(strings = {"quoted", "won", "booked", "worked", "checked", "billed", "paid"})
  void work_stands_at_every_stage_of_the_money_line(String stage) {
    assertThat(office.get("/api/worklists/" + stage).json().path("count").asInt())
        .isGreaterThanOrEqualTo(2 * TECHNICIANS);
  }

  @Test
  void where_money_stands_is_what_a_computation_from_scratch_says() {
    List<String> stored = standings();
    program
        .getBean(TransactionTemplate.class)
        .executeWithoutResult(status -> program.getBean(Standings.class).recompute());
    Set<String> computed = Set.copyOf(standings());
    assertThat(stored).hasSameSizeAs(computed);
    assertThat(stored.stream().filter(row -> !computed.contains(row))).isEmpty();
  }

  private static List<String> standings() {
    return database
        .resultQuery("select row_to_json(s)::text from standing s order by kind, record_id")
        .fetchInto(String.class);
  }

  @Test
  void no_more_money_is_open_than_in_the_weeks_that_wait_for_it() {
    assertThat(database.fetchCount(RECEIVABLE, RECEIVABLE.OWED_MINOR.gt(0L)))
        .isBetween(4 * JOBS_A_WEEK, 8 * JOBS_A_WEEK);
  }

  @Test
  void an_invoice_names_the_customer_and_the_job_that_it_is_of() {
    var row =
        database.fetchSingle(
            """
                select i.id, c.name, i.number, j.number, j.title, i.invoice_date from invoice i
                  join customer c on c.id = i.customer_id join bill b on b.invoice_id = i.id
                  join job j on j.id = b.job_id order by i.id limit 1 offset 301
                """);
    var document = office.get("/api/invoices/" + row.get(0)).json().path("document");
    assertThat(document.path("buyer").path("name").asString()).isEqualTo(row.get(1));
    assertThat(document.path("number").asLong()).isEqualTo(row.get(2));
    assertThat(document.path("jobs").path(0).path("number").asLong()).isEqualTo(row.get(3));
    assertThat(document.path("jobs").path(0).path("title").asString()).isEqualTo(row.get(4));
    assertThat(document.path("invoiceDate").asString()).isEqualTo(row.get(5).toString());
  }

  @Test
  void one_and_a_hundred_invoices_take_equally_many_statements() {
    var checked =
        CheckedJobs.list(database).stream().filter(LargeCompanyTest::isBilledAndPaidInOne).toList();
    int alone = statementsOfClosing(checked.subList(0, 1));
    int together = statementsOfClosing(checked.subList(1, 101));
    assertThat(together).isEqualTo(alone);
  }

  /** Whether nothing of the job is billed yet and no money of the customer waits for it. */
  private static boolean isBilledAndPaidInOne(InvoiceService.JobAtVersion job) {
    return database
        .fetch(
            """
            select 1 from bill where job_id = {0}
              union all select 1 from receipt where job_id = {0}
              union all select 1 from receipt r join accepted_quote a on a.quote_id = r.quote_id
                where a.job_id = {0}
            """,
            DSL.val(job.jobId()))
        .isEmpty();
  }

  private static int statementsOfClosing(List<InvoiceService.JobAtVersion> jobs) {
    int statements = Statements.of(database, () -> CheckedJobs.close(program, jobs)).size();
    assertThat(
            database.fetchCount(
                COST_RELEASE, COST_RELEASE.JOB_ID.in(ids(jobs)).and(COST_RELEASE.CLOSES.isTrue())))
        .isEqualTo(jobs.size());
    return statements;
  }

  private static List<Long> ids(List<InvoiceService.JobAtVersion> jobs) {
    return jobs.stream().map(InvoiceService.JobAtVersion::jobId).toList();
  }

  @Test
  void an_entry_names_its_job_and_its_document_in_words() {
    var wrong =
        database.fetch(
            """
            select e.number, e.description from journal_entry e
              where e.event = 'invoice_posted' and e.description not like '%invoice ' || e.source_number
                or e.event = 'part_used' and exists (select from journal_line l
                  where l.entry_id = e.id and l.job_number is not null
                    and e.description not like 'J ' || l.job_number || ':%')
            """);
    assertThat(wrong).isEmpty();
  }

  @Test
  void whoever_works_on_goes_on_where_the_copies_end() {
    long last = database.fetchSingle("select max(number) from job").get(0, Long.class);
    assertThat(
            database
                .fetchSingle("select next_number from number_series where series = 'job'")
                .get(0, Long.class))
        .isEqualTo(last + 1);
  }
}
