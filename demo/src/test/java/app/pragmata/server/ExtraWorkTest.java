package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A running job to which the customer said yes to more. */
class ExtraWorkTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  @Test
  void a_jobs_promise_is_the_sum_of_its_accepted_quotes() {
    gate.planned();
    long extra = accepted("Repair", site());
    extend(extra);
    JsonNode sheet = gate.sheet();
    assertThat(texts(sheet.path("promises"), "netMinor")).containsExactly("61200", "9000");
    assertThat(sheet.path("billing").path("fixedPrice").path("netMinor").asLong())
        .isEqualTo(702_00);
    assertThat(sheet.path("cost").path("rungs").path(0).path("quotedMinor").asLong())
        .isEqualTo(labourCost(gate.quote()) + labourCost(extra));
  }

  @Test
  void the_same_press_twice_adds_the_work_once() {
    gate.planned();
    long extra = accepted("Repair", site());
    extend(extra);
    assertThat(extend(extra).status()).isEqualTo(200);
    assertThat(gate.sheet().path("promises")).hasSize(2);
  }

  @Test
  void a_quote_of_another_kind_of_promise_is_a_job_of_its_own() {
    gate.planned();
    assertThat(extend(accepted("Service", site())).rule()).isEqualTo("PROMISES_OF_TWO_KINDS");
    assertThat(gate.sheet().path("promises")).hasSize(1);
  }

  @Test
  void work_at_another_site_is_a_job_of_its_own() {
    gate.planned();
    long other =
        program
            .database()
            .select(SITE.ID)
            .from(SITE)
            .where(SITE.ID.ne(site()))
            .limit(1)
            .fetchSingle()
            .value1();
    assertThat(extend(accepted("Repair", other)).rule()).isEqualTo("OTHER_SITE");
  }

  @Test
  void a_quote_that_is_a_job_already_does_not_become_part_of_another() {
    gate.planned();
    long extra = accepted("Repair", site());
    gate.office().post("/api/quotes/" + extra + "/job", Map.of());
    assertThat(extend(extra).rule()).isEqualTo("QUOTE_IN_A_JOB");
  }

  @Test
  void a_job_that_is_billed_promises_nothing_more() {
    gate.billed();
    assertThat(extend(accepted("Repair", site())).rule()).isEqualTo("JOB_CLOSED");
  }

  @Test
  void extra_work_on_a_finished_job_waits_for_a_visit_of_its_own() {
    gate.finished();
    extend(accepted("Repair", site()));
    JsonNode visits = gate.sheet().path("visits");
    assertThat(texts(visits, "state")).containsExactly("finished", "unplanned");
    assertThat(visits.path(1).path("expectedMinutes").asInt()).isEqualTo(60);
  }

  @Test
  void extra_work_before_the_visit_is_done_on_it() {
    gate.planned();
    extend(accepted("Repair", site()));
    assertThat(gate.sheet().path("visits")).hasSize(1);
  }

  @Test
  void the_deposits_of_all_its_quotes_come_off_the_jobs_invoice() {
    gate.checked();
    long extra = accepted("Repair", site());
    receive(gate.quote(), "100.00");
    receive(extra, "20.00");
    extend(extra);
    JsonNode visit = gate.sheet().path("visits").path(1);
    gate.office()
        .put(
            "/api/visits/" + visit.path("id").asLong() + "/plan",
            Map.of(
                "version",
                1,
                "technicianId",
                technician(),
                "day",
                "today",
                "start",
                "9",
                "expected",
                "1h",
                "overruled",
                SwingGate.ANYTHING));
    gate.office()
        .post(
            "/api/visits/" + visit.path("id").asLong() + "/call-off",
            Map.of("version", 2, "reason", "Done on the first visit"));
    gate.office().post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", gate.version()));
    assertThat(texts(gate.invoice().path("receipts"), "amountMinor"))
        .containsExactly("10000", "2000");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void an_accepted_quote_names_the_running_jobs_of_its_site_and_kind_of_promise() {
    gate.planned();
    JsonNode extra = quote(accepted("Repair", site()));
    assertThat(texts(extra.path("runningJobs"), "id")).contains(String.valueOf(gate.job()));
    JsonNode other = quote(accepted("Service", site()));
    assertThat(texts(other.path("runningJobs"), "id")).doesNotContain(String.valueOf(gate.job()));
  }

  private Visitor.Answer extend(long quote) {
    return gate.office().post("/api/quotes/" + quote + "/extra-work", Map.of("jobId", gate.job()));
  }

  private void receive(long quote, String amount) {
    gate.office().post("/api/receipts", Map.of("quoteId", quote, "amount", amount));
  }

  private JsonNode quote(long id) {
    return gate.office().get("/api/quotes/" + id).json();
  }

  /** One hour of labour and 32.00 of hire, 90.00 in all, with the customer's yes. */
  private long accepted(String kind, long site) {
    long id =
        gate.office()
            .post(
                "/api/quotes",
                Map.of(
                    "version",
                    0,
                    "siteId",
                    site,
                    "kindOfJobId",
                    kind(kind),
                    "title",
                    "More work",
                    "lines",
                    List.of(
                        Map.of(
                            "category",
                            "labour",
                            "description",
                            "More",
                            "time",
                            "1:00",
                            "price",
                            "58"),
                        Map.of(
                            "category",
                            "other",
                            "description",
                            "Hire",
                            "quantity",
                            "1",
                            "cost",
                            "0",
                            "price",
                            "32"))))
            .json()
            .path("id")
            .asLong();
    gate.office().post("/api/quotes/" + id + "/send", Map.of("version", 1));
    gate.office()
        .post("/api/quotes/" + id + "/accept", Map.of("version", 2, "acceptedBy", "M. Okafor"));
    return id;
  }

  private long labourCost(long quote) {
    return quote(quote).path("computed").path("lines").path(0).path("costMinor").asLong();
  }

  private long site() {
    return quote(gate.quote()).path("siteId").asLong();
  }

  private long technician() {
    return gate.sheet().path("visits").path(0).path("technicianId").asLong();
  }

  private long kind(String name) {
    return program
        .database()
        .select(KIND_OF_JOB.ID)
        .from(KIND_OF_JOB)
        .where(KIND_OF_JOB.NAME.eq(name))
        .fetchSingle()
        .value1();
  }
}
