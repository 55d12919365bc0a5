package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.MAIL;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.books.Laws;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** From a sent quote to a signed promise with its deposit, through the customer's own link. */
class OffersTest {
  private static final int LAMP = 5;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");
  private final Visitor customer = new Visitor(program);

  private SwingGate sent() {
    return gate.agree("deposit", "25%").offer(lamp("option")).sent();
  }

  private Map<String, Object> lamp(String choice) {
    return Map.of(
        "category",
        "parts",
        "partId",
        gate.part("LMP-F"),
        "quantity",
        "1",
        "price",
        "50.00",
        "choice",
        choice,
        "taken",
        false);
  }

  private JsonNode page() {
    return customer.get(gate.offerPath()).json();
  }

  private Visitor.Answer accept(int edition, List<Integer> taken) {
    return customer.post(
        gate.offerPath() + "/accept",
        Map.of(
            "edition",
            edition,
            "taken",
            taken,
            "name",
            "Mara Okafor",
            "signature",
            "Mara Okafor",
            "drawn",
            false));
  }

  private Visitor.Answer pay(String card) {
    return customer.post(gate.offerPath() + "/deposit", Map.of("card", card));
  }

  private JsonNode quote() {
    return gate.office().get("/api/quotes/" + gate.quote()).json();
  }

  private List<Long> heldDeposits() {
    return texts(gate.office().get("/api/quotes/" + gate.quote() + "/deposits").json(), "heldMinor")
        .stream()
        .map(Long::valueOf)
        .toList();
  }

  @Test
  void the_customer_reads_prices_but_nothing_of_what_it_costs_us() {
    sent();
    String text = customer.get(gate.offerPath()).text();
    assertThat(text).contains("Change the ram", "734");
    assertThat(text.toLowerCase(java.util.Locale.ROOT)).doesNotContain("cost", "margin");
  }

  @Test
  void choosing_an_option_changes_the_total_that_the_customer_sees() {
    sent();
    JsonNode sum =
        customer
            .post(gate.offerPath() + "/sum", Map.of("edition", 1, "taken", List.of(LAMP)))
            .json();
    assertThat(sum.path("netMinor").asLong()).isEqualTo(662_00);
    assertThat(sum.path("depositMinor").asLong()).isEqualTo(198_60);
  }

  @Test
  void what_is_accepted_with_an_option_and_a_deposit_by_card_is_the_promise_of_the_job() {
    sent();
    JsonNode accepted = accept(1, List.of(LAMP)).json();
    assertThat(accepted.path("state").asString()).isEqualTo("accepted");
    assertThat(accepted.path("depositDueMinor").asLong()).isEqualTo(198_60);
    assertThat(pay("4000 0000 0000 0001").status()).isEqualTo(200);
    gate.answered().planned();
    JsonNode promise = gate.sheet().path("promise");
    assertThat(promise.path("netMinor").asLong()).isEqualTo(662_00);
    assertThat(texts(promise.path("lines"), "description")).contains("Flashing lamp");
    assertThat(promise.path("deposits").path(0).path("amountMinor").asLong()).isEqualTo(198_60);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void an_option_that_was_not_chosen_is_no_part_of_the_job() {
    sent();
    accept(1, List.of());
    gate.answered().planned();
    assertThat(gate.sheet().path("promise").path("netMinor").asLong()).isEqualTo(612_00);
  }

  @Test
  void a_deposit_is_a_liability_until_it_comes_off_the_invoice() {
    sent();
    accept(1, List.of());
    pay("400000000001");
    assertThat(heldDeposits()).containsExactly(183_60L);
    gate.answered().billed();
    JsonNode invoice = gate.sheet().path("billing").path("invoice");
    assertThat(invoice.path("depositMinor").asLong()).isEqualTo(183_60);
    assertThat(invoice.path("owedMinor").asLong())
        .isEqualTo(invoice.path("grossMinor").asLong() - 183_60);
    assertThat(heldDeposits()).containsExactly(0L);
    assertThat(texts(gate.sheet().path("journal"), "event")).contains("Deposit applied");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void the_entry_of_the_deposit_is_seen_before_the_invoice_is_posted() {
    sent();
    accept(1, List.of());
    pay("400000000001");
    gate.answered().checked();
    JsonNode draft = gate.sheet().path("billing").path("draft");
    assertThat(draft.path("depositMinor").asLong()).isEqualTo(183_60);
    assertThat(texts(draft.path("entry"), "accountName")).contains("Customer deposits");
    assertThat(draft.path("entryDebitMinor").asLong())
        .isEqualTo(draft.path("entryCreditMinor").asLong());
  }

  @Test
  void an_acceptance_is_kept_with_a_hash_of_exactly_what_was_accepted() {
    sent();
    String hash = accept(1, List.of(LAMP)).json().path("contentHash").asString();
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
    sent();
    accept(1, List.of());
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
    sent();
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
    assertThat(page().path("state").asString()).isEqualTo("accepted");
  }

  @Test
  void an_edition_that_was_replaced_meanwhile_is_not_accepted() {
    sent();
    gate.office().post("/api/quotes/" + gate.quote() + "/take-back", Map.of("version", 2));
    assertThat(accept(1, List.of()).rule()).isEqualTo("STALE_VERSION");
    gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 3));
    assertThat(accept(1, List.of()).rule()).isEqualTo("STALE_VERSION");
    assertThat(page().path("document").path("edition").asInt()).isEqualTo(2);
    assertThat(accept(2, List.of()).status()).isEqualTo(200);
  }

