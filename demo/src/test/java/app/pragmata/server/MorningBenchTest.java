package app.pragmata.server;

import static app.pragmata.server.generated.Tables.PASSWORD;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.jobs.VisitState;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.Random;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.locks.LockSupport;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/**
 * A morning of the large company: many technicians tap at once while desks look on. Asserts
 * nothing.
 */
@Tag("bench")
class MorningBenchTest {
  private static final int ON_THE_ROAD = 50;
  private static final int DESKS = 10;
  private static final int WARMING_UP = 10;
  private static final int TAPS_TO_WARM_UP = 60;
  private static final int MINUTES = Integer.getInteger("bench.minutes", 10);

  /** Sixty taps of each in ten minutes. */
  private static final Duration BETWEEN_TAPS = Duration.ofSeconds(10);

  private static final Duration BETWEEN_LOOKS = Duration.ofSeconds(10);
  private static final List<String> LOOKED_AT =
      List.of("/api/worklists/booked", "/api/worklists/worked", "/api/money-line");

  private final RunningPragmata program = RunningPragmata.large();
  private final DSLContext database = program.database();
  private final Visitor office = Visitor.signedIn(program, "hester");
  private final LocalDate today =
      LocalDate.ofInstant(program.clock().instant(), ZoneId.of("Europe/London"));

  /** Milliseconds of all taps and of all looks, and what was said of taps that were refused. */
  private record Morning(Queue<Double> taps, Queue<Double> looks, Queue<String> refused) {}

  @Test
  void a_morning_on_the_road() throws InterruptedException {
    letThemSignIn();
    warmUp();
    Bench.Times floor = Bench.measure(i -> office.get("/api/session"));
    var morning =
        new Morning(
            new ConcurrentLinkedQueue<>(),
            new ConcurrentLinkedQueue<>(),
            new ConcurrentLinkedQueue<>());
    var people = new ArrayList<Thread>();
    List<Runnable> days = new ArrayList<>();
    for (int i = 1; i <= ON_THE_ROAD; i++) {
      Visitor technician = Visitor.signedIn(program, "technician%02d".formatted(i));
      long visit = visitToday(program.person("technician%02d".formatted(i)));
      int phase = i;
      days.add(() -> taps(technician, visit, phase, morning));
    }
    for (int desk = 0; desk < DESKS; desk++) {
      int phase = desk;
      days.add(() -> looks(phase, morning));
    }
    days.forEach(day -> people.add(Thread.ofVirtual().start(day)));
    for (Thread person : people) {
      person.join();
    }
    System.out.printf(
        "%nA morning, large company: %d technicians, a tap each %d s, beside %d desks, %d minutes%n",
        ON_THE_ROAD, BETWEEN_TAPS.toSeconds(), DESKS, MINUTES);
    print("a tap", morning.taps(), floor);
    print("a look of a desk", morning.looks(), floor);
    System.out.printf("refused: %d %s%n", morning.refused().size(), morning.refused().peek());
  }

  /** The technicians of the large company have no password; they get that of the demo people. */
  private void letThemSignIn() {
    database
        .insertInto(PASSWORD, PASSWORD.PERSON_ID, PASSWORD.HASH)
        .select(
            select(
                    PERSON.ID,
                    field(
                        select(PASSWORD.HASH)
                            .from(PASSWORD)
                            .where(PASSWORD.PERSON_ID.eq(program.person("hester")))))
                .from(PERSON)
                .where(PERSON.USERNAME.startsWith("technician")))
        .onConflictDoNothing()
        .execute();
  }

  /** Others tap before, without a rest: the server has run for a while when the morning begins. */
  private void warmUp() {
    for (int i = ON_THE_ROAD + 1; i <= ON_THE_ROAD + WARMING_UP; i++) {
      Visitor technician = Visitor.signedIn(program, "technician%02d".formatted(i));
      String path =
          "/api/pocket/visits/" + visitToday(program.person("technician%02d".formatted(i))) + "/";
      for (int tap = 0; tap < TAPS_TO_WARM_UP; tap++) {
        technician.post(path + step(tap), Map.of());
      }
    }
  }

  private static String step(int tap) {
    return switch (tap) {
      case 0 -> "drive";
      case 1 -> "arrive";
      default -> tap % 2 == 0 ? "start-work" : "pause";
    };
  }

  private static void print(String what, Queue<Double> milliseconds, Bench.Times floor) {
    var sorted = new ArrayList<>(milliseconds);
    Collections.sort(sorted);
    System.out.printf(
        "%-20s %6d of them: median %5.1f ms, 95th percentile %5.1f ms, slowest %5.1f ms, x %.1f the session's answer at the median%n",
        what,
        sorted.size(),
        sorted.get(sorted.size() / 2),
        sorted.get(sorted.size() * 95 / 100),
        sorted.getLast(),
        sorted.get(sorted.size() / 2) / floor.median());
  }

  /** One of somebody's planned visits, which the office has put on today. */
  private long visitToday(long technician) {
    var visit =
        database
            .selectFrom(VISIT)
            .where(VISIT.TECHNICIAN_ID.eq(technician))
            .and(VISIT.STATE.eq(VisitState.Code.PLANNED))
            .and(VISIT.DAY.ge(today))
            .orderBy(VISIT.DAY, VISIT.ID)
            .limit(1)
            .fetchSingle();
    Visitor.Answer answer =
        office.put(
            "/api/visits/" + visit.getId() + "/plan",
            Map.of(
                "version",
                visit.getVersion(),
                "technicianId",
                technician,
                "day",
                today.toString(),
                "start",
                "8:00",
                "expected",
                "0:30",
                "overruled",
                SwingGate.ANYTHING));
    if (answer.status() != 200) {
      throw new IllegalStateException(answer.text());
    }
    return visit.getId();
  }

  private static void taps(Visitor technician, long visit, int phase, Morning morning) {
    String path = "/api/pocket/visits/" + visit + "/";
    var random = new Random(phase);
    LockSupport.parkNanos(random.nextLong(BETWEEN_TAPS.toNanos()));
    long end = System.nanoTime() + Duration.ofMinutes(MINUTES).toNanos();
    for (int tap = 0; System.nanoTime() < end; tap++) {
      long began = System.nanoTime();
      Visitor.Answer answer = technician.post(path + step(tap), Map.of());
      morning.taps().add((System.nanoTime() - began) / 1e6);
      if (answer.status() != 200) {
        morning.refused().add(answer.text());
      }
      LockSupport.parkNanos(began + BETWEEN_TAPS.toNanos() - System.nanoTime());
    }
  }

  private void looks(int phase, Morning morning) {
    LockSupport.parkNanos(new Random(phase).nextLong(BETWEEN_LOOKS.toNanos()));
    long end = System.nanoTime() + Duration.ofMinutes(MINUTES).toNanos();
    for (int look = 0; System.nanoTime() < end; look++) {
      long began = System.nanoTime();
      office.get(LOOKED_AT.get((look + phase) % LOOKED_AT.size()));
      morning.looks().add((System.nanoTime() - began) / 1e6);
      LockSupport.parkNanos(began + BETWEEN_LOOKS.toNanos() - System.nanoTime());
    }
  }
}
