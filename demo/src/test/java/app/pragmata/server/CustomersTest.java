package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

class CustomersTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  @BeforeEach
  void tuesdayMorning() {
    program.clock().set("2026-11-24T10:00");
  }

  private long create(String name, String phone, String place) {
    return office
        .post("/api/customers", Map.of("name", name, "phone", phone, "place", place))
        .json()
        .path("id")
        .asLong();
  }

  private JsonNode card(long id) {
    return office.get("/api/customers/" + id).json();
  }

  private Map<String, @Nullable Object> form(JsonNode card) {
    var form = new HashMap<String, @Nullable Object>();
    form.put("version", card.path("version").asInt());
    form.put("name", card.path("name").asString());
    form.put("phone", card.path("phone").asString());
    form.put("address", card.path("address").asString());
    form.put("postcode", card.path("postcode").asString());
    form.put("paymentDays", "30");
    return form;
  }

  @Test
  void a_new_caller_has_a_site_where_they_called_from() {
    JsonNode card = card(create("Mrs Polwhele", "01632 960901", "3 Quay Parade, Ostmere os61ab"));
    assertThat(card.path("postcode").asString()).isEqualTo("OS6 1AB");
    assertThat(card.path("sites").path(0).path("address").asString())
        .isEqualTo("3 Quay Parade, Ostmere");
  }

  @ParameterizedTest
  @CsvSource({
    "phone, 01632 96",
    "phone, ring bell",
    "place, '3 Quay Parade, OS6 1A'",
    "name, ' '",
    "email, nobody"
  })
  void a_new_caller_who_cannot_be_reached_or_found_is_refused_at_the_field(
      String field, String typed) {
    var form =
        new HashMap<String, Object>(
            Map.of("name", "Mr Half", "phone", "01632 960902", "place", "Weir Street"));
    form.put(field, typed);
    assertThat(office.post("/api/customers", form).pointer()).isEqualTo("/" + field);
  }

  @Test
  void whoever_has_the_same_phone_is_shown_before_a_new_caller_is_saved() {
    create("Gull Rock Kiosk", "01632 960903", "Quay Parade, Ostmere OS6 1AC");
    JsonNode likely =
        office.get("/api/customers/doubles?name=Gul%20Rok&phone=%2B44%201632%20960903").json();
    assertThat(texts(likely, "name")).containsExactly("Gull Rock Kiosk");
    assertThat(likely.path(0).path("same").path(0).asString()).isEqualTo("same_phone");
  }

  @Test
  void a_similar_name_at_the_same_postcode_is_shown_before_a_new_caller_is_saved() {
    create("Harbour View Surgery", "01632 960904", "Quay Parade, Ostmere OS6 1AD");
    JsonNode likely =
        office
            .get(
                "/api/customers/doubles?name=Harbor%20View%20Surgry&place=Quay%20Parade%20OS6%201AD")
            .json();
    assertThat(texts(likely, "name")).contains("Harbour View Surgery");
  }

  @Test
  void of_two_people_who_edit_one_customer_the_second_is_told_and_nothing_is_overwritten() {
    long id = create("Two Hands", "01632 960905", "Weir Street");
    var first = form(card(id));
    var second = form(card(id));
    first.put("stopReason", "Owes since spring");
    second.put("creditLimit", "900");
    assertThat(office.put("/api/customers/" + id, first).status()).isEqualTo(200);
    assertThat(office.put("/api/customers/" + id, second).rule()).isEqualTo("STALE_VERSION");
    assertThat(card(id).path("debt").path("stopReason").asString()).isEqualTo("Owes since spring");
  }

  @Test
  void a_customer_with_work_is_not_deleted_and_it_is_said_why() {
    var answer = office.delete("/api/customers/4?version=" + card(4).path("version").asInt());
    assertThat(answer.rule()).isEqualTo("IN_USE");
    assertThat(answer.json().path("detail").asString()).contains("jobs", "on stop");
  }

  @Test
  void a_customer_whom_nothing_refers_to_is_deleted() {
    long id = create("Wrong Number", "01632 960907", "nowhere in particular");
    assertThat(office.delete("/api/customers/" + id + "?version=1").status()).isEqualTo(200);
    assertThat(office.get("/api/customers/" + id).status()).isEqualTo(404);
  }

  @Test
  void a_customer_is_not_merged_into_itself() {
    long id = create("One And Only", "01632 960908", "Weir Street");
    var answer = office.post("/api/customers/" + id + "/merge", Map.of("version", 1, "intoId", id));
    assertThat(answer.rule()).isEqualTo("MERGED_INTO_ITSELF");
  }

  @Test
  void merging_moves_everything_and_changes_nothing_in_what_is_owed_or_in_the_books() {
    long stays = create("Ferry Steps Hotel", "01632 960909", "Quay Parade, Ostmere OS6 1AE");
    long gone = customerWithAnOpenInvoice();
    JsonNode before = card(gone);
    long owed = before.path("debt").path("owedMinor").asLong();
    assertThat(owed).isPositive();
    var answer =
        office.post(
            "/api/customers/" + gone + "/merge",
            Map.of("version", before.path("version").asInt(), "intoId", stays));
    assertThat(answer.status()).isEqualTo(200);
    JsonNode after = card(stays);
    assertThat(after.path("debt").path("owedMinor").asLong()).isEqualTo(owed);
    assertThat(after.path("sites").size()).isEqualTo(before.path("sites").size() + 1);
    assertThat(texts(after.path("contacts"), "phone")).contains(before.path("phone").asString());
    assertThat(texts(after.path("tookIn"), "name")).contains(before.path("name").asString());
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void whoever_asks_for_a_merged_customer_gets_the_one_that_stays() {
    long stays = create("Stays Here", "01632 960910", "Weir Street");
    long gone = create("Goes There", "01632 960911", "Weir Street");
    office.post("/api/customers/" + gone + "/merge", Map.of("version", 1, "intoId", stays));
    assertThat(card(gone).path("id").asLong()).isEqualTo(stays);
    assertThat(texts(office.get("/api/find?q=Goes%20There").json(), "title"))
        .doesNotContain("Goes There");
  }

  @Test
  void a_posted_invoice_goes_to_nobody_but_the_customer_that_took_in_its_own() {
    long invoice =
        program.database().select(INVOICE.ID).from(INVOICE).limit(1).fetchSingle().value1();
    org.assertj.core.api.Assertions.assertThatThrownBy(
            () ->
                program
                    .database()
                    .update(INVOICE)
                    .set(INVOICE.CUSTOMER_ID, 50L)
                    .where(INVOICE.ID.eq(invoice))
                    .execute())
        .hasMessageContaining("is posted");
  }

  private long customerWithAnOpenInvoice() {
    return program
        .database()
        .select(RECEIVABLE.CUSTOMER_ID)
        .from(RECEIVABLE)
        .where(RECEIVABLE.OWED_MINOR.gt(0L).and(RECEIVABLE.CUSTOMER_ID.gt(30L)))
        .orderBy(RECEIVABLE.CUSTOMER_ID)
        .limit(1)
        .fetchSingle()
        .value1();
  }

  @Test
  void the_list_of_customers_is_paged_without_a_gap_or_a_double() {
    for (int i = 0; i < 45; i++) {
      create("Paged Customer", "01632 960912", "Weir Street");
    }
    var ids = new java.util.ArrayList<String>();
    String next = "";
    do {
      JsonNode page = office.get("/api/customers?after=" + next).json();
      ids.addAll(texts(page.path("rows"), "id"));
      next = page.path("next").isNull() ? "" : page.path("next").asString();
    } while (!next.isEmpty());
    assertThat(ids).doesNotHaveDuplicates().hasSizeGreaterThan(100);
    assertThat(ids.size())
        .isEqualTo(
            program
                .database()
                .fetchCount(
                    app.pragmata.server.generated.Tables.CUSTOMER,
                    app.pragmata.server.generated.Tables.CUSTOMER.MERGED_INTO.isNull()));
  }

  @Test
  void customers_who_owe_come_with_the_largest_debt_first() {
    var owed =
        texts(office.get("/api/customers?sort=owed").json().path("rows"), "owedMinor").stream()
            .map(Long::valueOf)
            .toList();
    assertThat(owed).isSortedAccordingTo(java.util.Comparator.reverseOrder()).doesNotContain(0L);
  }

  @Test
  void every_document_of_a_customer_comes_once_and_the_newest_first() {
    long customer = customerWithMostJobs();
    var seen = new java.util.ArrayList<String>();
    var days = new java.util.ArrayList<String>();
    String next = "";
    do {
      JsonNode page = office.get("/api/customers/" + customer + "/documents?after=" + next).json();
      for (JsonNode row : page.path("rows")) {
        seen.add(row.path("kind").asString() + " " + row.path("number").asLong());
        days.add(row.path("day").asString());
      }
      next = page.path("next").isNull() ? "" : page.path("next").asString();
    } while (!next.isEmpty());
    assertThat(seen).doesNotHaveDuplicates().hasSize(documents(customer));
    assertThat(days).isSortedAccordingTo(java.util.Comparator.reverseOrder());
  }

  private long customerWithMostJobs() {
    return program
        .database()
        .resultQuery(
            "select customer_id from job group by customer_id order by count(*) desc, customer_id limit 1")
        .fetchSingle()
        .get(0, Long.class);
  }

  private int documents(long customer) {
    return program
        .database()
        .resultQuery(
            "select (select count(*) from quote where customer_id = {0})"
                + " + (select count(*) from job where customer_id = {0})"
                + " + (select count(*) from invoice where customer_id = {0})",
            org.jooq.impl.DSL.val(customer))
        .fetchSingle()
        .get(0, Integer.class);
  }

  @Test
  void contacts_go_into_an_address_book_as_vcards() {
    String cards = office.get("/api/customers/4/contacts.vcf").text();
    assertThat(cards).contains("BEGIN:VCARD", "VERSION:4.0", "FN:Ines Tansy", "01632 960812");
  }

  @Test
  void a_list_is_also_a_workbook() {
    assertThat(office.header("/api/customers/file?format=xlsx", "content-type"))
        .contains("spreadsheetml");
  }
}