  @Test
  void a_lapsed_quote_is_told_by_the_day_and_not_accepted() {
    sent();
    program.clock().set("2027-06-01T09:00");
    assertThat(page().path("state").asString()).isEqualTo("lapsed");
    assertThat(accept(1, List.of()).rule()).isEqualTo("WRONG_STATE");
  }

  @Test
  void a_withdrawn_link_leads_nowhere_and_sending_again_makes_another() {
    sent();
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
    sent();
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

  @ParameterizedTest
  @CsvSource({
    "discount, 201%, EXCEEDS_LIMIT",
    "deposit, 9000, EXCEEDS_LIMIT",
    "discount, 9000, EXCEEDS_LIMIT"
  })
  void what_is_more_than_all_of_it_is_refused_at_its_field(
      String field, String typed, String rule) {
    gate.quoted();
    var form = new HashMap<String, Object>();
    form.put("version", 1);
    JsonNode stored = quote();
    form.put("siteId", stored.path("siteId").asLong());
    form.put("kindOfJobId", stored.path("kindOfJobId").asLong());
    form.put("title", "Too much");
    form.put(field, typed);
    form.put(
        "lines",
        List.of(
            Map.of(
                "category", "other", "description", "Post", "quantity", "1", "price", "100.00")));
    var saved = gate.office().put("/api/quotes/" + gate.quote(), form);
    var refused =
        saved.status() == 200
            ? gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 2))
            : saved;
    assertThat(refused.rule()).isEqualTo(rule);
    assertThat(refused.pointer()).isEqualTo("/" + field);
  }

  @Test
  void stages_that_do_not_add_up_are_refused_when_the_quote_is_sent() {
    gate.agree(
            "stages",
            List.of(
                Map.of("name", "on delivery", "part", "50%"),
                Map.of("name", "when it runs", "part", "40%")))
        .quoted();
    var refused = gate.office().post("/api/quotes/" + gate.quote() + "/send", Map.of("version", 1));
    assertThat(refused.pointer()).isEqualTo("/stages");
    assertThat(quote().path("state").asString()).isEqualTo("draft");
  }

  @Test
  void alternatives_exclude_each_other() {
    gate.offer(alternative("LMP-F", true)).offer(alternative("PAD-W", false)).sent();
    var both =
        customer.post(gate.offerPath() + "/sum", Map.of("edition", 1, "taken", List.of(5, 6)));
    assertThat(both.text()).contains("Only one of “At the post” can be chosen.");
  }

  private Map<String, Object> alternative(String part, boolean taken) {
    return Map.of(
        "category",
        "parts",
        "partId",
        gate.part(part),
        "quantity",
        "1",
        "choice",
        "alternative",
        "group",
        "At the post",
        "taken",
        taken);
  }

  @Test
  void a_declined_card_takes_nothing_and_another_one_can_be_tried() {
    sent();
    accept(1, List.of());
    assertThat(pay("400000000002").rule()).isEqualTo("DECLINED");
    assertThat(heldDeposits()).isEmpty();
    assertThat(pay("400000000001").status()).isEqualTo(200);
    assertThat(heldDeposits()).containsExactly(183_60L);
  }

  @Test
  void a_terminal_that_times_out_without_taking_anything_says_so() {
    sent();
    accept(1, List.of());
    assertThat(pay("400000000003").text()).contains("did not answer. No money was taken");
    assertThat(heldDeposits()).isEmpty();
  }

  @Test
  void money_whose_answer_was_lost_is_found_and_is_a_deposit_once() {
    sent();
    accept(1, List.of());
    assertThat(pay("400000000004").status()).isEqualTo(200);
    program.askCardTerminal();
    assertThat(heldDeposits()).containsExactly(183_60L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_terminal_that_answers_twice_makes_one_deposit() {
    sent();
    accept(1, List.of());
    assertThat(pay("400000000005").status()).isEqualTo(200);
    assertThat(heldDeposits()).containsExactly(183_60L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_deposit_is_not_paid_twice() {
    sent();
    accept(1, List.of());
    pay("400000000001");
    assertThat(pay("400000000001").text()).contains("paid already. Nothing more was taken");
    assertThat(heldDeposits()).containsExactly(183_60L);
  }

  @Test
  void two_payments_at_the_same_moment_take_the_deposit_once() throws Exception {
    sent();
    accept(1, List.of());
    String path = gate.offerPath();
    List<Visitor> phones = List.of(new Visitor(program), new Visitor(program));
    AtOnce.statuses(2, i -> phones.get(i).post(path + "/deposit", Map.of("card", "400000000001")));
    assertThat(heldDeposits()).containsExactly(183_60L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_deposit_that_no_job_uses_is_given_back_once() {
    sent();
    accept(1, List.of());
    pay("400000000001");
    String refund = "/api/quotes/" + gate.quote() + "/deposits/refund";
    assertThat(gate.office().post(refund, Map.of()).status()).isEqualTo(200);
    assertThat(gate.office().post(refund, Map.of()).rule()).isEqualTo("WRONG_STATE");
    assertThat(heldDeposits()).containsExactly(0L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_question_lands_as_a_to_do_and_its_answer_goes_back() {
    sent();
    customer.post(gate.offerPath() + "/questions", Map.of("question", "Is the ram galvanised?"));
    String toDos = gate.office().get("/api/to-dos?whose=own").text();
    assertThat(toDos).contains("Is the ram galvanised?");
    long question = quote().path("questions").path(0).path("id").asLong();
    gate.office()
        .post("/api/quote-questions/" + question + "/answer", Map.of("answer", "Yes, it is."));
    assertThat(page().path("questions").path(0).path("answer").asString()).isEqualTo("Yes, it is.");
    assertThat(gate.office().get("/api/to-dos?whose=own").text())
        .doesNotContain("Is the ram galvanised?");
    program.sendMail();
    assertThat(gate.office().get("/api/mail-stand-in").text())
        .contains("Yes, it is.", "Is the ram galvanised?");
  }

  @Test
  void a_no_with_its_reason_is_on_the_quote() {
    sent();
    customer.post(gate.offerPath() + "/decline", Map.of("edition", 1, "reason", "Sold the house"));
    assertThat(quote().path("declineReason").asString()).isEqualTo("Sold the house");
  }

  @Test
  void a_sent_quote_goes_out_by_mail_with_its_link_and_a_pdf() {
    sent();
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
      sent();
      program.sendMail();
      JsonNode waiting = quote().path("letters").path(0);
      assertThat(waiting.path("state").asString()).isEqualTo("waiting");
      assertThat(waiting.path("lastFault").asString()).isNotEmpty();
    } finally {
      program.mailServer(true);
    }
    gate.at("10:00");
    program.sendMail();
    assertThat(quote().path("letters").path(0).path("state").asString()).isEqualTo("sent");
  }

  @Test
  void mail_that_cannot_be_delivered_is_a_to_do_for_whoever_sent_the_quote() {
    sent();
    program
        .database()
        .update(MAIL)
        .set(MAIL.TO_ADDRESS, "mara at nowhere")
        .where(MAIL.QUOTE_ID.eq(gate.quote()))
        .execute();
    program.sendMail();
    assertThat(quote().path("letters").path(0).path("state").asString()).isEqualTo("undeliverable");
    JsonNode toDos = gate.office().get("/api/to-dos?whose=mine").json().path("rows");
    assertThat(texts(toDos, "what"))
        .filteredOn(what -> what.startsWith("Mail to mara at nowhere did not arrive"))
        .hasSize(1);
  }

  @Test
  void a_drive_is_quoted_by_the_mile_and_stays_so_when_the_quote_is_copied() {
    gate.offer(
            Map.of(
                "category",
                "drive",
                "description",
                "Lorry",
                "time",
                "1:00",
                "miles",
                "40",
                "charge",
                "per_mile",
                "price",
                "1.15"))
        .sent();
    JsonNode line = page().path("lines").path(LAMP);
    assertThat(line.path("quantity").asString()).isEqualTo("40 miles");
    assertThat(line.path("netMinor").asLong()).isEqualTo(46_00);
    long copy =
        gate.office()
            .post("/api/quotes/" + gate.quote() + "/copy", Map.of())
            .json()
            .path("id")
            .asLong();
    JsonNode copied = gate.office().get("/api/quotes/" + copy).json().path("lines").path(LAMP);
    assertThat(copied.path("charge").asString()).isEqualTo("per_mile");
    assertThat(copied.path("price").asString()).isEqualTo("1.15");
  }

  @ParameterizedTest
  @CsvSource({
    "per_mile, '', price, Enter",
    "by_the_yard, 3.00, charge, 'A drive is charged by the call-out, the hour or the mile.'"
  })
  void a_drive_by_another_rule_than_the_companys_needs_its_price_and_a_rule_that_there_is(
      String charge, String price, String field, String told) {
    JsonNode faults =
        gate.office()
            .post(
                "/api/quotes/preview",
                Map.of(
                    "lines",
                    List.of(
                        Map.of(
                            "category",
                            "drive",
                            "time",
                            "1:00",
                            "miles",
                            "40",
                            "charge",
                            charge,
                            "price",
                            price))))
            .json()
            .path("faults");
    assertThat(texts(faults, "field")).containsExactly("lines/0/" + field);
    assertThat(texts(faults, "message").getFirst()).startsWith(told);
  }

  @Test
  void what_was_agreed_for_the_whole_is_compared_too() {
    gate.agree("deposit", "25%").agree("notes", "Bring a ladder.").sent();
    gate.office().post("/api/quotes/" + gate.quote() + "/take-back", Map.of("version", 2));
    ObjectNode form =
        ((ObjectNode) quote())
            .retain("version", "siteId", "kindOfJobId", "title", "equipmentId", "lines");
    form.put("deposit", "40%").put("notes", "").put("depositDueDays", "7");
    assertThat(gate.office().put("/api/quotes/" + gate.quote(), form).text()).contains("40%");
    gate.office()
        .post(
            "/api/quotes/" + gate.quote() + "/send",
            Map.of("version", quote().path("version").asInt()));
    JsonNode terms =
        gate.office()
            .get("/api/quotes/" + gate.quote() + "/comparison?before=1&after=2")
            .json()
            .path("terms");
    assertThat(texts(terms, "term")).containsExactly("Deposit", "Notes");
    assertThat(texts(terms, "before")).containsExactly("25%", "Bring a ladder.");
    assertThat(texts(terms, "after")).containsExactly("40%", "");
  }

  @Test
  void two_editions_are_compared_line_by_line() {
    sent();
    gate.office().post("/api/quotes/" + gate.quote() + "/take-back", Map.of("version", 2));
    var form = new HashMap<String, Object>();
    JsonNode stored = quote();
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
            Map.of("version", quote().path("version").asInt()));
    JsonNode compared =
        gate.office().get("/api/quotes/" + gate.quote() + "/comparison?before=1&after=2").json();
    assertThat(texts(compared.path("changes"), "what"))
        .containsExactly("changed", "added", "removed", "removed", "removed", "removed", "removed");
  }

  @Test
  void a_copied_quote_is_a_draft_of_its_own_with_all_its_terms() {
    sent();
    long copy =
        gate.office()
            .post("/api/quotes/" + gate.quote() + "/copy", Map.of())
            .json()
            .path("id")
            .asLong();
    JsonNode copied = gate.office().get("/api/quotes/" + copy).json();
    assertThat(copied.path("state").asString()).isEqualTo("draft");
    assertThat(copied.path("deposit").asString()).isEqualTo("25%");
    assertThat(texts(copied.path("lines"), "description"))
        .isEqualTo(texts(quote().path("lines"), "description"));
  }

  @Test
  void past_jobs_of_a_kind_say_what_such_jobs_took() {
    JsonNode past = gate.office().get("/api/past-jobs?kindOfJobId=1").json();
    assertThat(past.path("alike").asInt()).isGreaterThanOrEqualTo(5);
    assertThat(past.path("labour").path("median").asLong())
        .isBetween(
            past.path("labour").path("lowerQuartile").asLong(),
            past.path("labour").path("upperQuartile").asLong());
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "12", "not a card"})
  void what_is_no_card_number_is_told_at_its_field(String typed) {
    sent();
    accept(1, List.of());
    assertThat(pay(typed).pointer()).isEqualTo("/card");
  }

  @Test
  void a_kit_is_kept_without_its_prices_and_unfolds_into_lines() {
    gate.office()
        .post(
            "/api/kits",
            Map.of(
                "name",
                "Ram pair",
                "lines",
                List.of(
                    Map.of(
                        "category",
                        "parts",
                        "partId",
                        gate.part("RAM-230"),
                        "quantity",
                        "2",
                        "price",
                        "1.00"))));
    JsonNode kits = gate.office().get("/api/kits").json();
    JsonNode lines = null;
    for (JsonNode kit : kits) {
      lines = kit.path("name").asString().equals("Ram pair") ? kit.path("lines") : lines;
    }
    assertThat(lines).isNotNull();
    assertThat(lines.path(0).path("quantity").asString()).isEqualTo("2");
    assertThat(lines.path(0).path("price").isNull()).isTrue();
  }

  @Test
  void a_quote_without_an_answer_comes_up_after_a_week() {
    sent();
    assertThat(followUp("unanswered")).doesNotContain(gate.quote());
    program
        .clock()
        .set(
            java.time.LocalDate.ofInstant(
                        program.clock().instant(), java.time.ZoneId.of("Europe/London"))
                    .plusDays(7)
                + "T09:00");
    assertThat(followUp("unanswered")).contains(gate.quote());
  }

  @Test
  void a_lapsed_quote_comes_up_by_the_day() {
    sent();
    program.clock().set("2027-06-01T09:00");
    assertThat(followUp("lapsed")).contains(gate.quote());
  }

  @Test
  void a_deposit_of_a_job_that_was_called_off_is_owed_back() {
    sent();
    accept(1, List.of());
    pay("400000000001");
    gate.answered().planned();
    gate.office()
        .post(
            "/api/jobs/" + gate.job() + "/call-off",
            Map.of("version", gate.version(), "reason", "Customer moved away"));
    JsonNode owed = gate.office().get("/api/quotes/follow-up").json().path("owedBack");
    assertThat(texts(owed, "quoteId")).contains(String.valueOf(gate.quote()));
  }

  @Test
  void a_deposit_that_a_job_will_use_is_not_given_back() {
    sent();
    accept(1, List.of());
    pay("400000000001");
    gate.answered().planned();
    var refused = gate.office().post("/api/quotes/" + gate.quote() + "/deposits/refund", Map.of());
    assertThat(refused.rule()).isEqualTo("IN_USE");
  }

  @Test
  void a_part_whose_cost_changed_since_the_draft_was_saved_is_told() {
    gate.offer(Map.of("category", "parts", "partId", gate.part("BRG-40"), "quantity", "1"))
        .quoted();
    assertThat(quote().path("costChanges")).isEmpty();
    program.keepInStock("BRG-40", 5_000, "99.00");
    JsonNode change = quote().path("costChanges").path(0);
    assertThat(change.path("description").asString()).isEqualTo("Barrel bearing 40 mm");
    assertThat(change.path("now").asLong()).isGreaterThan(change.path("before").asLong());
  }

  @Test
  void a_job_that_was_billed_is_quoted_again_by_what_it_really_took() {
    gate.billed();
    long quote =
        gate.office()
            .post("/api/jobs/" + gate.job() + "/quote", Map.of())
            .json()
            .path("id")
            .asLong();
    JsonNode lines = gate.office().get("/api/quotes/" + quote).json().path("lines");
    assertThat(texts(lines, "time")).contains("2:35", "0:45", "0:40");
    assertThat(texts(lines, "quantity")).contains("1", "2");
  }

  private List<Long> followUp(String list) {
    return texts(gate.office().get("/api/quotes/follow-up").json().path(list), "id").stream()
        .map(Long::valueOf)
        .toList();
  }
}
