package app.pragmata.server;

import static app.pragmata.server.generated.Tables.BILL;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.IMPORT;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static app.pragmata.server.generated.Tables.MAIL;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.min;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import app.pragmata.demo.MailStandIn;
import app.pragmata.server.importing.ImportState;
import app.pragmata.server.laws.Laws;
import app.pragmata.server.mail.MailQueue;
import app.pragmata.server.mail.MailServer;
import app.pragmata.server.mail.MailState;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.LaterWork;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.jooq.TableField;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Two servers on one database: one in a process of its own is killed at seeded points while it
 * sends mail, takes in a list, checks visits and posts invoices; the other one stays. So many kills
 * as {@code -Dpragmata.kills} says.
 */
class KilledServerTest {
  private static final int KILLS = Integer.getInteger("pragmata.kills", 1);
  private static final int JOBS = 100;
  private static final int VISITS = 60;
  private static final int ROWS = 3_000;
  private static final int MESSAGES = 40;
  private static final String KILLED = "killed";
  private static final ZoneId OSTMERE = ZoneId.of("Europe/London");
  private static final String NOW = "2026-12-21T09:00";
  private static final long SEED = 20_261_127;
  private static final int LATEST_MILLIS = 5_000;
  private static final int SLOTS_A_DAY = 55;

  /** Jobs of one list, each with a quarter of an hour that was worked and checked. */
  private static final class Lists {
    private final RunningPragmata program;
    private final Visitor office;
    private final List<Long> technicians;
    private final long siteId;
    private int made;

    Lists(RunningPragmata program) {
      this.program = program;
      office = Visitor.signedIn(program, "hester");
      siteId = office.get("/api/customers/4").json().path("sites").path(0).path("id").asLong();
      technicians =
          program
              .database()
              .select(PERSON.ID)
              .from(PERSON)
              .where(PERSON.ROLE.eq(Role.TECHNICIAN))
              .orderBy(PERSON.ID)
              .fetch(PERSON.ID);
    }

    /** Jobs whose only visit is checked, as a list of closings names them. */
    List<Map<String, Object>> checkedJobs() {
      return IntStream.range(0, JOBS).mapToObj(i -> checkedJob()).toList();
    }

    /** Visits that are finished, as a list of checks names them. */
    List<Map<String, Object>> finishedVisits() {
      return IntStream.range(0, VISITS).mapToObj(i -> finishedVisit()).toList();
    }

    private Map<String, Object> checkedJob() {
      Map<String, Object> visit = finishedVisit();
      id(
          office.post(
              "/api/visits/" + visit.get("visitId") + "/check",
              Map.of("version", visit.get("version"))),
          "id");
      var job =
          program
              .database()
              .select(JOB.ID, JOB.VERSION)
              .from(JOB)
              .join(VISIT)
              .on(VISIT.JOB_ID.eq(JOB.ID))
              .where(VISIT.ID.eq((Long) visit.get("visitId")))
              .fetchSingle();
      return Map.of("jobId", job.value1(), "version", job.value2());
    }

    private Map<String, Object> finishedVisit() {
      int slot = made / technicians.size() % SLOTS_A_DAY;
      String day = "2026-12-%02d".formatted(1 + made / technicians.size() / SLOTS_A_DAY);
      long technician = technicians.get(made++ % technicians.size());
      program.clock().set(day + "T06:00");
      long job =
          id(
              office.post(
                  "/api/calls",
                  Map.of(
                      "customerId",
                      4,
                      "siteId",
                      siteId,
                      "about",
                      "Gate beeps " + made,
                      "outcome",
                      "job",
                      "job",
                      Map.of("kindOfJobId", 1, "priority", "low", "expected", "0:10"))),
              "jobId");
      var database = program.database();
      long visitId =
          database.select(VISIT.ID).from(VISIT).where(VISIT.JOB_ID.eq(job)).fetchSingle(VISIT.ID);
      id(
          office.put(
              "/api/visits/" + visitId + "/plan",
              Map.of(
                  "version",
                  1,
                  "technicianId",
                  technician,
                  "companionIds",
                  List.of(),
                  "day",
                  day,
                  "start",
                  "8:00",
                  "expected",
                  "0:10",
                  "overruled",
                  SwingGate.ANYTHING)),
          "id");
      program.clock().set(day + "T20:00");
      id(
          office.post(
              "/api/visits/" + visitId + "/time-entries",
              Map.of(
                  "version",
                  0,
                  "kind",
                  "labour",
                  "from",
                  time(slot * 10),
                  "to",
                  time(slot * 10 + 10),
                  "rateClass",
                  "normal",
                  "reason",
                  "Not written down")),
          "id");
      int version =
          database
              .select(VISIT.VERSION)
              .from(VISIT)
              .where(VISIT.ID.eq(visitId))
              .fetchSingle(VISIT.VERSION);
      return Map.of("visitId", visitId, "version", version);
    }

