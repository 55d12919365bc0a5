package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.TreeSet;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class ListsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  @ParameterizedTest
  @ValueSource(strings = {"quoted", "won", "booked", "worked", "checked", "billed", "paid"})
  void a_stage_of_the_money_line_is_the_sum_of_its_worklist(String stage) {
    program.clock().set("2026-11-24T06:30");
    JsonNode list = office.get("/api/worklists/" + stage).json();
    JsonNode total = null;
    for (JsonNode candidate : office.get("/api/money-line").json()) {
      total = candidate.path("stage").asString().equals(stage) ? candidate : total;
    }
    assertThat(total).isNotNull();
    assertThat(list.path("amountMinor")).isEqualTo(total.path("amountMinor"));
    assertThat(list.path("count")).isEqualTo(total.path("count"));
  }

  @Test
  void a_worklist_sorts_by_margin_with_the_worst_first() {
    var margins =
        texts(office.get("/api/worklists/billed?sort=margin").json().path("rows"), "marginPercent");
    assertThat(margins.stream().map(Double::valueOf).toList()).isSorted();
  }

  @Test
  void a_worklist_filters_by_customer_and_technician() {
    long imre =
        program
            .database()
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.USERNAME.eq("imre"))
            .fetchSingle(PERSON.ID);
    var rows = office.get("/api/worklists/billed?technicianId=" + imre).json().path("rows");
    assertThat(texts(rows, "technician")).isNotEmpty().containsOnly("Imre Vasko");
    String customer = rows.path(0).path("customer").asString();
    var filtered =
        office
            .get(
                "/api/worklists/billed?filter="
                    + customer.substring(0, 4).strip().replace(" ", "%20"))
            .json();
    assertThat(texts(filtered.path("rows"), "customer")).contains(customer);
  }

  @Test
  void a_file_holds_no_cell_that_a_spreadsheet_would_run() {
    var database = program.database();
    String old =
        database
            .select(CUSTOMER.NAME)
            .from(CUSTOMER)
            .where(CUSTOMER.ID.eq(4L))
            .fetchSingle()
            .value1();
    new SwingGate(program, "ngozi").planned();
    database
        .update(CUSTOMER)
        .set(CUSTOMER.NAME, "=HYPERLINK(1)")
        .where(CUSTOMER.ID.eq(4L))
        .execute();
    try {
      assertThat(office.get("/api/worklists/booked/file").text())
          .contains("'=HYPERLINK(1)")
          .doesNotContain(",=HYPERLINK");
    } finally {
      database.update(CUSTOMER).set(CUSTOMER.NAME, old).where(CUSTOMER.ID.eq(4L)).execute();
    }
  }

  @Test
  void an_accounts_running_balance_ends_at_its_balance() {
    JsonNode account = office.get("/api/books/accounts/1050").json();
    assertThat(account.path("entries").path(0).path("balanceMinor"))
        .isEqualTo(account.path("balanceMinor"));
  }

  @Test
  void the_trial_balance_balances() {
    JsonNode balance = office.get("/api/books/trial-balance").json();
    assertThat(balance.path("debitMinor")).isEqualTo(balance.path("creditMinor"));
  }

  /** What is written by people, or is a name, a number, a text or a key: never a word of a list. */
  @Test
  void every_plain_string_of_the_api_is_on_the_list_of_free_texts() throws Exception {
    var plain = new TreeSet<String>();
    JsonNode schemas =
        JsonMapper.builder()
            .build()
            .readTree(Files.readString(Path.of("../docs/openapi.json")))
            .path("components")
            .path("schemas");
    for (var schema : schemas.properties()) {
      for (var property : schema.getValue().path("properties").properties()) {
        JsonNode type = property.getValue();
        JsonNode each = type.has("items") ? type.path("items") : type;
        boolean isString = each.path("type").toString().contains("\"string\"");
        if (isString && !each.has("enum") && !each.has("format")) {
          plain.add(schema.getKey() + "." + property.getKey());
        }
      }
    }
    assertThat(plain)
        .isEqualTo(new TreeSet<>(Files.readAllLines(Path.of("src/test/resources/free-texts.txt"))));
  }

  @Test
  void every_operation_of_the_api_is_a_verb_with_what_it_is_done_to() {
    for (JsonNode path : office.get("/api/description").json().path("paths")) {
      for (JsonNode operation : path) {
        assertThat(operation.path("operationId").asString()).matches("[a-z]+[A-Z][A-Za-z]+");
      }
    }
  }

  @Test
  void the_committed_description_of_the_api_is_not_stale() throws Exception {
    JsonNode committed =
        JsonMapper.builder().build().readTree(Files.readString(Path.of("../docs/openapi.json")));
    var found = office.get("/api/description");
    Files.writeString(Path.of("target", "openapi.json"), found.text());
    assertThat(found.json())
        .withFailMessage(
            "docs/openapi.json is stale: commit what ./pragmata describe makes, or target/openapi.json")
        .isEqualTo(committed);
  }

  @Test
  void jobs_are_listed_by_customer_state_and_whether_they_are_closed() {
    var gate = new SwingGate(program, "piet").billed();
    long customer = gate.sheet().path("customerId").asLong();
    JsonNode closed = rows("/api/jobs?closed=true&state=checked&customerId=" + customer);
    assertThat(closed.valueStream().filter(row -> row.path("id").asLong() == gate.job()))
        .singleElement()
        .satisfies(row -> assertThat(row.path("closedBy").asString()).isEqualTo("invoice"));
    assertThat(texts(closed, "closedBy")).doesNotContain("");
    assertThat(texts(rows("/api/jobs?closed=false"), "id"))
        .doesNotContain(String.valueOf(gate.job()));
  }

  @Test
  void every_job_is_on_exactly_one_page_of_the_list() {
    var seen = new ArrayList<String>();
    String next = "";
    do {
      JsonNode page = office.get("/api/jobs?after=" + next).json();
      seen.addAll(texts(page.path("rows"), "id"));
      next = page.path("next").isNull() ? "" : page.path("next").asString();
    } while (!next.isEmpty());
    assertThat(seen).doesNotHaveDuplicates().hasSize(program.database().fetchCount(JOB));
  }

  @Test
  void visits_are_listed_by_day_technician_and_state() {
    var gate = new SwingGate(program, "piet").checked();
    JsonNode visit = gate.sheet().path("visits").path(0);
    String day = visit.path("day").asString();
    JsonNode rows =
        rows(
            "/api/visits?state=checked&from="
                + day
                + "&to="
                + day
                + "&technicianId="
                + visit.path("technicianId").asLong());
    assertThat(texts(rows, "id")).contains(String.valueOf(gate.visit()));
    assertThat(texts(rows, "day")).containsOnly(day);
    assertThat(texts(rows("/api/visits?jobId=" + gate.job()), "id"))
        .containsExactly(String.valueOf(gate.visit()));
  }

  @Test
  void the_terms_of_the_day_cost_and_charge_the_worked_example() {
    var gate = new SwingGate(program, "imre").checked();
    JsonNode terms = office.get("/api/terms").json();
    JsonNode normal = terms.path("rateClasses").path(0);
    assertThat(normal.path("chargePerHour").decimalValue()).isEqualByComparingTo("58");
    long imre = gate.sheet().path("visits").path(0).path("technicianId").asLong();
    var wage =
        terms
            .path("wages")
            .valueStream()
            .filter(w -> w.path("personId").asLong() == imre)
            .findFirst();
    assertThat(wage.orElseThrow().path("costPerHour").decimalValue())
        .isEqualByComparingTo("24.108");
    assertThat(terms.path("stepMinutes").asInt()).isEqualTo(15);
    assertThat(terms.path("costPerMile").decimalValue()).isEqualByComparingTo("0.38");
  }

  private JsonNode rows(String path) {
    return office.get(path).json().path("rows");
  }
}
