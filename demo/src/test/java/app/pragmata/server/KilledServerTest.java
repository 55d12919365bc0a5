package app.pragmata.server;

import static app.pragmata.server.generated.Tables.BILL;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.JOURNAL_ENTRY;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.min;

import app.pragmata.core.people.Role;
import app.pragmata.server.laws.Laws;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.jooq.DSLContext;
import org.jooq.SQLDialect;
import org.jooq.TableField;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;

/**
 * A server in a process of its own is killed at seeded points while it posts a list of a hundred
 * jobs; the next one takes over, and the same press is made again. So many points as {@code
 * -Dpragmata.kills} says.
 */
class KilledServerTest {
  private static final int KILLS = Integer.getInteger("pragmata.kills", 2);
  private static final int JOBS = 100;
  private static final long SEED = 20_261_127;
  private static final int LATEST_MILLIS = 1_600;
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

    List<List<Map<String, Object>>> make() {
      var lists = new ArrayList<List<Map<String, Object>>>();
      for (int i = 0; i < KILLS; i++) {
        var jobs = new ArrayList<Map<String, Object>>();
        while (jobs.size() < JOBS) {
          jobs.add(job());
        }
        lists.add(jobs);
      }
      return lists;
    }

    private Map<String, Object> job() {
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
                  "0:10")),
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
      id(office.post("/api/visits/" + visitId + "/check", Map.of("version", version)), "id");
      return Map.of(
          "jobId",
          job,
          "version",
          database.select(JOB.VERSION).from(JOB).where(JOB.ID.eq(job)).fetchSingle(JOB.VERSION));
    }

    private static String time(int minutesAfterEight) {
      return "%d:%02d".formatted(8 + minutesAfterEight / 60, minutesAfterEight % 60);
    }

    private static long id(Visitor.Answer answer, String field) {
      assertThat(answer.status()).as(answer.text()).isEqualTo(200);
      return answer.json().path(field).asLong();
    }
  }

  @Test
  void a_list_whose_server_is_killed_is_posted_once_by_the_next_one_and_leaves_no_gap()
      throws SQLException {
    RunningPragmata program = RunningPragmata.untouched();
    List<List<Map<String, Object>>> lists;
    try {
      lists = new Lists(program).make();
    } finally {
      program.stop();
    }
    var random = new Random(SEED);
    int postedBefore = 0;
    try (var connection =
        DriverManager.getConnection(
            System.getProperty("pragmata.database.url") + RunningPragmata.untouchedDatabase(),
            System.getProperty("pragmata.database.user"),
            System.getProperty("pragmata.database.password"))) {
      DSLContext database = DSL.using(connection, SQLDialect.POSTGRES);
      ServerProcess server = start();
      try {
        for (List<Map<String, Object>> jobs : lists) {
          var form = Map.of("jobs", jobs);
          String key = "list-" + jobs.getFirst().get("jobId");
          Visitor office = Visitor.signedInAt(server.address(), "hester");
          ServerProcess killed = server;
          CompletableFuture<Void> dead =
              CompletableFuture.runAsync(
                  killed::kill,
                  CompletableFuture.delayedExecutor(
                      random.nextInt(LATEST_MILLIS), TimeUnit.MILLISECONDS));
          // Whether an answer comes is a matter of luck.
          CompletableFuture<Visitor.Answer> pressed =
              CompletableFuture.supplyAsync(() -> office.post("/api/job-closings", form, key));
          CompletableFuture.allOf(dead, pressed.exceptionally(lost -> null)).join();
          end(database);
          int left = closed(database, jobs);
          assertThat(left).isIn(0, JOBS);
          postedBefore += left / JOBS;
          server = start();
          Visitor again = Visitor.signedInAt(server.address(), "hester");
          Visitor.Answer answer = again.post("/api/job-closings", form, key);
          assertThat(answer.status()).as(answer.text()).isEqualTo(200);
          assertThat(closed(database, jobs)).isEqualTo(JOBS);
          assertNoGap(database, INVOICE.NUMBER);
          assertNoGap(database, JOURNAL_ENTRY.NUMBER);
        }
      } finally {
        server.kill();
        end(database);
      }
      System.out.printf(
          "Seed %d: killed %d times, %d lists were posted before it%n", SEED, KILLS, postedBefore);
      assertThat(Laws.check(database)).allMatch(Laws.Finding::holds);
    }
  }

  private static ServerProcess start() {
    return ServerProcess.start(RunningPragmata.untouchedDatabase(), "2026-12-21T09:00");
  }

  /** What the killed server was doing in the database comes to its end. */
  private static void end(DSLContext database) {
    database.fetch(
        """
        select pg_terminate_backend(pid, 20000) from pg_stat_activity
          where datname = current_database() and pid <> pg_backend_pid()
        """);
  }

  /** How many of these jobs are closed, none of them twice. */
  private static int closed(DSLContext database, List<Map<String, Object>> jobs) {
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

  private static void assertNoGap(DSLContext database, TableField<?, Long> number) {
    var numbers =
        database.select(min(number), max(number), count()).from(number.getTable()).fetchSingle();
    assertThat(numbers.value2() - numbers.value1() + 1)
        .as(number.getName())
        .isEqualTo(numbers.value3().longValue());
  }
}
