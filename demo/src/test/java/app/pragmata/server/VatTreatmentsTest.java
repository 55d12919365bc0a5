package app.pragmata.server;

import static app.pragmata.server.generated.Tables.SITE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** How VAT applies: by line, by job and by customer. */
class VatTreatmentsTest {
  private static final String REASON = "Building work, the customer accounts for the VAT";

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private long builder() {
    Visitor.Answer made =
        gate.office()
            .post(
                "/api/customers",
                Map.of("name", "Lowmarsh Builders", "phone", "01632 960777", "place", "Fen Road"));
    return made.json().path("id").asLong();
  }

  private Visitor.Answer treat(long customer, String vatCode, String vatNumber) {
    return gate.office()
        .put(
            "/api/customers/" + customer,
            Map.of(
                "version",
                1,
                "name",
                "Lowmarsh Builders",
                "phone",
                "01632 960777",
                "paymentDays",
                "30",
                "vatCode",
                vatCode,
                "vatNumber",
                vatNumber));
  }

  private SwingGate forBuilder(String vatCode, String vatNumber) {
    long customer = builder();
    Visitor.Answer treated = treat(customer, vatCode, vatNumber);
    assertThat(treated.status()).as(treated.text()).isEqualTo(200);
    long site =
        program
            .database()
            .select(SITE.ID)
            .from(SITE)
            .where(SITE.CUSTOMER_ID.eq(customer))
            .fetchSingle(SITE.ID);
    return gate.agree("siteId", site).agree("equipmentId", null).agree("promise", "fixed_price");
  }

  private Visitor.Answer decide(SwingGate of, String vatCode) {
    return of.office()
        .put("/api/jobs/" + of.job() + "/vat", Map.of("version", of.version(), "vatCode", vatCode));
  }

  private static void bill(SwingGate checked) {
    Visitor.Answer billed =
        checked
            .office()
            .post("/api/jobs/" + checked.job() + "/invoice", Map.of("version", checked.version()));
    assertThat(billed.status()).as(billed.text()).isEqualTo(200);
  }

  private static Map<String, Object> other(String description, String price, String vat) {
    return Map.of(
        "category",
        "other",
        "description",
        description,
        "quantity",
        "1",
        "cost",
        "1",
        "price",
        price,
        "vat",
        vat);
  }

  @Test
  void who_accounts_for_vat_themselves_is_quoted_and_billed_without_it_and_the_bill_says_why() {
    forBuilder("reverse_charge", "GB 123 4567 89").checked();
    JsonNode draft = gate.sheet().path("billing").path("draft");
    assertThat(draft.path("grossMinor").asLong())
        .isEqualTo(draft.path("netMinor").asLong())
        .isEqualTo(612_00);
    bill(gate);
    JsonNode vat = gate.invoice().path("vat");
    assertThat(vat).hasSize(1);
    assertThat(vat.path(0).path("category").asString()).isEqualTo("AE");
    assertThat(vat.path(0).path("percent").asString()).isEqualTo("0");
    assertThat(vat.path(0).path("reason").asString()).isEqualTo(REASON);
    assertThat(vat.path(0).path("netMinor").asLong()).isEqualTo(612_00);
    assertThat(vat.path(0).path("vatMinor").asLong()).isZero();
    assertThat(gate.invoice().path("grossMinor").asLong()).isEqualTo(612_00);
  }

  @Test
  void a_customer_who_accounts_for_vat_needs_a_vat_number() {
    Visitor.Answer refused = treat(builder(), "reverse_charge", "");
    assertThat(refused.status()).isEqualTo(422);
    assertThat(refused.pointer()).isEqualTo("/vatNumber");
  }

  @Test
  void a_treatment_that_there_is_not_is_refused_by_its_field() {
    assertThat(treat(builder(), "luxury", "").pointer()).isEqualTo("/vatCode");
    gate.checked();
    assertThat(decide(gate, "luxury").pointer()).isEqualTo("/vatCode");
  }

