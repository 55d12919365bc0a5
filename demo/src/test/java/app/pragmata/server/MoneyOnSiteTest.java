package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Money that a customer hands to the technician. */
class MoneyOnSiteTest {
  // How the stand-in behaves is said by the card's last digit.
  private static final String TAKEN = "411111111111";
  private static final String DECLINED = "411111111112";
  private static final String NEVER_ARRIVED = "411111111113";
  private static final String ANSWER_LOST = "411111111114";
  private static final String NO_ANSWER = "411111111116";

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "piet");

  @AfterEach
  void theVisitIsOver() {
    gate.at("18:20");
    gate.tap("finish", Map.of());
  }

  private String path() {
    return "/api/pocket/visits/" + gate.visit() + "/money";
  }

  private Visitor.Answer take(String amount, String method) {
    return gate.technician().post(path(), Map.of("amount", amount, "method", method));
  }

  private JsonNode receipts() {
    return gate.sheet().path("receipts");
  }

  @ParameterizedTest
  @CsvSource({"cash", "cheque"})
  void what_is_handed_over_is_a_deposit_on_the_job_at_once(String method) {
    gate.onSite();
    Visitor.Answer taken = take("120.50", method);
    assertThat(taken.status()).as(taken.text()).isEqualTo(200);
    assertThat(texts(taken.json().path("taken"), "amountMinor")).containsExactly("12050");
    assertThat(texts(receipts(), "amountMinor")).contains("12050");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void what_is_sent_twice_is_taken_once() {
    gate.onSite();
    var form = Map.of("amount", "80", "method", "cash");
    String key = "cash-twice-" + gate.visit();
    gate.technician().post(path(), form, key);
    gate.technician().post(path(), form, key);
    assertThat(texts(paid().path("taken"), "amountMinor")).containsExactly("8000");
  }

  @ParameterizedTest
  @CsvSource({
    "120, card, /card",
    "abc, cash, /amount",
    "0, cash, /amount",
    "0, bank_transfer, /amount",
    "'', bank_transfer, /amount"
  })
  void what_cannot_be_paid_like_that_is_refused_at_its_field(
      String amount, String method, String pointer) {
    gate.onSite();
    assertThat(take(amount, method).pointer()).isEqualTo(pointer);
    assertThat(paid().path("taken")).isEmpty();
    assertThat(paid().path("promised")).isEmpty();
  }

  private JsonNode paid() {
    return gate.technician().get(path()).json();
  }

  private Visitor.Answer byCard(String amount, String card, String key) {
    return gate.technician()
        .post(
            path(),
            Map.of(
                "amount", amount, "method", "card", "card", card, "receiptTo", "amery@example.com"),
            key);
  }

  private String key(String name) {
    return name + "-" + gate.visit();
  }

  @Test
  void a_card_that_is_approved_is_a_deposit_on_the_job_with_a_receipt_by_mail() {
    gate.onSite();
    Visitor.Answer taken = byCard("120.50", TAKEN, key("approved"));
    assertThat(taken.status()).as(taken.text()).isEqualTo(200);
    assertThat(texts(paid().path("taken"), "method")).containsExactly("card");
    assertThat(texts(receipts(), "amountMinor")).contains("12050");
    assertThat(letters()).singleElement().asString().contains("£120.50", "by card");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  /** What is in the post, or was, for the customer's own address. */
  private List<String> letters() {
    return program
        .database()
        .fetch(
            "select body from mail where to_address = 'amery@example.com' and body like ?",
            "%job " + gate.sheet().path("number").asLong() + "%")
        .getValues(0, String.class);
  }

  @Test
  void one_that_is_declined_takes_nothing_and_another_may_be_tried() {
    gate.onSite();
    assertThat(byCard("80", DECLINED, key("declined")).rule()).isEqualTo("DECLINED");
    assertThat(paid().path("taken")).isEmpty();
    assertThat(byCard("80", TAKEN, key("another")).status()).isEqualTo(200);
  }

  @Test
  void the_same_request_again_charges_nothing_more() {
    gate.onSite();
    byCard("80", TAKEN, key("twice"));
    byCard("80", TAKEN, key("twice"));
    assertThat(texts(paid().path("taken"), "amountMinor")).containsExactly("8000");
    assertThat(letters()).hasSize(1);
  }

  @Test
  void an_answer_that_was_lost_is_asked_for_again_and_the_money_is_there() {
    gate.onSite();
    assertThat(byCard("80", ANSWER_LOST, key("lost")).status()).isEqualTo(200);
    assertThat(texts(paid().path("taken"), "amountMinor")).containsExactly("8000");
  }

  @Test
  void while_nobody_knows_what_became_of_one_no_other_is_charged_and_the_page_says_so() {
    gate.onSite();
    assertThat(byCard("80", NO_ANSWER, key("silent")).rule()).isEqualTo("CARD_ANSWER_UNKNOWN");
    assertThat(texts(paid().path("asked"), "amountMinor")).containsExactly("8000");
    assertThat(byCard("80", TAKEN, key("impatient")).rule()).isEqualTo("CARD_ANSWER_UNKNOWN");
    assertThat(paid().path("taken")).isEmpty();
  }

  @Test
  void a_payment_of_which_the_terminal_knows_nothing_was_not_taken() {
    gate.onSite();
    assertThat(byCard("80", NEVER_ARRIVED, key("never")).rule()).isEqualTo("DECLINED");
    assertThat(paid().path("asked")).isEmpty();
  }

  @Test
  void one_that_is_still_on_its_way_to_the_terminal_is_not_taken_for_one_that_it_never_had() {
    gate.onSite();
    program
        .database()
        .execute(
            """
            insert into card_payment (job_id, asked_by, reference, amount_minor, state, asked_at)
              select ?, id, ?, 8000, 'asked', ?::timestamptz from person where username = 'piet'
            """,
            gate.job(),
            key("on its way"),
            program.clock().instant().atOffset(java.time.ZoneOffset.UTC));
    assertThat(byCard("80", TAKEN, key("too quick")).rule()).isEqualTo("CARD_ANSWER_UNKNOWN");
    assertThat(texts(paid().path("asked"), "amountMinor")).containsExactly("8000");
    gate.at("15:10");
    assertThat(byCard("80", TAKEN, key("in time")).status()).isEqualTo(200);
    assertThat(paid().path("asked")).isEmpty();
  }

  @Test
  void two_payments_one_after_the_other_are_two() {
    gate.onSite();
    byCard("80", TAKEN, key("first"));
    byCard("80", TAKEN, key("second"));
    assertThat(texts(paid().path("taken"), "amountMinor")).containsExactly("8000", "8000");
  }

  @Test
  void the_cards_number_is_kept_nowhere() {
    gate.onSite();
    byCard("80", TAKEN, key("number"));
    assertThat(
            program
                .database()
                .fetch("select content from repeatable_request where content like ?", "%" + TAKEN))
        .isEmpty();
  }

  @Test
  void a_transfer_that_is_promised_is_no_money_yet_and_the_office_looks_for_it() {
    gate.onSite();
    Visitor.Answer promised = take("150", "bank_transfer");
    assertThat(promised.status()).as(promised.text()).isEqualTo(200);
    assertThat(texts(promised.json().path("promised"), "amountMinor")).containsExactly("15000");
    assertThat(promised.json().path("taken")).isEmpty();
    assertThat(texts(receipts(), "amountMinor")).doesNotContain("15000");
    assertThat(gate.toDos()).singleElement().asString().contains("£150.00");
  }

  @Test
  void nobody_takes_money_for_a_visit_that_is_not_theirs_or_before_they_are_there() {
    gate.planned();
    assertThat(take("80", "cash").rule()).isEqualTo("NOT_ON_SITE");
    Visitor other = Visitor.signedIn(program, "ngozi");
    assertThat(other.post(path(), Map.of("amount", "80", "method", "cash")).rule())
        .isEqualTo("NOT_FOUND");
    assertThat(other.get(path()).json().path("taken")).isEmpty();
    assertThat(other.get(path()).json().path("receiptTo").asString()).isEmpty();
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    gate.tap("start-work", Map.of());
  }
}
