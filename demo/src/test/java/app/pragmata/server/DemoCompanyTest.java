package app.pragmata.server;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.STOCK_LEVEL;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.JobState;
import app.pragmata.core.people.Role;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.laws.Laws;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvFileSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;

/** The demo looks like a Tuesday in a real office, and everybody in it is invented. */
class DemoCompanyTest {
  private static RunningPragmata program;
  private static DSLContext database;
  private static Visitor office;

  /** Other tests add customers, parts and quotes to the company that they share. */
  @BeforeAll
  static void startUntouched() {
    program = RunningPragmata.untouched();
    database = program.database();
    office = Visitor.signedIn(program, "hester");
  }

  @AfterAll
  static void stop() {
    program.stop();
  }

  @Test
  void it_is_about_as_large_as_a_small_firm() {
    assertThat(database.fetchCount(CUSTOMER)).isBetween(55, 65);
    assertThat(database.fetchCount(SITE, SITE.AREA.startsWith("OS"))).isBetween(85, 95);
    assertThat(database.fetchCount(PART)).isBetween(38, 42);
    assertThat(database.fetchCount(PERSON, PERSON.ROLE.eq(Role.TECHNICIAN))).isEqualTo(5);
    assertThat(database.fetchCount(JOB)).isGreaterThanOrEqualTo(125);
  }

  @ParameterizedTest
  @EnumSource
  void jobs_stand_in_every_state(JobState.Code state) {
    assertThat(database.fetchCount(JOB, JOB.STATE.eq(state))).isPositive();
  }

  @ParameterizedTest
  @CsvFileSource(resources = "/ways-of-money-and-cost.csv", delimiter = '|')
  void every_way_that_money_and_cost_can_go_stands_at_least_twice(String way, String count) {
    assertThat(database.fetchSingle(count).get(0, Integer.class)).as(way).isGreaterThanOrEqualTo(2);
  }

  @ParameterizedTest
  @CsvFileSource(resources = "/ways-of-quotes.csv", delimiter = '|')
  void quotes_live_as_in_life_at_least_five_times_each_way(String way, String count) {
    assertThat(database.fetchSingle(count).get(0, Integer.class)).as(way).isGreaterThanOrEqualTo(5);
  }

  @ParameterizedTest
  @EnumSource(mode = EnumSource.Mode.EXCLUDE, names = "LAPSED")
  void quotes_stand_in_every_state(QuoteState.Code state) {
    assertThat(database.fetchCount(QUOTE, QUOTE.STATE.eq(state))).isPositive();
  }

  @ParameterizedTest
  @ValueSource(strings = {"quoted", "won", "booked", "worked", "checked", "billed", "paid"})
  void no_stage_of_the_money_line_is_empty(String stage) {
    assertThat(office.get("/api/worklists/" + stage).json().path("count").asInt()).isPositive();
  }

  @Test
  void every_technician_has_a_round_today() {
    assertThat(rounds(database, "2026-11-24")).hasSize(5).allMatch(stops -> stops >= 2);
  }

  @Test
  void on_a_sunday_evening_everybody_has_been_on_a_round_too() {
    String name = RunningPragmata.databaseForTests() + "_sunday";
    DemoTemplate.makeEmpty(name);
    try (var sunday =
        RunningPragmata.start(name, new SettableClock(SettableClock.moment("2026-11-29T19:30")))) {
      DSLContext there = sunday.getBean(DSLContext.class);
      assertThat(rounds(there, "2026-11-29")).hasSize(5).allMatch(stops -> stops >= 2);
      assertThat(
              there.fetchCount(
                  VISIT,
                  VISIT.DAY.eq(LocalDate.of(2026, 11, 29)).and(VISIT.FINISHED_AT.isNotNull())))
          .isPositive();
    }
  }

  /**
   * After Christmas nobody has worked the week before; on a Tuesday morning little of it is
   * checked.
   */
  @ParameterizedTest
  @ValueSource(strings = {"2027-01-04T08:30", "2026-12-01T06:00"})
  void the_demo_starts_on_whatever_day_it_is_looked_at(String moment) {
    String name = RunningPragmata.databaseForTests() + "_sunday";
    DemoTemplate.makeEmpty(name);
    try (var then = RunningPragmata.start(name, new SettableClock(SettableClock.moment(moment)))) {
      assertThat(Laws.check(then.getBean(DSLContext.class))).allMatch(Laws.Finding::holds);
    }
  }

  /** How many stops each technician has that day who has any. */
  private static List<Integer> rounds(DSLContext database, String day) {
    return database
        .resultQuery("select count(*) from visit where day = ?::date group by technician_id", day)
        .fetchInto(Integer.class);
  }

  @ParameterizedTest
  @CsvFileSource(resources = "/ways-of-messages.csv", delimiter = '|')
  void site_office_and_customers_have_said_something_to_each_other(String way, String count) {
    assertThat(database.fetchSingle(count).get(0, Integer.class)).as(way).isPositive();
  }

  @Test
  void some_jobs_lose_money_and_some_invoices_are_late() {
    var rows = office.get("/api/worklists/billed?sort=margin").json().path("rows");
    assertThat(rows.path(0).path("marginPercent").asDouble()).isNegative();
    assertThat(WorkedExampleTest.texts(rows, "stuck")).contains("true");
  }

  @Test
  void telephone_numbers_are_of_the_range_reserved_for_fiction() {
    assertThat(database.select(CUSTOMER.PHONE).from(CUSTOMER).fetch(CUSTOMER.PHONE))
        .allMatch(phone -> phone.startsWith("01632 960"));
  }

  @Test
  void mail_addresses_are_of_the_domains_reserved_for_examples() {
    assertThat(database.select(CUSTOMER.EMAIL).from(CUSTOMER).fetch(CUSTOMER.EMAIL))
        .allMatch(mail -> mail.matches(".+@example\\.(com|org|net)"));
  }

  @Test
  void no_van_holds_less_than_nothing_but_of_the_hinges_that_were_given_away() {
    assertThat(
            database.fetchCount(
                STOCK_LEVEL,
                STOCK_LEVEL
                    .QUANTITY
                    .lt(java.math.BigDecimal.ZERO)
                    .and(
                        STOCK_LEVEL.PART_ID.notIn(
                            database
                                .select(PART.ID)
                                .from(PART)
                                .where(PART.NUMBER.in("RAM-230", "PHO-02", "HNG-S"))))))
        .isZero();
  }
}