  @Test
  void a_line_of_its_own_treatment_keeps_it_beside_the_others() {
    gate.agree("promise", "fixed_price").offer(other("Training", "100", "exempt")).billed();
    JsonNode vat = gate.invoice().path("vat");
    assertThat(vat).hasSize(2);
    assertThat(vat.path(0).path("words").asString()).isEqualTo("VAT 20 %");
    assertThat(vat.path(1).path("words").asString())
        .isEqualTo("Exempt from VAT: Training of a customer's people");
    assertThat(vat.path(1).path("netMinor").asLong()).isEqualTo(100_00);
    assertThat(vat.path(1).path("vatMinor").asLong()).isZero();
  }

  @Test
  void what_is_outside_the_scope_of_vat_is_not_quoted_beside_what_is_not() {
    gate.offer(other("Damages", "100", "outside_scope")).quoted();
    Visitor.Answer refused =
        gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 1));
    assertThat(refused.status()).isEqualTo(409);
    assertThat(refused.text()).contains("stands alone on its quote");
  }

  @Test
  void what_is_outside_the_scope_of_vat_is_not_billed_beside_what_is_not() {
    gate.checked();
    SwingGate second = new SwingGate(program, "imre").checked();
    decide(second, "outside_scope");
    Visitor.Answer refused =
        gate.office()
            .post(
                "/api/invoices",
                Map.of(
                    "jobs",
                    List.of(
                        Map.of("jobId", gate.job(), "version", gate.version(), "kind", "final"),
                        Map.of(
                            "jobId", second.job(), "version", second.version(), "kind", "final"))));
    assertThat(refused.status()).as(refused.text()).isEqualTo(409);
    assertThat(refused.text()).contains("stands alone on its invoice");
    bill(second);
    assertThat(second.invoice().path("vat").path(0).path("category").asString()).isEqualTo("O");
  }

  @Test
  void what_the_office_decides_for_a_job_holds_for_its_time_and_parts_and_is_told() {
    gate.checked();
    decide(gate, "reduced");
    JsonNode billing = gate.sheet().path("billing");
    assertThat(billing.path("vatCode").asString()).isEqualTo("reduced");
    assertThat(billing.path("draft").path("grossMinor").asLong()).isEqualTo(473_54);
    assertThat(billing.path("draft").path("lines").path(0).path("vatSaidBy").asString())
        .isEqualTo("job");
    decide(gate, "");
    assertThat(gate.sheet().path("billing").path("draft").path("grossMinor").asLong())
        .isEqualTo(541_19);
  }

  @Test
  void a_preview_takes_the_treatment_of_the_sites_customer() {
    forBuilder("reverse_charge", "GB 123 4567 89").quoted();
    long site = gate.office().get("/api/quotes/" + gate.quote()).json().path("siteId").asLong();
    var form =
        new HashMap<String, Object>(
            Map.of(
                "lines",
                List.of(Map.of("category", "labour", "description", "Fit it", "time", "1:00"))));
    JsonNode usual = gate.office().post("/api/quotes/preview", form).json();
    form.put("siteId", site);
    JsonNode theirs = gate.office().post("/api/quotes/preview", form).json();
    assertThat(usual.path("lines").path(0).path("vatCode").asString()).isEqualTo("standard");
    assertThat(theirs.path("lines").path(0).path("vatCode").asString()).isEqualTo("reverse_charge");
    assertThat(theirs.path("totals").path("vatMinor").asLong()).isZero();
  }

  @Test
  void a_credit_of_an_invoice_without_vat_is_without_vat_for_the_same_reason() {
    forBuilder("reverse_charge", "GB 123 4567 89").billed();
    Visitor.Answer credited =
        gate.office()
            .post(
                "/api/invoices/" + gate.invoice().path("id").asLong() + "/credits",
                Map.of(
                    "version",
                    gate.invoice().path("version").asInt(),
                    "kind",
                    "price",
                    "reason",
                    "Agreed on the phone"));
    assertThat(credited.status()).as(credited.text()).isEqualTo(200);
    JsonNode note =
        gate.office()
            .get("/api/credits/" + credited.json().path("id").asLong())
            .json()
            .path("document");
    assertThat(note.path("grossMinor").asLong()).isEqualTo(612_00);
    assertThat(note.path("vat").path(0).path("category").asString()).isEqualTo("AE");
    assertThat(note.path("vat").path(0).path("reason").asString()).isEqualTo(REASON);
  }
}
