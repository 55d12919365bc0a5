package app.pragmata.server.walk;

import app.pragmata.core.company.BankAccount;
import app.pragmata.core.people.Role;
import app.pragmata.server.DemoTemplate;
import app.pragmata.server.Pragmata;
import app.pragmata.server.RunningPragmata;
import app.pragmata.server.SettableClock;
import app.pragmata.server.Visitor;
import app.pragmata.server.founding.Founding;
import app.pragmata.server.founding.NewCompany;
import app.pragmata.server.founding.NewPerson;
import app.pragmata.server.worklists.Standings;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.transaction.support.TransactionTemplate;

/** A company that was just founded, in a database of its own, with everybody signed in. */
final class WalkedCompany implements AutoCloseable {
  static final List<String> TECHNICIANS = List.of("abe", "bea", "cyd");

  private static final String PASSWORD = "ostmere";
  private static final ZoneId ZONE = ZoneId.of("Europe/London");
  private static final String PARTS =
      """
      number,name,price,cost
      W-1,Ram,371.70,212.40
      W-2,Photocell pair,27.0800,14.25
      W-3,Cable,1.9500,0.77
      W-4,Bolt,0.1234,0.05
      """;

  private final SettableClock clock = new SettableClock(SettableClock.moment("2026-11-24T08:00"));
  private final ConfigurableApplicationContext program;
  private final DSLContext database;
  private final Visitor office;
  private final Visitor bookkeeper;
  private final Visitor customer;
  private final Map<String, Visitor> technicians;

  WalkedCompany(String database) {
    DemoTemplate.makeEmpty(database);
    program = RunningPragmata.start(database, clock, List.of(Pragmata.class));
    this.database = program.getBean(DSLContext.class);
    program
        .getBean(Founding.class)
        .found(
            new NewCompany(
                "GB",
                "Wandering Gates",
                "1 Dice Street, Ostmere, OS4 1AA",
                "",
                "",
                "GB000000000",
                BankAccount.NONE,
                LocalDate.of(2026, 11, 1),
                Map.of(),
                NewCompany.Differs.NOTHING),
            List.of(
                new NewPerson("Hal", "hal", PASSWORD, Role.OFFICE, null),
                new NewPerson("May", "may", PASSWORD, Role.BOOKKEEPER, null),
                new NewPerson("Abe", "abe", PASSWORD, Role.TECHNICIAN, new BigDecimal("19.60")),
                new NewPerson("Bea", "bea", PASSWORD, Role.TECHNICIAN, new BigDecimal("17.35")),
                new NewPerson("Cyd", "cyd", PASSWORD, Role.TECHNICIAN, new BigDecimal("12.21"))));
    String address = RunningPragmata.address(program);
    office = Visitor.signedInAt(address, "hal");
    bookkeeper = Visitor.signedInAt(address, "may");
    customer = Visitor.at(address);
    technicians =
        Map.of(
            "abe", Visitor.signedInAt(address, "abe"),
            "bea", Visitor.signedInAt(address, "bea"),
            "cyd", Visitor.signedInAt(address, "cyd"));
    takeInParts();
  }

  private void takeInParts() {
    long list =
        office
            .upload("/api/imports?kind=price_list", PARTS.getBytes(StandardCharsets.UTF_8))
            .json()
            .path("id")
            .asLong();
    office.post(
        "/api/imports/" + list + "/take",
        Map.of("mapping", List.of("number", "name", "price", "cost")));
    RunningPragmata.until(
        () -> office.get("/api/imports/" + list).json().path("state").asString().equals("taken"));
    for (int part = 1; part <= 4; part++) {
      deliver(part, 1_000, "10.00");
    }
  }

  private void deliver(int part, int quantity, String unitCost) {
    long id = id("select id from part where number = ?", "W-" + part);
    office.post(
        "/api/held-parts/" + id + "/deliveries",
        Map.of("quantity", String.valueOf(quantity), "unitCost", unitCost));
  }

  Visitor office() {
    return office;
  }

  Visitor bookkeeper() {
    return bookkeeper;
  }

  /** Somebody behind a link. */
  Visitor customer() {
    return customer;
  }

  Visitor technician(String username) {
    return technicians.get(username);
  }

  /** Who has this visit; somebody who has it not, where nobody has. */
  Visitor technicianOf(Record visit) {
    if (visit.get("technician_id") == null) {
      return technician("abe");
    }
    return technician(
        database
            .fetchSingle("select username from person where id = ?", visit.get("technician_id"))
            .get(0, String.class));
  }

  DSLContext database() {
    return database;
  }

  long personId(String username) {
    return id("select id from person where username = ?", username);
  }

  long id(String query, Object... values) {
    return database.fetchSingle(query, values).get(0, Long.class);
  }

  /**
   * One row of a query that is ordered by it, as chance has it; now and then one of those that the
   * move is not for.
   *
   * @param which the condition of those that it is for
   * @return null where there is none
   */
  @Nullable Record pick(Dice dice, String from, String which) {
    String condition = dice.oneIn(8) ? "true" : which;
    int count =
        database.fetchSingle("select count(*) " + from + " where " + condition).get(0, int.class);
    // What came last is what people mostly work on.
    int back =
        dice.oneIn(3) ? dice.next(Math.max(count, 1)) : dice.next(Math.max(Math.min(count, 6), 1));
    return database.fetchOne(
        "select t.* %s where %s order by t.id desc limit 1 offset %d"
            .formatted(from, condition, back));
  }

  LocalDate today() {
    return clock.instant().atZone(ZONE).toLocalDate();
  }

  void pass(Duration time) {
    clock.advance(time);
  }

  /** The next working day begins. */
  void sleep() {
    LocalDate next = today().plusDays(1);
    while (next.getDayOfWeek() == DayOfWeek.SATURDAY || next.getDayOfWeek() == DayOfWeek.SUNDAY) {
      next = next.plusDays(1);
    }
    var morning = ZonedDateTime.of(next, LocalTime.of(8, 0), ZONE).toInstant();
    clock.advance(Duration.between(clock.instant(), morning));
  }

  /** Rows on where money stands that are not as a computation from scratch has them. */
  Set<String> wrongStandings() {
    return program
        .getBean(TransactionTemplate.class)
        .execute(
            status -> {
              Set<String> stored = standings();
              program.getBean(Standings.class).recompute();
              Set<String> computed = standings();
              status.setRollbackOnly();
              var wrong = new HashSet<>(stored);
              wrong.removeAll(computed);
              computed.removeAll(stored);
              wrong.addAll(computed);
              return wrong;
            });
  }

  private Set<String> standings() {
    return new HashSet<>(
        database
            .resultQuery("select row_to_json(s)::text from standing s")
            .fetchInto(String.class));
  }

  @Override
  public void close() {
    program.close();
  }
}
