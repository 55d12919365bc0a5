package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** What a customer reads and answers behind the link of a sent quote. */
class OffersTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SentQuote offered = new SentQuote();
  private final SwingGate gate = offered.gate();
  private final Visitor customer = offered.customer();

  @Test
  void the_customer_reads_prices_but_nothing_of_what_it_costs_us() {
    offered.sent();
    String text = customer.get(gate.offerPath()).text();
    assertThat(text).contains("Change the ram", "734");
    assertThat(text.toLowerCase(java.util.Locale.ROOT)).doesNotContain("cost", "margin");
  }

  @Test
  void choosing_an_option_changes_the_total_that_the_customer_sees() {
    offered.sent();
    JsonNode sum =
        customer
            .post(gate.offerPath() + "/sum", Map.of("edition", 1, "taken", List.of(SentQuote.LAMP)))
            .json();
    assertThat(sum.path("netMinor").asLong()).isEqualTo(662_00);
    assertThat(sum.path("depositMinor").asLong()).isEqualTo(198_60);
  }

  @Test
  void what_is_accepted_with_an_option_and_a_deposit_by_card_is_the_promise_of_the_job() {
    offered.sent();
    JsonNode accepted = offered.accept(1, List.of(SentQuote.LAMP)).json();
    assertThat(accepted.path("state").asString()).isEqualTo("accepted");
    assertThat(accepted.path("depositDueMinor").asLong()).isEqualTo(198_60);
    assertThat(offered.pay("4000 0000 0000 0001").status()).isEqualTo(200);
    gate.answered().planned();
    JsonNode promise = gate.sheet().path("promises").path(0);
    assertThat(promise.path("netMinor").asLong()).isEqualTo(662_00);
    assertThat(texts(promise.path("lines"), "description")).contains("Flashing lamp");
    assertThat(gate.sheet().path("receipts").path(0).path("amountMinor").asLong())
        .isEqualTo(198_60);
    assertThat(texts(gate.sheet().path("journal"), "event")).containsExactly("money_received");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void an_option_that_was_not_chosen_is_no_part_of_the_job() {
    offered.sent();
    offered.accept(1, List.of());
    gate.answered().planned();
    assertThat(gate.sheet().path("promises").path(0).path("netMinor").asLong()).isEqualTo(612_00);
  }

  @Test
  void an_acceptance_is_kept_with_a_hash_of_exactly_what_was_accepted() {
    offered.sent();
    String hash = offered.accept(1, List.of(SentQuote.LAMP)).json().path("contentHash").asString();
    String content =
        program
            .database()
            .resultQuery(
                "select content from quote_acceptance where quote_id = {0}",
                org.jooq.impl.DSL.val(gate.quote()))
            .fetchSingle()
            .get(0, String.class);
    assertThat(sha256(content)).isEqualTo(hash);
    assertThat(content).contains("Mara Okafor", "\"taken\":[5]");
  }

  private static String sha256(String text) {
    try {
      return java.util.HexFormat.of()
          .formatHex(
              java.security.MessageDigest.getInstance("SHA-256")
                  .digest(text.getBytes(StandardCharsets.UTF_8)));
    } catch (java.security.NoSuchAlgorithmException missing) {
      throw new IllegalStateException(missing);
    }
  }

  @Test
  void what_was_accepted_never_changes_afterwards() {
    offered.sent();
    offered.accept(1, List.of());
    org.assertj.core.api.Assertions.assertThatThrownBy(
            () ->
                program
                    .database()
                    .execute(
                        "update quote_acceptance set name = 'Somebody else' where quote_id = ?",
                        gate.quote()))
        .isInstanceOf(org.jooq.exception.DataAccessException.class);
  }

  @Test
  void of_two_phones_that_accept_at_the_same_moment_one_does() throws Exception {
    offered.sent();
    String path = gate.offerPath();
    List<Visitor> phones = List.of(new Visitor(program), new Visitor(program));
    var statuses =
        AtOnce.statuses(
            2,
            i ->
                phones
                    .get(i)
                    .post(
                        path + "/accept",
                        Map.of(
                            "edition",
                            1,
                            "taken",
                            List.of(),
                            "name",
                            "Phone " + i,
                            "signature",
                            "x",
                            "drawn",
                            false)));
    assertThat(statuses).containsExactlyInAnyOrder(200, 409);
    assertThat(offered.page().path("state").asString()).isEqualTo("accepted");
  }

  @Test
  void an_edition_that_was_replaced_meanwhile_is_not_accepted() {
    offered.sent();
    gate.office().post("/api/quotes/" + gate.quote() + "/take-back", Map.of("version", 2));
    assertThat(offered.accept(1, List.of()).rule()).isEqualTo("STALE_VERSION");
    gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 3));
    assertThat(offered.accept(1, List.of()).rule()).isEqualTo("STALE_VERSION");
    assertThat(offered.page().path("document").path("edition").asInt()).isEqualTo(2);
    assertThat(offered.accept(2, List.of()).status()).isEqualTo(200);
  }

  @Test
  void a_lapsed_quote_is_told_by_the_day_and_not_accepted() {
    offered.sent();
    program.clock().later(60);
    assertThat(offered.page().path("state").asString()).isEqualTo("lapsed");
    assertThat(offered.accept(1, List.of()).rule()).isEqualTo("QUOTE_LAPSED");
  }

  @Test
  void a_withdrawn_link_leads_nowhere_and_sending_again_makes_another() {
    offered.sent();
    String old = gate.offerPath();
    gate.office().post("/api/quotes/" + gate.quote() + "/withdraw-link", Map.of());
    assertThat(customer.get(old).text()).contains("withdrawn");
    gate.office().post("/api/quotes/" + gate.quote() + "/take-back", Map.of("version", 2));
    gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 3));
    assertThat(gate.offerPath()).isNotEqualTo(old);
    assertThat(customer.get(old).status()).isEqualTo(404);
  }

  @Test
  void whoever_tries_links_one_after_the_other_is_stopped_and_nobody_else_is() {
    offered.sent();
    Visitor guesser = Visitor.from(program, "127.0.0.7");
    int status = 404;
    for (int i = 0; status == 404 && i <= 2 * RunningPragmata.OFFER_REQUESTS_A_MINUTE; i++) {
      status = guesser.get("/api/offers/guess" + i).status();
    }
    assertThat(status).isEqualTo(429);
    assertThat(customer.get(gate.offerPath()).status()).isEqualTo(200);
  }

  @Test
  void a_guessed_link_reveals_nothing() {
    assertThat(customer.get("/api/offers/AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA").status())
        .isEqualTo(404);
  }

  @Test
  void a_question_lands_as_a_to_do_and_its_answer_goes_back() {
    offered.sent();
    customer.post(gate.offerPath() + "/questions", Map.of("question", "Is the ram galvanised?"));
    String toDos = gate.office().get("/api/to-dos?whose=mine").text();
    assertThat(toDos).contains("Is the ram galvanised?");
    long question = offered.quote().path("questions").path(0).path("id").asLong();
    gate.office()
        .post("/api/quote-questions/" + question + "/answer", Map.of("answer", "Yes, it is."));
    assertThat(offered.page().path("questions").path(0).path("answer").asString())
        .isEqualTo("Yes, it is.");
    assertThat(gate.office().get("/api/to-dos?whose=mine").text())
        .doesNotContain("Is the ram galvanised?");
    program.sendMail();
    assertThat(gate.office().get("/api/mail-stand-in").text())
        .contains("Yes, it is.", "Is the ram galvanised?");
    assertThat(gate.office().get("/api/history/quote/" + gate.quote()).text())
        .contains("question_answered", "Yes, it is.");
  }

  @Test
  void a_no_with_its_reason_is_on_the_quote() {
    offered.sent();
    customer.post(gate.offerPath() + "/decline", Map.of("edition", 1, "reason", "Sold the house"));
    assertThat(offered.quote().path("declineReason").asString()).isEqualTo("Sold the house");
  }

  @ParameterizedTest
  @CsvSource({"accept, name, MISSING", "decline, reason, MISSING", "questions, question, MISSING"})
  void what_the_customer_leaves_out_is_told_at_its_field_and_nothing_is_answered(
      String act, String field, String rule) {
    offered.sent();
    Map<String, Object> form =
        switch (act) {
          case "accept" ->
              Map.of("edition", 1, "taken", List.of(), "signature", "Mara", "drawn", false);
          case "decline" -> Map.of("edition", 1);
          default -> Map.of();
        };
    Visitor.Answer refused = customer.post(gate.offerPath() + "/" + act, form);
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.text()).contains(rule);
    assertThat(offered.page().path("state").asString()).isEqualTo("sent");
  }

  @Test
  void a_drawn_signature_that_is_no_picture_is_refused_in_words() {
    offered.sent();
    Visitor.Answer refused =
        customer.post(
            gate.offerPath() + "/accept",
            Map.of(
                "edition",
                1,
                "taken",
                List.of(),
                "name",
                "Mara Okafor",
                "signature",
                "data:text/html,hello",
                "drawn",
                true));
    assertThat(refused.pointer()).isEqualTo("/signature");
    assertThat(refused.text()).contains("Draw your name in the box, or type it.");
    assertThat(offered.page().path("state").asString()).isEqualTo("sent");
  }

  @Test
  void what_is_included_anyway_cannot_be_chosen() {
    offered.sent();
    assertThat(offered.accept(1, List.of(0)).text())
        .contains("One of the chosen lines is not an option of this offer. Choose again.");
    assertThat(offered.page().path("state").asString()).isEqualTo("sent");
  }

  @Test
  void what_falls_due_at_each_stage_follows_the_choice_of_the_customer() {
    gate.agree("promise", "fixed_price")
        .agree(
            "stages",
            List.of(
                Map.of("name", "at the start", "part", "40%"),
                Map.of("name", "at the end", "part", "60%")));
    offered.sent();
    assertThat(stages(List.of())).containsExactly("29376", "44064");
    assertThat(stages(List.of(SentQuote.LAMP))).containsExactly("31776", "47664");
  }

  private List<String> stages(List<Integer> taken) {
    JsonNode sum =
        customer
            .post(gate.offerPath() + "/sum", Map.of("edition", 1, "taken", taken))
            .json()
            .path("stageMinors");
    return sum.valueStream().map(JsonNode::asString).toList();
  }

  @Test
  void a_question_about_a_quote_whose_sender_has_left_is_for_somebody_else_of_the_office() {
    offered.sent();
    Visitor orla = Visitor.signedIn(program, "orla");
    String page = gate.offerPath();
    active("hester", false);
    try {
      Visitor.Answer asked = customer.post(page + "/questions", Map.of("question", "Who comes?"));
      assertThat(asked.status()).isEqualTo(200);
    } finally {
      active("hester", true);
    }
    JsonNode toDos = orla.get("/api/to-dos?whose=all").json().path("rows");
    assertThat(texts(toDos, "what")).anyMatch(what -> what.endsWith(": Who comes?"));
  }

  private void active(String username, boolean active) {
    program
        .database()
        .update(PERSON)
        .set(PERSON.ACTIVE, active)
        .where(PERSON.USERNAME.eq(username))
        .execute();
  }
}
