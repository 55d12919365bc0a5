package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static org.assertj.core.api.Assertions.assertThat;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.HexFormat;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Invoices as documents: what a stranger reads and computes again, and what never changes. */
class InvoicesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre").billed();

  private JsonNode posted() {
    return gate.office().get("/api/invoices/" + gate.invoice().path("id").asLong()).json();
  }

  @Test
  void a_stranger_computes_every_amount_of_the_worked_example_from_its_fields() {
    JsonNode document = posted().path("document");
    long net = 0;
    for (JsonNode line : document.path("jobs").path(0).path("lines")) {
      long full =
          decimal(line, "unitPrice")
              .multiply(decimal(line, "quantity"))
              .divide(decimal(line, "priceBase"), 2, RoundingMode.HALF_UP)
              .movePointRight(2)
              .longValueExact();
      assertThat(line.path("fullMinor").asLong()).isEqualTo(full);
      long warranty =
          BigDecimal.valueOf(full - line.path("discountMinor").asLong())
              .multiply(decimal(line, "warrantyPercent"))
              .movePointLeft(2)
              .setScale(0, RoundingMode.HALF_UP)
              .longValueExact();
      assertThat(line.path("warrantyReductionMinor").asLong()).isEqualTo(warranty);
      assertThat(line.path("netMinor").asLong())
          .isEqualTo(full - line.path("discountMinor").asLong() - warranty);
      net += line.path("netMinor").asLong();
    }
    assertThat(net).isEqualTo(450_99).isEqualTo(document.path("netMinor").asLong());
    JsonNode vat = document.path("vat").path(0);
    assertThat(vat.path("category").asString()).isEqualTo("S");
    assertThat(
            BigDecimal.valueOf(net)
                .multiply(decimal(vat, "percent"))
                .movePointLeft(2)
                .setScale(0, RoundingMode.HALF_UP)
                .longValueExact())
        .isEqualTo(vat.path("vatMinor").asLong());
    assertThat(document.path("grossMinor").asLong()).isEqualTo(541_19);
  }

  private static BigDecimal decimal(JsonNode node, String field) {
    return new BigDecimal(node.path(field).asString());
  }

  @Test
  void time_is_whole_minutes_priced_by_the_hour() {
    JsonNode labour = posted().path("document").path("jobs").path(0).path("lines").path(0);
    assertThat(labour.path("quantity").asInt()).isEqualTo(165);
    assertThat(labour.path("unit").asString()).isEqualTo("minute");
    assertThat(labour.path("priceBase").asInt()).isEqualTo(60);
  }

  @Test
  void the_text_of_an_invoice_is_its_document_and_has_the_hash_that_it_says() throws Exception {
    JsonNode posted = posted();
    String content = posted.path("content").asString();
    byte[] hash =
        MessageDigest.getInstance("SHA-256").digest(content.getBytes(StandardCharsets.UTF_8));
    assertThat(posted.path("hash").asString()).isEqualTo(HexFormat.of().formatHex(hash));
    assertThat(JsonMapper.shared().readTree(content)).isEqualTo(posted.path("document"));
    assertThat(posted.path("document").path("seller").path("vatNumber").asString()).isNotBlank();
  }

  @Test
  void a_customer_who_moves_or_changes_the_name_changes_no_invoice() {
    JsonNode before = posted();
    long customer = gate.sheet().path("customerId").asLong();
    var database = program.database();
    var row = database.selectFrom(CUSTOMER).where(CUSTOMER.ID.eq(customer)).fetchSingle();
    String name = row.getName();
    String address = row.getAddress();
    try {
      row.setName(name + " Renamed");
      row.setAddress("Somewhere else");
      row.update();
      assertThat(posted().path("row").path("customer").asString()).isEqualTo(name + " Renamed");
      assertThat(posted().path("content")).isEqualTo(before.path("content"));
      assertThat(posted().path("document").path("buyer").path("name").asString()).isEqualTo(name);
    } finally {
      row.setName(name);
      row.setAddress(address);
      row.update();
    }
  }

  @Test
  void invoices_are_found_by_customer_state_and_day_page_by_page() {
    long customer = gate.sheet().path("customerId").asLong();
    String id = gate.invoice().path("id").asString();
    String day = gate.invoice().path("invoiceDate").asString();
    String of = "/api/invoices?customerId=" + customer + "&from=" + day + "&to=" + day;
    assertThat(texts(rows(of + "&state=open"), "id")).contains(id);
    assertThat(texts(rows(of + "&state=settled"), "id")).doesNotContain(id);
    gate.receive(Map.of("amount", "541.19"));
    assertThat(texts(rows(of + "&state=settled"), "id")).contains(id);
    JsonNode first = gate.office().get("/api/invoices").json();
    JsonNode second = rows("/api/invoices?after=" + first.path("next").asString());
    assertThat(texts(first.path("rows"), "id")).hasSize(50);
    assertThat(texts(second, "id")).doesNotContainAnyElementsOf(texts(first.path("rows"), "id"));
  }

  private JsonNode rows(String address) {
    return gate.office().get(address).json().path("rows");
  }

  @Test
  void an_invoice_that_does_not_exist_is_told_so() {
    assertThat(gate.office().get("/api/invoices/999999999").status()).isEqualTo(404);
  }

  @Test
  void what_was_taken_off_a_promised_line_is_a_field_of_the_invoices_line() {
    var reduced = new SwingGate(program, "piet").agree("discount", "5%").checked();
    var form = Map.of("version", reduced.version(), "basis", "fixed_price");
    reduced.office().put("/api/jobs/" + reduced.job() + "/basis", form);
    JsonNode lines = reduced.sheet().path("billing").path("draft").path("lines");
    assertThat(texts(lines, "discountOfWholeMinor")).doesNotContain("0");
    assertThat(texts(lines, "description")).noneMatch(text -> text.contains("less"));
  }
}
