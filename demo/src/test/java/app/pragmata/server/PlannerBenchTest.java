package app.pragmata.server;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.count;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import com.sun.management.OperatingSystemMXBean;
import java.lang.management.ManagementFactory;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * The Planner on the large company: a day of many technicians and 600 visits against its bare
 * statements, the best times of four weeks, and live screens. Asserts nothing.
 */
@Tag("bench")
public class PlannerBenchTest {
  private static final int VISITS = 600;
  private static final int DESKS = 10;
  private static final int ON_THE_ROAD = 50;
  private static final int MINUTES = Integer.getInteger("bench.minutes", 10);
  private static final Duration BETWEEN_CHANGES = Duration.ofSeconds(10);

  private final RunningPragmata program = RunningPragmata.large();
  private final DSLContext database = program.database();
  private final Visitor office = Visitor.signedIn(program, "hester");

  /** The day with most visits that is to come, filled up with visits that waited. */
  public static LocalDate fullDay(RunningPragmata program, Visitor office) {
    DSLContext database = program.database();
    var fullest =
        database
            .select(VISIT.DAY, count())
            .from(VISIT)
            .where(VISIT.STATE.eq(VisitState.Code.PLANNED))
            .and(
                VISIT.DAY.gt(
                    LocalDate.ofInstant(program.clock().instant(), ZoneId.of("Europe/London"))))
            .groupBy(VISIT.DAY)
            .orderBy(count().desc(), VISIT.DAY)
            .limit(1)
            .fetchSingle();
    List<Long> technicians = technicians(database);
    var waiting =
        database
            .select(VISIT.ID, VISIT.VERSION)
            .from(VISIT)
            .where(VISIT.STATE.eq(VisitState.Code.UNPLANNED))
            .orderBy(VISIT.ID)
            .limit(Math.max(0, VISITS - fullest.value2()))
            .fetch();
    int planned = 0;
    for (var visit : waiting) {
      int nth = planned / technicians.size();
      Visitor.Answer answer =
          office.put(
              "/api/visits/" + visit.value1() + "/plan",
              Map.of(
                  "version", visit.value2(),
                  "technicianId", technicians.get(planned % technicians.size()),
                  "day", fullest.value1().toString(),
                  "start", "%d:%02d".formatted(7 + nth, 5 * nth),
                  "expected", "0:30",
                  "overruled", SwingGate.ANYTHING));
      if (answer.status() != 200) {
        throw new IllegalStateException(answer.text());
      }
      planned++;
    }
    return fullest.value1();
  }

  private static List<Long> technicians(DSLContext database) {
    return database
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.ROLE.eq(Role.TECHNICIAN).and(PERSON.ACTIVE))
        .orderBy(PERSON.ID)
        .fetch(PERSON.ID);
  }

  @Test
  void a_full_day_and_the_best_times_at_the_server() {
    LocalDate day = fullDay(program, office);
    String path = "/api/planner/days/" + day;
    System.out.printf(
        "%nThe Planner, large company: %d technicians, %d visits on %s%n",
        technicians(database).size(), office.get(path).json().path("visits").asInt(), day);
    List<String> bare = program.statementsWithValues(() -> office.get(path));
    Bench.compare(
        "a day of the Planner", i -> office.get(path), i -> Bench.runBare(database, bare));
    List<Long> waiting =
        database
            .select(VISIT.ID)
            .from(VISIT)
            .where(VISIT.STATE.eq(VisitState.Code.UNPLANNED))
            .orderBy(VISIT.ID)
            .limit(40)
            .fetch(VISIT.ID);
    List<String> bareTimes =
        program.statementsWithValues(() -> office.get(times(waiting.getFirst(), "")));
    Bench.compare(
        "find a time, four weeks",
        i -> office.get(times(waiting.get(i % waiting.size()), "")),
        i -> Bench.runBare(database, bareTimes));
    Bench.compare(
        "find a time for two people",
        i -> office.get(times(waiting.get(i % waiting.size()), "?crewSize=2")),
        i -> Bench.runBare(database, bareTimes));
  }

  /** The sheets of as many technicians as come to less than 200. */
  @Test
  void job_sheets_at_once() {
    LocalDate day = fullDay(program, office);
    String asked = "?from=" + day;
    for (long technician : technicians(database)) {
      String more = asked + "&technicianIds=" + technician;
      if (office.get("/api/job-sheets" + more).json().path("sheets").asInt() > 200) {
        break;
      }
      asked = more;
    }
    int sheets = office.get("/api/job-sheets" + asked).json().path("sheets").asInt();
    for (int round = 1; round <= 3; round++) {
      long began = System.nanoTime();
      int status = office.get("/api/job-sheets/pdf" + asked).status();
      System.out.printf(
          "%d job sheets at once, round %d: %.0f ms (%d)%n",
          sheets, round, (System.nanoTime() - began) / 1e6, status);
    }
  }

  private static String times(long visit, String query) {
    return "/api/visits/" + visit + "/times" + query;
  }

  /** Desks look at the day, phones at their own; every ten seconds a visit is moved. */
  @Test
  void live_screens() {
    LocalDate day = fullDay(program, office);
    long moved =
        database
            .select(VISIT.ID)
            .from(VISIT)
            .where(VISIT.DAY.eq(day).and(VISIT.STATE.eq(VisitState.Code.PLANNED)))
            .limit(1)
            .fetchSingle(VISIT.ID);
    var listening = new ArrayList<Listener>();
    for (int i = 0; i < DESKS + ON_THE_ROAD; i++) {
      listening.add(office.listen("/api/live"));
    }
    var system = (OperatingSystemMXBean) ManagementFactory.getOperatingSystemMXBean();
    long cpu = system.getProcessCpuTime();
    long began = System.nanoTime();
    long end = began + Duration.ofMinutes(MINUTES).toNanos();
    var memory = new ArrayList<Long>();
    for (int change = 0; System.nanoTime() < end; change++) {
      move(moved, day, change);
      for (int desk = 0; desk < DESKS; desk++) {
        office.get("/api/planner/days/" + day);
      }
      if (change % 6 == 0) {
        System.gc();
        Runtime runtime = Runtime.getRuntime();
        memory.add((runtime.totalMemory() - runtime.freeMemory()) / 1024);
      }
      LockSupport.parkNanos(BETWEEN_CHANGES.toNanos());
    }
    double share = (double) (system.getProcessCpuTime() - cpu) / (System.nanoTime() - began);
    System.out.printf(
        "%n%d live screens for %d minutes, a change each %d s that %d desks read again: %.3f of a core with its clients; %d kB of heap after the first minute, %d kB at the end%n",
        listening.size(),
        MINUTES,
        BETWEEN_CHANGES.toSeconds(),
        DESKS,
        share,
        memory.size() > 1 ? memory.get(1) : memory.getFirst(),
        memory.getLast());
    listening.forEach(Listener::close);
  }

  private void move(long visit, LocalDate day, int change) {
    var row = database.selectFrom(VISIT).where(VISIT.ID.eq(visit)).fetchSingle();
    office.put(
        "/api/visits/" + visit + "/plan",
        Map.of(
            "version",
            row.getVersion(),
            "technicianId",
            row.getTechnicianId(),
            "day",
            day.toString(),
            "start",
            change % 2 == 0 ? "8:00" : "8:15",
            "expected",
            "0:30",
            "overruled",
            SwingGate.ANYTHING));
  }
}
