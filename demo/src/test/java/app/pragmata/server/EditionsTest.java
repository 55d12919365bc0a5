package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.MAIL;
import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** What goes out when a quote is sent, and what changed since the last time. */
class EditionsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SentQuote offered = new SentQuote();
  private final SwingGate gate = offered.gate();

  @Test
  void a_sent_quote_goes_out_by_mail_with_its_link_and_a_pdf() {
    offered.sent();
    program.sendMail();
    String token = gate.offerPath().substring("/api/offers/".length());
    JsonNode message = null;
    for (JsonNode received : gate.office().get("/api/mail-stand-in").json()) {
      message = received.path("body").asString().contains(token) ? received : message;
    }
    assertThat(message).isNotNull();
    byte[] pdf =
        gate.office().bytes("/api/mail-stand-in/" + message.path("number").asInt() + "/attachment");
    assertThat(new String(pdf, 0, 5, StandardCharsets.US_ASCII)).isEqualTo("%PDF-");
  }

  @Test
  void mail_waits_while_its_server_is_down_and_goes_out_once_it_is_back() {
    program.mailServer(false);
    try {
      offered.sent();
      program.sendMail();
      JsonNode waiting = offered.quote().path("letters").path(0);
      assertThat(waiting.path("state").asString()).isEqualTo("waiting");
      assertThat(waiting.path("lastFault").asString()).isNotEmpty();
    } finally {
      program.mailServer(true);
    }
    gate.at("10:00");
    program.sendMail();
    assertThat(offered.quote().path("letters").path(0).path("state").asString()).isEqualTo("sent");
  }

  @Test
  void mail_that_cannot_be_delivered_is_a_to_do_for_whoever_sent_the_quote() {
    offered.sent();
    program
        .database()
        .update(MAIL)
        .set(MAIL.TO_ADDRESS, "mara at nowhere")
        .where(MAIL.QUOTE_ID.eq(gate.quote()))
        .execute();
    program.sendMail();
    assertThat(offered.quote().path("letters").path(0).path("state").asString())
        .isEqualTo("undeliverable");
    JsonNode toDos = gate.office().get("/api/to-dos?whose=mine").json().path("rows");
    assertThat(texts(toDos, "what"))
        .filteredOn(what -> what.startsWith("Mail to mara at nowhere did not arrive"))
        .hasSize(1);
  }

  @Test
  void what_was_agreed_for_the_whole_is_compared_too() {
    gate.agree("deposit", "25%").agree("notes", "Bring a ladder.").sent();
    sendAgain(Map.of("deposit", "40%", "notes", ""));
    JsonNode terms = comparison().path("terms");
    assertThat(texts(terms, "term")).containsExactly("deposit", "notes");
    assertThat(texts(terms, "before")).containsExactly("25%", "Bring a ladder.");
    assertThat(texts(terms, "after")).containsExactly("40%", "");
  }

  @Test
  void a_discount_on_all_is_not_taken_for_a_change_of_each_line() {
    offered.sent();
    sendAgain(Map.of("discount", "10%"));
    JsonNode compared = comparison();
    assertThat(texts(compared.path("changes"), "what")).containsOnly("discount");
    assertThat(texts(compared.path("terms"), "term")).containsExactly("discount");
  }

  private JsonNode comparison() {
    return gate.office().get("/api/quotes/" + gate.quote() + "/comparison?before=1&after=2").json();
  }

  /** Sends the next edition, in which these terms are others. */
  private void sendAgain(Map<String, String> terms) {
    String path = "/api/quotes/" + gate.quote();
    gate.office().post(path + "/take-back", Map.of("version", 2));
    ObjectNode form =
        ((ObjectNode) offered.quote())
            .retain(
                "version",
                "siteId",
                "kindOfJobId",
                "title",
                "equipmentId",
                "deposit",
                "notes",
                "validUntil",
                "lines");
    terms.forEach(form::put);
    assertThat(gate.office().put(path, form).status()).isEqualTo(200);
    gate.office().post(path + "/send", Map.of("version", offered.quote().path("version").asInt()));
  }

  @Test
  void two_editions_are_compared_line_by_line() {
    offered.sent();
    gate.office().post("/api/quotes/" + gate.quote() + "/take-back", Map.of("version", 2));
    var form = new HashMap<String, Object>();
    JsonNode stored = offered.quote();
    form.put("version", stored.path("version").asInt());
    form.put("siteId", stored.path("siteId").asLong());
    form.put("kindOfJobId", stored.path("kindOfJobId").asLong());
    form.put("title", stored.path("title").asString());
    form.put(
        "lines",
        List.of(
            Map.of(
                "category",
                "labour",
                "description",
                "Change the ram",
                "time",
                "3:00",
                "price",
                "58"),
            Map.of("category", "other", "description", "Skip", "quantity", "1", "price", "90.00")));
    gate.office().put("/api/quotes/" + gate.quote(), form);
    gate.office()
        .post(
            "/api/quotes/" + gate.quote() + "/send",
            Map.of("version", offered.quote().path("version").asInt()));
    JsonNode compared =
        gate.office().get("/api/quotes/" + gate.quote() + "/comparison?before=1&after=2").json();
    assertThat(texts(compared.path("changes"), "what"))
        .containsExactly("changed", "added", "removed", "removed", "removed", "removed", "removed");
  }

  @Test
  void a_mail_server_that_stays_down_is_given_up_after_three_days_and_said_so() {
    program.mailServer(false);
    try {
      offered.sent();
      // Whoever looks for mail meanwhile has tried it by now, and looks for it no more.
      program.sendMail();
      program
          .database()
          .update(MAIL)
          .set(MAIL.QUEUED_AT, program.clock().instant().minus(Duration.ofDays(4)))
          .set(MAIL.NEXT_ATTEMPT_AT, program.clock().instant())
          .where(MAIL.QUOTE_ID.eq(gate.quote()))
          .execute();
      program.sendMail();
    } finally {
      program.mailServer(true);
    }
    JsonNode letter = offered.quote().path("letters").path(0);
    assertThat(letter.path("state").asString()).isEqualTo("undeliverable");
    program.sendMail();
    assertThat(offered.quote().path("letters").path(0)).isEqualTo(letter);
  }

  @Test
  void a_customer_without_an_address_is_sent_no_mail_but_has_a_link() {
    var database = program.database();
    var customer =
        database.selectFrom(CUSTOMER).where(CUSTOMER.NAME.eq("Tansy Row Garages")).fetchSingle();
    String before = customer.getEmail();
    customer.setEmail("");
    customer.update();
    try {
      offered.sent();
    } finally {
      customer.setEmail(before);
      customer.update();
    }
    assertThat(offered.quote().path("letters")).isEmpty();
    assertThat(offered.page().path("state").asString()).isEqualTo("sent");
  }

  @Test
  void an_edition_that_was_never_sent_cannot_be_compared() {
    offered.sent();
    assertThat(
            gate.office()
                .get("/api/quotes/" + gate.quote() + "/comparison?before=1&after=2")
                .text())
        .contains("Edition 2 of this quote was never sent.");
  }
}