    private static String time(int minutesAfterEight) {
      return "%d:%02d".formatted(8 + minutesAfterEight / 60, minutesAfterEight % 60);
    }

    private static long id(Visitor.Answer answer, String field) {
      assertThat(answer.status()).as(answer.text()).isEqualTo(200);
      return answer.json().path(field).asLong();
    }
  }

  /** What one server was told to do when it was killed. */
  private record Told(
      String name,
      List<Map<String, Object>> jobs,
      List<Map<String, Object>> visits,
      List<String> subjects,
      long importId) {}

  private RunningPragmata stays;
  private DSLContext database;

  @BeforeEach
  void oneServerStays() {
    stays = RunningPragmata.untouched();
    database = stays.database();
  }

  @AfterEach
  void stop() {
    stays.stop();
  }

  @Test
  void what_a_killed_server_was_doing_is_done_once_and_whole_by_the_one_that_stays() {
    var lists = new Lists(stays);
    var told = new ArrayList<Told>();
    for (int i = 0; i < KILLS; i++) {
      told.add(tell(lists, "k" + i));
    }
    stays.clock().set(NOW);
    var random = new Random(SEED);
    for (Told each : told) {
      stays.bean(LaterWork.class).stop();
      killInTheMiddle(each, random.nextInt(LATEST_MILLIS));
      System.out.printf(
          "Seed %d, %s: before the kill %d of %d messages, %d of %d jobs, %d of %d visits, list %s%n",
          SEED,
          each.name(),
          sent(each),
          MESSAGES,
          closed(each.jobs()),
          JOBS,
          checked(each.visits()),
          VISITS,
          state(each));
      assertThat(closed(each.jobs())).isIn(0, JOBS);
      assertThat(checked(each.visits())).isIn(0, VISITS);
      takeOver(each);
      assertThat(closed(each.jobs())).isEqualTo(JOBS);
      assertThat(checked(each.visits())).isEqualTo(VISITS);
      assertThat(arrived(each)).containsExactlyInAnyOrderElementsOf(each.subjects());
      assertImported(each);
      assertNoGap(INVOICE.NUMBER);
      assertNoGap(JOURNAL_ENTRY.NUMBER);
      assertNoGap(CUSTOMER.NUMBER);
    }
    assertThat(Laws.check(database)).allMatch(Laws.Finding::holds);
  }

  private Told tell(Lists lists, String name) {
    var rows =
        IntStream.range(0, ROWS)
            .mapToObj(
                i -> "%s-%d,%s Customer %d,%d Kill Lane,OS4 1AB".formatted(name, i, name, i, i))
            .collect(Collectors.joining("\n"));
    byte[] list = ("reference,name,address,postcode\n" + rows).getBytes(StandardCharsets.UTF_8);
    return new Told(
        name,
        lists.checkedJobs(),
        lists.finishedVisits(),
        IntStream.range(0, MESSAGES).mapToObj(i -> name + " message " + i).toList(),
        lists.office.upload("/api/imports?kind=customers", list).json().path("id").asLong());
  }

  /** All four at once, by a server in a process of its own that ends in the middle of them. */
  private void killInTheMiddle(Told told, int afterMillis) {
    ServerProcess killed =
        ServerProcess.start(
            RunningPragmata.untouchedDatabase() + "?ApplicationName=" + KILLED,
            LocalDateTime.ofInstant(stays.clock().instant(), OSTMERE).toString(),
            stays.bean(MailServer.class));
    Visitor office = Visitor.signedInAt(killed.address(), "hester");
    queue(told.subjects());
    CompletableFuture<Void> dead =
        CompletableFuture.runAsync(
            killed::kill, CompletableFuture.delayedExecutor(afterMillis, TimeUnit.MILLISECONDS));
    // Whether an answer comes is a matter of luck.
    CompletableFuture.allOf(
            dead,
            press(() -> take(office, told)),
            press(() -> close(office, told)),
            press(() -> check(office, told)))
        .join();
    // What it was doing in the database comes to its end.
    database.fetch(
        "select pg_terminate_backend(pid, 20000) from pg_stat_activity where application_name = ?",
        KILLED);
  }

