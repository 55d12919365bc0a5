package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.TO_DO;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** Money that comes before the invoice, by card and otherwise. */
class ReceiptsOfQuotesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SentQuote offered = new SentQuote();
  private final SwingGate gate = offered.gate();

  @Test
  void a_deposit_is_a_liability_until_it_comes_off_the_invoice() {
    offered.sent();
    offered.accept(1, List.of());
    offered.pay("400000000001");
    assertThat(offered.heldDeposits()).containsExactly(183_60L);
    gate.answered().billed();
    JsonNode invoice = gate.sheet().path("billing").path("invoices").path(0);
    assertThat(texts(invoice.path("receipts"), "amountMinor")).containsExactly("18360");
    assertThat(invoice.path("owedMinor").asLong())
        .isEqualTo(invoice.path("grossMinor").asLong() - 183_60);
    assertThat(offered.heldDeposits()).containsExactly(0L);
    assertThat(texts(gate.sheet().path("journal"), "event"))
        .contains("money_received", "money_allocated");
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_deposit_in_money_is_asked_for_and_taken_only_up_to_what_was_chosen() {
    var lamp = new java.util.HashMap<>(offered.lamp("option"));
    lamp.put("taken", true);
    gate.agree("deposit", "780.00").offer(lamp).sent();
    JsonNode accepted = offered.accept(1, List.of()).json();
    assertThat(accepted.path("depositDueMinor").asLong()).isEqualTo(734_40);
    assertThat(offered.pay("400000000001").status()).isEqualTo(200);
    assertThat(offered.heldDeposits()).containsExactly(734_40L);
  }

  @Test
  void a_deposit_is_among_what_came_in_this_month_before_and_after_there_is_a_job() {
    long before = paid();
    offered.sent();
    offered.accept(1, List.of());
    offered.pay("400000000001");
    assertThat(paid()).isEqualTo(before + 183_60);
    gate.answered().planned();
    assertThat(paid()).isEqualTo(before + 183_60);
  }

  private long paid() {
    return gate.office().get("/api/worklists/paid").json().path("amountMinor").asLong();
  }

  @Test
  void the_entry_of_the_deposit_is_seen_before_the_invoice_is_posted() {
    offered.sent();
    offered.accept(1, List.of());
    offered.pay("400000000001");
    gate.answered().checked();
    JsonNode draft = gate.sheet().path("billing").path("draft");
    assertThat(draft.path("depositMinor").asLong()).isEqualTo(183_60);
    assertThat(texts(draft.path("entry"), "accountName")).contains("Customer deposits");
    assertThat(draft.path("entryDebitMinor").asLong())
        .isEqualTo(draft.path("entryCreditMinor").asLong());
  }

  @Test
  void a_declined_card_takes_nothing_and_another_one_can_be_tried() {
    offered.sent();
    offered.accept(1, List.of());
    assertThat(offered.pay("400000000002").rule()).isEqualTo("DECLINED");
    assertThat(offered.heldDeposits()).isEmpty();
    assertThat(offered.pay("400000000001").status()).isEqualTo(200);
    assertThat(offered.heldDeposits()).containsExactly(183_60L);
  }

  @Test
  void a_terminal_that_times_out_without_taking_anything_says_so() {
    offered.sent();
    offered.accept(1, List.of());
    assertThat(offered.pay("400000000003").text()).contains("did not answer. No money was taken");
    assertThat(offered.heldDeposits()).isEmpty();
  }

  @Test
  void money_whose_answer_was_lost_is_found_and_is_a_deposit_once() {
    offered.sent();
    offered.accept(1, List.of());
    assertThat(offered.pay("400000000004").status()).isEqualTo(200);
    program.askCardTerminal();
    assertThat(offered.heldDeposits()).containsExactly(183_60L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void the_office_is_told_once_of_money_of_which_the_terminal_says_nothing_for_a_day() {
    offered.sent();
    offered.accept(1, List.of());
    assertThat(offered.pay("400000000006").rule()).isEqualTo("CARD_ANSWER_UNKNOWN");
    program.askCardTerminal();
    assertThat(unansweredToDos()).isZero();
    program.clock().advance(Duration.ofHours(25));
    program.askCardTerminal();
    program.askCardTerminal();
    assertThat(unansweredToDos()).isEqualTo(1);
    assertThat(offered.heldDeposits()).isEmpty();
  }

  private int unansweredToDos() {
    return program
        .database()
        .fetchCount(
            TO_DO, TO_DO.QUOTE_ID.eq(gate.quote()).and(TO_DO.WHAT.contains("card terminal")));
  }

  @Test
  void a_terminal_that_answers_twice_makes_one_deposit() {
    offered.sent();
    offered.accept(1, List.of());
    assertThat(offered.pay("400000000005").status()).isEqualTo(200);
    assertThat(offered.heldDeposits()).containsExactly(183_60L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_deposit_is_not_paid_twice() {
    offered.sent();
    offered.accept(1, List.of());
    offered.pay("400000000001");
    assertThat(offered.pay("400000000001").text()).contains("paid already. Nothing more was taken");
    assertThat(offered.heldDeposits()).containsExactly(183_60L);
  }

  @Test
  void two_payments_at_the_same_moment_take_the_deposit_once() throws Exception {
    offered.sent();
    offered.accept(1, List.of());
    String path = gate.offerPath();
    List<Visitor> phones = List.of(new Visitor(program), new Visitor(program));
    AtOnce.statuses(2, i -> phones.get(i).post(path + "/deposit", Map.of("card", "400000000001")));
    assertThat(offered.heldDeposits()).containsExactly(183_60L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "12", "not a card"})
  void what_is_no_card_number_is_told_at_its_field(String typed) {
    offered.sent();
    offered.accept(1, List.of());
    assertThat(offered.pay(typed).pointer()).isEqualTo("/card");
  }

  @Test
  void a_deposit_that_no_job_uses_is_given_back_once() {
    offered.sent();
    offered.accept(1, List.of());
    offered.pay("400000000001");
    long receipt =
        gate.office()
            .get("/api/receipts?quoteId=" + gate.quote())
            .json()
            .path("rows")
            .path(0)
            .path("id")
            .asLong();
    String back = "/api/receipts/" + receipt + "/give-back";
    assertThat(gate.office().post(back, Map.of("version", 1)).status()).isEqualTo(200);
    assertThat(gate.office().post(back, Map.of("version", 2)).rule()).isEqualTo("NOTHING_LEFT");
    assertThat(offered.heldDeposits()).containsExactly(0L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void what_is_left_of_a_deposit_when_its_job_is_billed_is_owed_back() {
    offered.sent();
    offered.accept(1, List.of());
    receive(Map.of("amount", "600"));
    gate.answered().billed();
    JsonNode owed = gate.office().get("/api/quotes/follow-up").json().path("owedBack");
    assertThat(owed)
        .filteredOn(row -> row.path("jobNumber").asLong() == gate.sheet().path("number").asLong())
        .map(row -> row.path("leftMinor").asLong())
        .containsExactly(600_00 - gate.invoice().path("grossMinor").asLong());
  }

  @Test
  void a_job_is_neither_called_off_nor_left_uncharged_while_its_deposit_is_held() {
    offered.sent();
    offered.accept(1, List.of());
    offered.pay("400000000001");
    gate.answered().planned();
    Map<String, Object> why = Map.of("version", gate.version(), "reason", "Customer moved away");
    String callOff = "/api/jobs/" + gate.job() + "/call-off";
    assertThat(gate.office().post(callOff, why).rule()).isEqualTo("DEPOSIT_HELD");
    long receipt = gate.sheet().path("receipts").path(0).path("id").asLong();
    gate.office().post("/api/receipts/" + receipt + "/give-back", Map.of("version", 1));
    why = Map.of("version", gate.version(), "reason", "Customer moved away");
    assertThat(gate.office().post(callOff, why).status()).isEqualTo(200);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  private Visitor.Answer receive(Map<String, Object> money) {
    var form = new HashMap<>(money);
    form.put("quoteId", gate.quote());
    return gate.office().post("/api/receipts", form);
  }

  @Test
  void what_came_by_bank_comes_off_what_is_left_to_pay_by_card() {
    offered.sent();
    offered.accept(1, List.of());
    assertThat(receive(Map.of("amount", "83.60")).status()).isEqualTo(200);
    assertThat(offered.page().path("depositDueMinor").asLong()).isEqualTo(100_00);
    assertThat(offered.pay("400000000001").status()).isEqualTo(200);
    assertThat(offered.heldDeposits()).containsExactly(83_60L, 100_00L);
    assertThat(offered.page().path("depositDueMinor").asLong()).isZero();
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_deposit_that_came_by_bank_in_full_is_not_asked_for_by_card() {
    offered.sent();
    offered.accept(1, List.of());
    receive(Map.of("amount", "183.60"));
    assertThat(offered.pay("400000000001").text()).contains("paid already. Nothing more was taken");
    assertThat(offered.heldDeposits()).containsExactly(183_60L);
  }

  @Test
  void two_deposits_come_off_one_invoice_and_the_customer_owes_the_rest() {
    offered.sent();
    offered.accept(1, List.of());
    receive(Map.of("amount", "83.60"));
    receive(Map.of("amount", "100.00", "method", "cheque"));
    gate.answered().billed();
    JsonNode invoice = gate.sheet().path("billing").path("invoices").path(0);
    assertThat(texts(invoice.path("receipts"), "amountMinor")).containsExactly("8360", "10000");
    assertThat(offered.heldDeposits()).containsExactly(0L, 0L);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @ParameterizedTest
  @CsvSource({
    "amount, 0, MISSING",
    "amount, '', MISSING",
    "amount, a lot, UNREADABLE",
    "receivedOn, tomorrow, IN_THE_FUTURE",
    "receivedOn, 31 feb, UNREADABLE",
    "method, barter, UNKNOWN_WORD"
  })
  void what_cannot_be_a_deposit_is_refused_at_its_field_and_nothing_is_booked(
      String field, String typed, String rule) {
    offered.sent();
    offered.accept(1, List.of());
    var money = new HashMap<String, Object>(Map.of("amount", "183.60"));
    money.put(field, typed);
    Visitor.Answer refused = receive(money);
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.text()).contains(rule);
    assertThat(offered.heldDeposits()).isEmpty();
  }

  @Test
  void money_that_comes_before_the_yes_or_beyond_the_total_is_not_refused() {
    offered.sent();
    assertThat(receive(Map.of("amount", "5000")).status()).isEqualTo(200);
    assertThat(offered.pay("400000000001").rule()).isEqualTo("NO_DEPOSIT_DUE");
    offered.accept(1, List.of());
    assertThat(offered.pay("400000000001").rule()).isEqualTo("DEPOSIT_PAID");
    gate.answered().billed();
    assertThat(gate.invoice().path("owedMinor").asLong()).isZero();
    long gross = gate.invoice().path("grossMinor").asLong();
    assertThat(offered.heldDeposits()).containsExactly(5000_00 - gross);
    assertThat(Laws.check(program.database())).allMatch(Laws.Finding::holds);
  }

  @Test
  void a_deposit_that_comes_after_the_invoice_pays_it_at_once() {
    offered.sent();
    offered.accept(1, List.of());
    gate.answered().billed();
    receive(Map.of("amount", "183.60"));
    assertThat(texts(gate.invoice().path("receipts"), "amountMinor")).containsExactly("18360");
    assertThat(offered.heldDeposits()).containsExactly(0L);
  }

  @Test
  void money_whose_answer_to_the_office_was_lost_is_booked_once() {
    offered.sent();
    offered.accept(1, List.of());
    var money = Map.of("quoteId", gate.quote(), "amount", "183.60");
    gate.office().post("/api/receipts", money, "the same key " + gate.quote());
    gate.office().post("/api/receipts", money, "the same key " + gate.quote());
    assertThat(offered.heldDeposits()).containsExactly(183_60L);
  }

  @Test
  void a_quote_without_a_deposit_asks_for_none() {
    gate.sent();
    offered.accept(1, List.of());
    assertThat(offered.page().path("depositDueMinor").asLong()).isZero();
    assertThat(offered.pay("400000000001").text()).contains("No deposit is due");
  }
}
