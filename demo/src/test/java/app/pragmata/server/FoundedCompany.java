package app.pragmata.server;

import static app.pragmata.server.generated.Tables.PERSON;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.BankAccount;
import app.pragmata.core.people.Role;
import app.pragmata.server.founding.Founding;
import app.pragmata.server.founding.NewCompany;
import app.pragmata.server.founding.NewPerson;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.TemporalAdjusters;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/** A company in Helsinki, founded in an empty database by the product alone. */
public final class FoundedCompany implements AutoCloseable {
  static final NewCompany COMPANY =
      new NewCompany(
          "FI",
          "Kivirannan Portti Oy",
          "Satamakatu 4, 00160 Kiviranta",
          "",
          "",
          "FI00000000",
          BankAccount.NONE,
          LocalDate.of(2026, 11, 23),
          Map.of(),
          NewCompany.Differs.NOTHING);

  private static final String PASSWORD = "ostmere";

  private final SettableClock clock;
  private int callers;
  private final ConfigurableApplicationContext program;
  private final DSLContext database;
  private final Visitor owner;
  private final Visitor office;
  private final Visitor technician;

  /**
   * Founds it in a database of this name.
   *
   * @param now the moment of its clock
   * @param beside what runs in the program besides it
   */
  public FoundedCompany(String name, String now, Class<?>... beside) {
    String databaseName = RunningPragmata.databaseForTests() + "_" + name;
    DemoTemplate.makeEmpty(databaseName);
    clock = new SettableClock(Instant.parse(now));
    var parts = new java.util.ArrayList<Class<?>>(List.of(Pragmata.class));
    parts.addAll(List.of(beside));
    program = RunningPragmata.start(databaseName, clock, parts);
    program
        .getBean(Founding.class)
        .found(
            COMPANY,
            List.of(
                new NewPerson("Liisa Kivi", "liisa", PASSWORD, Role.OWNER, null),
                new NewPerson("Aino Kivi", "aino", PASSWORD, Role.OFFICE, null),
                new NewPerson(
                    "Eero Salo", "eero", PASSWORD, Role.TECHNICIAN, new BigDecimal("19.00"))));
    database = program.getBean(DSLContext.class);
    owner = signedIn("liisa");
    office = signedIn("aino");
    technician = signedIn("eero");
  }

  /** Where it is reached. */
  public String address() {
    return RunningPragmata.address(program);
  }

  Visitor signedIn(String username) {
    return Visitor.signedInAt(address(), username);
  }

  <T> T bean(Class<T> type) {
    return program.getBean(type);
  }

  /** Its rows. */
  public DSLContext database() {
    return database;
  }

  Visitor owner() {
    return owner;
  }

  Visitor office() {
    return office;
  }

  long personId(String username) {
    return database
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq(username))
        .fetchSingle(PERSON.ID);
  }

  static JsonNode done(Visitor.Answer answer) {
    assertThat(answer.status()).as(answer.text()).isBetween(200, 204);
    return answer.json();
  }

  JsonNode sheet(long job) {
    return done(office.get("/api/jobs/" + job));
  }

  /** Moves its clock on to the morning of the next such day; gives the day. */
  String next(DayOfWeek dayOfWeek) {
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneId.of("Europe/Helsinki"));
    String day = today.with(TemporalAdjusters.next(dayOfWeek)).toString();
    at(day + "T06:00:00Z");
    return day;
  }

  /** Moves its clock to a moment. */
  void at(String instant) {
    clock.advance(Duration.between(clock.instant(), Instant.parse(instant)));
  }

  /** A quote of an hour and a half and a call-out that a new customer was sent; gives its id. */
  public long sentQuote() {
    long customer =
        done(office.post(
                "/api/customers",
                Map.of(
                    "name",
                    "Rouva Lehto",
                    "phone",
                    "050 000 " + "%04d".formatted(++callers),
                    "place",
                    "Rantatie 2, 00570")))
            .path("id")
            .asLong();
    long site =
        done(office.get("/api/customers/" + customer)).path("sites").path(0).path("id").asLong();
    long kind =
        database
            .fetchSingle("select id from kind_of_job where name = 'Korjaus'")
            .get(0, Long.class);
    long quote =
        done(office.post(
                "/api/quotes",
                Map.of(
                    "version",
                    0,
                    "siteId",
                    site,
                    "kindOfJobId",
                    kind,
                    "title",
                    "Portti ei sulkeudu",
                    "promise",
                    "fixed_price",
                    "lines",
                    List.of(
                        Map.of("category", "labour", "time", "1:30"),
                        Map.of("category", "drive", "time", "0:30", "miles", "10")))))
            .path("id")
            .asLong();
    done(office.post("/api/quotes/" + quote + "/send", Map.of("version", 1)));
    return quote;
  }

  /**
   * From a caller to the checked work of an hour and a half, ten miles away, on a day; gives the
   * job's id.
   */
  long checkedJob(String day) {
    long quote = sentQuote();
    done(
        office.post(
            "/api/quotes/" + quote + "/accept", Map.of("version", 2, "acceptedBy", "Rouva Lehto")));
    long job = done(office.post("/api/quotes/" + quote + "/job", Map.of())).path("id").asLong();
    long visit = sheet(job).path("visits").path(0).path("id").asLong();
    done(
        office.put(
            "/api/visits/" + visit + "/plan",
            Map.of(
                "version",
                1,
                "technicianId",
                personId("eero"),
                "day",
                day,
                "start",
                "10",
                "expected",
                "1:30",
                "overruled",
                SwingGate.ANYTHING)));
    String pocket = "/api/pocket/visits/" + visit + "/";
    at(day + "T07:30:00Z");
    done(technician.post(pocket + "drive", Map.of()));
    at(day + "T08:00:00Z");
    done(technician.post(pocket + "arrive", Map.of("miles", "10")));
    done(technician.post(pocket + "start-work", Map.of()));
    at(day + "T09:30:00Z");
    done(technician.post(pocket + "finish", Map.of("note", "Valmis.")));
    // Half past midnight there, and still yesterday in London.
    at(day + "T22:30:00Z");
    done(
        office.post(
            "/api/visits/" + visit + "/check",
            Map.of("version", sheet(job).path("visits").path(0).path("version").asInt())));
    return job;
  }

  /** Bills a job; gives its invoice as the sheet has it. */
  JsonNode invoice(long job) {
    done(
        office.post(
            "/api/jobs/" + job + "/invoice",
            Map.of("version", sheet(job).path("version").asInt())));
    return sheet(job).path("billing").path("invoices").path(0);
  }

  @Override
  public void close() {
    program.close();
  }
}