  private static CompletableFuture<Visitor.Answer> press(Supplier<Visitor.Answer> request) {
    return CompletableFuture.supplyAsync(request).exceptionally(lost -> null);
  }

  private void queue(List<String> subjects) {
    var act = Act.ofProgram(stays.clock().instant(), OSTMERE);
    stays
        .bean(TransactionTemplate.class)
        .executeWithoutResult(
            status ->
                subjects.forEach(
                    subject ->
                        stays
                            .bean(MailQueue.class)
                            .queue(
                                act,
                                MailQueue.Letter.of(
                                    "somebody@example.org", subject, "Text", null))));
  }

  private static Visitor.Answer close(Visitor office, Told told) {
    return office.post(
        "/api/job-closings", Map.of("jobs", told.jobs()), "close-" + told.name() + "-list");
  }

  private static Visitor.Answer check(Visitor office, Told told) {
    return office.post(
        "/api/visit-checks", Map.of("visits", told.visits()), "check-" + told.name() + "-list");
  }

  private static Visitor.Answer take(Visitor office, Told told) {
    return office.post(
        "/api/imports/" + told.importId() + "/take",
        Map.of("mapping", List.of("reference", "name", "address", "postcode")));
  }

  /** Presses the same again where a press may not have come through; the rest comes by itself. */
  private void takeOver(Told told) {
    stays.clock().advance(Duration.ofMinutes(1));
    stays.bean(LaterWork.class).start();
    Visitor office = Visitor.signedIn(stays, "hester");
    for (Visitor.Answer again : List.of(close(office, told), check(office, told))) {
      assertThat(again.status()).as(again.text()).isEqualTo(200);
    }
    if (state(told) == ImportState.READ) {
      assertThat(take(office, told).status()).isEqualTo(200);
    }
    RunningPragmata.until(() -> sent(told) == MESSAGES && state(told) == ImportState.TAKEN);
  }

  private int sent(Told told) {
    return database.fetchCount(
        MAIL, MAIL.SUBJECT.in(told.subjects()).and(MAIL.STATE.eq(MailState.SENT)));
  }

  /** What reached the mail server, once for each message however often it was handed over. */
  private List<String> arrived(Told told) {
    return stays.bean(MailStandIn.class).list().stream()
        .map(MailStandIn.Message::subject)
        .filter(subject -> subject.startsWith(told.name() + " "))
        .toList();
  }

  private ImportState state(Told told) {
    return database
        .select(IMPORT.STATE)
        .from(IMPORT)
        .where(IMPORT.ID.eq(told.importId()))
        .fetchSingle(IMPORT.STATE);
  }

  private void assertImported(Told told) {
    var ours = CUSTOMER.REFERENCE.startsWith(told.name() + "-");
    assertThat(database.fetchCount(CUSTOMER, ours)).isEqualTo(ROWS);
    assertThat(
            database.fetchCount(
                SITE, SITE.CUSTOMER_ID.in(DSL.select(CUSTOMER.ID).from(CUSTOMER).where(ours))))
        .isEqualTo(ROWS);
  }

  private int checked(List<Map<String, Object>> visits) {
    return database.fetchCount(
        VISIT,
        VISIT
            .ID
            .in(visits.stream().map(visit -> visit.get("visitId")).toList())
            .and(VISIT.STATE.eq(VisitState.Code.CHECKED)));
  }

  /** How many of these jobs are closed, none of them twice. */
  private int closed(List<Map<String, Object>> jobs) {
    return database
        .select(BILL.JOB_ID, count())
        .from(BILL)
        .where(BILL.JOB_ID.in(jobs.stream().map(job -> job.get("jobId")).toList()))
        .groupBy(BILL.JOB_ID)
        .fetch(
            row -> {
              assertThat(row.value2()).isEqualTo(1);
              return row.value1();
            })
        .size();
  }

  private void assertNoGap(TableField<?, Long> number) {
    var numbers =
        database.select(min(number), max(number), count()).from(number.getTable()).fetchSingle();
    assertThat(numbers.value2() - numbers.value1() + 1)
        .as(number.getName())
        .isEqualTo(numbers.value3().longValue());
  }
}
