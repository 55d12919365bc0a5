package app.pragmata.core.quoting;

import static app.pragmata.core.costing.WorkedExample.job;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import java.time.LocalDate;
import java.util.List;
import org.junit.jupiter.api.Test;

class QuoteTest {
  private static final LocalDate TODAY = LocalDate.of(2026, 11, 24);

  private static Offer offer() {
    return Offer.of(job().promise());
  }

  @Test
  void the_worked_examples_quote_promises_a_margin_of_50_22_per_cent() {
    QuoteTotals totals = QuoteTotals.of(job().promise());
    assertThat(totals.vat().gross()).isEqualTo(Money.of("734.40"));
    assertThat(totals.margin().amount()).isEqualTo(Money.of("307.33"));
    assertThat(totals.margin().percent()).isEqualTo("50.22");
  }

  @Test
  void a_quote_can_be_accepted_on_its_last_day() {
    assertThat(QuoteState.sent(TODAY, TODAY)).isInstanceOf(QuoteState.Sent.class);
  }

  @Test
  void a_quote_lapses_the_day_after_its_last_day() {
    assertThat(QuoteState.sent(TODAY.minusDays(1), TODAY)).isInstanceOf(QuoteState.Lapsed.class);
  }

  @Test
  void a_quote_without_lines_is_not_sent() {
    assertThatThrownBy(() -> new QuoteState.Draft().send(Offer.of(List.of()), TODAY, TODAY))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(Rule.NO_LINES));
  }

  @Test
  void a_quote_whose_last_day_has_passed_is_not_sent() {
    assertThatThrownBy(() -> new QuoteState.Draft().send(offer(), TODAY.minusDays(1), TODAY))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(Rule.DAY_PASSED));
  }

  @Test
  void a_sent_quote_can_be_taken_back_changed_and_sent_again() {
    QuoteState.Sent sent = new QuoteState.Draft().send(offer(), TODAY, TODAY);
    assertThat(sent.takeBack().send(offer(), TODAY.plusDays(30), TODAY).accept())
        .isInstanceOf(QuoteState.Accepted.class);
  }

  @Test
  void a_lapsed_quote_can_only_be_taken_back() {
    assertThat(new QuoteState.Lapsed().takeBack()).isInstanceOf(QuoteState.Draft.class);
    assertThat(QuoteState.Lapsed.class.getDeclaredMethods())
        .extracting(java.lang.reflect.Method::getName)
        .doesNotContain("accept", "decline", "send");
  }
}
