package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.MAIL;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** Work that somebody else is ordered to do for a job, and their bill. */
class WorkOrdersTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");

  @BeforeEach
  void prepare() {
    gate.planned();
  }

  @AfterEach
  void the_books_are_right() {
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private Visitor.Answer order(Map<String, String> form) {
    return gate.office().post("/api/jobs/" + gate.job() + "/work-orders", form);
  }

  private JsonNode crane() {
    return order(
            Map.of(
                "supplier", "Quayside Crane Hire",
                "email", "crane@example.org",
                "what", "Lift the beam out",
                "expected", "180",
                "wantedOn", "tomorrow"))
        .json();
  }

  private JsonNode orders() {
    return gate.office().get("/api/jobs/" + gate.job() + "/work-orders").json();
  }

  private Visitor.Answer close(JsonNode order, String how, String what, String value) {
    return gate.office()
        .post(
            "/api/work-orders/" + order.path("id").asLong() + "/" + how,
            Map.of("version", order.path("version").asInt(), what, value));
  }

  private long expectedOther() {
    return gate.sheet().path("forecast").path("rungs").path(3).path("costMinor").asLong();
  }

  @Test
  void an_order_goes_out_by_mail_with_the_place_the_price_and_our_number() {
    crane();
    assertThat(lastMail())
        .startsWith("Dear Quayside Crane Hire,")
        .contains("Lift the beam out", "job " + gate.sheet().path("number").asLong(), "£180.00")
        .contains(gate.sheet().path("address").asString());
  }

  @Test
  void a_bill_that_is_awaited_is_in_the_forecast_and_a_to_do_asks_for_it() {
    long before = expectedOther();
    crane();
    assertThat(expectedOther() - before).isEqualTo(180_00);
    assertThat(texts(gate.sheet().path("forecast").path("ahead"), "kind")).contains("awaited");
    assertThat(gate.toDos()).contains("Bill of Quayside Crane Hire for Lift the beam out");
  }

  @Test
  void when_the_bill_comes_it_is_a_cost_of_the_job_and_nobody_waits_any_more() {
    JsonNode order = crane();
    assertThat(close(order, "bill", "cost", "195.50").status()).isEqualTo(200);
    JsonNode cost = gate.sheet().path("otherCosts").path(0);
    assertThat(cost.path("supplier").asString()).isEqualTo("Quayside Crane Hire");
    assertThat(cost.path("costMinor").asLong()).isEqualTo(195_50);
    assertThat(orders().path(0).path("billedMinor").asLong()).isEqualTo(195_50);
    assertThat(expectedOther()).isEqualTo(195_50);
    assertThat(gate.toDos()).doesNotContain("Bill of Quayside Crane Hire for Lift the beam out");
  }

  @Test
  void one_that_is_dropped_says_why_and_its_bill_comes_no_more() {
    JsonNode order = crane();
    close(order, "drop", "reason", "We lifted it by hand");
    assertThat(orders().path(0).path("reason").asString()).isEqualTo("We lifted it by hand");
    JsonNode dropped = orders().path(0);
    assertThat(close(dropped, "bill", "cost", "180").rule()).isEqualTo("WORK_ORDER_MOVED_ON");
    assertThat(gate.sheet().path("otherCosts")).isEmpty();
  }

  private String lastMail() {
    return program
        .database()
        .select(MAIL.BODY)
        .from(MAIL)
        .where(MAIL.TO_ADDRESS.eq("crane@example.org"))
        .orderBy(MAIL.ID.desc())
        .limit(1)
        .fetchSingle(MAIL.BODY);
  }

  @Test
  void whoever_was_ordered_by_mail_is_told_by_mail_that_it_is_off_but_not_why() {
    close(crane(), "drop", "reason", "Too dear");
    assertThat(lastMail())
        .contains("no longer wanted", "Lift the beam out")
        .doesNotContain("Too dear");
  }

  @Test
  void a_bill_that_is_still_to_come_is_said_before_the_job_is_billed() {
    crane();
    JsonNode awaited = gate.sheet().path("billing").path("draft").path("awaited");
    assertThat(awaited.path(0).path("supplier").asString()).isEqualTo("Quayside Crane Hire");
    assertThat(awaited.path(0).path("expectedMinor").asLong()).isEqualTo(180_00);
    close(orders().path(0), "drop", "reason", "We lifted it by hand");
    assertThat(gate.sheet().path("billing").path("draft").path("awaited")).isEmpty();
  }

  @Test
  void a_checked_job_says_on_its_list_that_a_bill_is_still_to_come() {
    gate.checked();
    crane();
    assertThat(remark()).isEqualTo("bill_awaited");
    close(orders().path(0), "drop", "reason", "We lifted it by hand");
    assertThat(remark()).isEqualTo("time_and_parts");
  }

  private String remark() {
    return gate.office()
        .get("/api/worklists/checked?filter=" + gate.sheet().path("number").asLong())
        .json()
        .path("rows")
        .valueStream()
        .filter(row -> row.path("id").asLong() == gate.job())
        .findFirst()
        .orElseThrow()
        .path("remark")
        .asString();
  }

  @Test
  void one_that_cannot_be_is_refused_at_its_fields_and_mails_nobody() {
    int before = program.database().fetchCount(MAIL);
    Visitor.Answer refused =
        order(
            Map.of(
                "supplier", "", "email", "no", "what", "", "expected", "-3", "wantedOn", "some"));
    assertThat(texts(refused.json().path("errors"), "pointer"))
        .containsExactlyInAnyOrder("/supplier", "/email", "/what", "/expected", "/wantedOn");
    assertThat(program.database().fetchCount(MAIL)).isEqualTo(before);
    assertThat(orders()).isEmpty();
  }

  private String fileOfBill() {
    close(crane(), "bill", "cost", "195.50");
    return "/api/other-costs/"
        + gate.sheet().path("otherCosts").path(0).path("id").asLong()
        + "/file";
  }

  private Visitor.Answer keep(String path, byte[] content) {
    return gate.office()
        .putStream(
            path + "?fileName=crane%20bill.pdf",
            "application/octet-stream",
            () -> new ByteArrayInputStream(content));
  }

  @Test
  void a_bill_is_kept_as_it_came_and_a_later_scan_stands_instead() {
    String path = fileOfBill();
    for (String scan : List.of("%PDF-1.7 first", "%PDF-1.7 second")) {
      assertThat(keep(path, scan.getBytes(StandardCharsets.US_ASCII)).status()).isEqualTo(200);
    }
    assertThat(gate.office().get(path).text()).isEqualTo("%PDF-1.7 second");
    assertThat(gate.sheet().path("otherCosts").path(0).path("fileName").asString())
        .isEqualTo("crane bill.pdf");
  }

  @Test
  void what_is_no_document_is_not_kept() {
    String path = fileOfBill();
    assertThat(keep(path, "<html><script>".getBytes(StandardCharsets.US_ASCII)).rule())
        .isEqualTo("WRONG_KIND");
    assertThat(keep(path, new byte[8_000_001]).status()).isEqualTo(413);
    assertThat(gate.office().get(path).status()).isEqualTo(404);
  }
}
