package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.laws.Laws;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Money that a customer hands to the technician. */
class MoneyOnSiteTest {
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
    assertThat(texts(taken.json(), "amountMinor")).containsExactly("12050");
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
    assertThat(texts(gate.technician().get(path()).json(), "amountMinor")).containsExactly("8000");
  }

  @ParameterizedTest
  @CsvSource({"120, card, /method", "abc, cash, /amount", "0, cash, /amount"})
  void what_is_no_cash_and_no_cheque_is_refused_at_its_field(
      String amount, String method, String pointer) {
    gate.onSite();
    assertThat(take(amount, method).pointer()).isEqualTo(pointer);
    assertThat(gate.technician().get(path()).json()).isEmpty();
  }

  @Test
  void nobody_takes_money_for_a_visit_that_is_not_theirs_or_before_they_are_there() {
    gate.planned();
    assertThat(take("80", "cash").rule()).isEqualTo("NOT_ON_SITE");
    Visitor other = Visitor.signedIn(program, "ngozi");
    assertThat(other.post(path(), Map.of("amount", "80", "method", "cash")).rule())
        .isEqualTo("NOT_FOUND");
    assertThat(other.get(path()).json()).isEmpty();
    gate.at("15:00");
    gate.tap("arrive", Map.of());
    gate.tap("start-work", Map.of());
  }
}
