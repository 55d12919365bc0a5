package app.pragmata.server;

import static app.pragmata.server.generated.Tables.PERSON;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.people.Role;
import app.pragmata.server.founding.Founding;
import app.pragmata.server.founding.NewCompany;
import app.pragmata.server.founding.NewPerson;
import app.pragmata.server.laws.Laws;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/**
 * A company in Helsinki is founded in an empty database by the product alone, and works from a
 * quote to a posted invoice with nothing else.
 */
class FoundingTest {
  private static final String PASSWORD = "ostmere";

  private static final SettableClock CLOCK =
      new SettableClock(Instant.parse("2026-11-24T06:00:00Z"));

  private static final NewCompany COMPANY =
      new NewCompany(
          "FI",
          "Kivirannan Portti Oy",
          "Satamakatu 4, 00160 Kiviranta",
          "",
          "",
          "FI00000000",
          "",
          LocalDate.of(2026, 11, 23),
          Map.of(),
          NewCompany.Differs.NOTHING);

  private static ConfigurableApplicationContext program;
  private static DSLContext database;
  private static Visitor office;
  private static Visitor technician;

  @BeforeAll
  static void found() {
    String name = RunningPragmata.databaseForTests() + "_founded";
    DemoTemplate.makeEmpty(name);
    program = RunningPragmata.start(name, CLOCK, List.of(Pragmata.class));
    program
        .getBean(Founding.class)
        .found(
            COMPANY,
            List.of(
                new NewPerson("Aino Kivi", "aino", PASSWORD, Role.OFFICE, null),
                new NewPerson(
                    "Eero Salo", "eero", PASSWORD, Role.TECHNICIAN, new BigDecimal("19.00"))));
    database = program.getBean(DSLContext.class);
    office = Visitor.signedInAt(RunningPragmata.address(program), "aino");
    technician = Visitor.signedInAt(RunningPragmata.address(program), "eero");
  }

  @AfterAll
  static void stop() {
    program.close();
  }

  private static JsonNode done(Visitor.Answer answer) {
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return answer.json();
  }

  private static JsonNode sheet(long job) {
    return done(office.get("/api/jobs/" + job));
  }

  private static void at(String instant) {
    CLOCK.advance(java.time.Duration.between(CLOCK.instant(), Instant.parse(instant)));
  }

  /** From the caller to the invoice; gives the job's id. */
  private static long wholeLife() {
    long customer =
        done(office.post(
                "/api/customers",
                Map.of(
                    "name", "Rouva Lehto", "phone", "050 000 0001", "place", "Rantatie 2, 00570")))
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
    done(
        office.post(
            "/api/quotes/" + quote + "/accept", Map.of("version", 2, "acceptedBy", "Rouva Lehto")));
    long job = done(office.post("/api/quotes/" + quote + "/job", Map.of())).path("id").asLong();
    long visit = sheet(job).path("visits").path(0).path("id").asLong();
    long eero =
        database
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.USERNAME.eq("eero"))
            .fetchSingle(PERSON.ID);
    done(
        office.put(
            "/api/visits/" + visit + "/plan",
            Map.of(
                "version", 1,
                "technicianId", eero,
                "day", "2026-11-24",
                "start", "10",
                "expected", "1:30")));
    String pocket = "/api/pocket/visits/" + visit + "/";
    at("2026-11-24T07:30:00Z");
    done(technician.post(pocket + "drive", Map.of()));
    at("2026-11-24T08:00:00Z");
    done(technician.post(pocket + "arrive", Map.of("miles", "10")));
    done(technician.post(pocket + "start-work", Map.of()));
    at("2026-11-24T09:30:00Z");
    done(technician.post(pocket + "finish", Map.of("note", "Valmis.")));
    // Half past midnight there, and still yesterday in London.
    at("2026-11-24T22:30:00Z");
    done(
        office.post(
            "/api/visits/" + visit + "/check",
            Map.of("version", sheet(job).path("visits").path(0).path("version").asInt())));
    done(
        office.post(
            "/api/jobs/" + job + "/invoice",
            Map.of("version", sheet(job).path("version").asInt())));
    return job;
  }

  @Test
  void from_a_quote_to_a_posted_invoice_in_its_own_zone_currency_and_taxes() {
    long job = wholeLife();
    JsonNode sheet = sheet(job);
    // An hour and a half at 68.00 and a call-out at 55.00, with 25.5 %.
    JsonNode invoice = sheet.path("billing").path("invoices").path(0);
    assertThat(invoice.path("number").asLong()).isEqualTo(1);
    assertThat(invoice.path("netMinor").asLong()).isEqualTo(157_00);
    // Labour of 1:30 and driving of 0:30 at 19.00 x 1.25, ten miles at 0.60.
    assertThat(sheet.path("cost").path("actualMinor").asLong()).isEqualTo(35_63 + 11_88 + 6_00);
    JsonNode document =
        done(office.get("/api/invoices/" + invoice.path("id").asLong())).path("document");
    assertThat(document.path("vatMinor").asLong()).isEqualTo(40_04);
    assertThat(document.path("currency").asString()).isEqualTo("EUR");
    assertThat(document.path("locale").asString()).isEqualTo("fi-FI");
    assertThat(document.path("invoiceDate").asString()).isEqualTo("2026-11-25");
    assertThat(document.path("dueDate").asString()).isEqualTo("2026-12-09");
    assertThat(document.path("vat").path(0).path("words").asString()).isEqualTo("ALV 25,5 %");
    assertThat(document.path("jobs").path(0).path("lines").findValuesAsString("description"))
        .containsExactly("Työ", "Käyntimaksu");
    assertThat(
            database
                .fetchSingle("select content::text from quote_edition order by quote_id limit 1")
                .get(0, String.class))
        .contains("Hinta on kiinteä");
    assertThat(Laws.check(database)).allMatch(Laws.Finding::holds);
  }

  @Test
  void its_accounts_and_kinds_of_job_are_in_its_language() {
    assertThat(database.fetchValues("select name from account order by code").getFirst())
        .isEqualTo("Varasto");
    assertThat(database.fetchValues("select name from kind_of_job order by id").getFirst())
        .isEqualTo("Korjaus");
  }

  @Test
  void a_second_company_is_not_founded() {
    assertThatThrownBy(() -> program.getBean(Founding.class).found(COMPANY, List.of()))
        .isInstanceOf(Refused.class)
        .hasMessageContaining("There is a company already");
  }
}
