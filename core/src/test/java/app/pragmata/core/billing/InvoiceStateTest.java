package app.pragmata.core.billing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class InvoiceStateTest {
  private static final InvoiceState.Open TEN_POUNDS = new InvoiceState.Open(Money.of("10.00"));

  @Test
  void an_invoice_is_settled_by_the_last_penny() {
    assertThat(TEN_POUNDS.receive(Money.of("10.00"))).isInstanceOf(InvoiceState.Settled.class);
  }

  @Test
  void part_of_the_money_leaves_the_rest_open() {
    assertThat(TEN_POUNDS.receive(Money.of("9.99")))
        .isEqualTo(new InvoiceState.Open(Money.of("0.01")));
  }

  @Test
  void more_than_is_owed_is_refused_by_name() {
    refuses("10.01", Rule.MORE_THAN_OWED);
  }

  @Test
  void nothing_received_is_refused() {
    refuses("0.00", Rule.MISSING);
  }

  @Test
  void an_open_invoice_that_owes_nothing_cannot_be_built() {
    assertThatThrownBy(() -> new InvoiceState.Open(Money.ZERO))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @Property
  void receipts_and_what_is_owed_always_add_up_to_the_invoice(
      @ForAll @Size(min = 1, max = 12) List<@LongRange(min = 1, max = 50_000) Long> receipts) {
    Money owed = Money.ofMinor(300_000);
    Money received = Money.ZERO;
    InvoiceState state = InvoiceState.of(owed);
    for (long minor : receipts) {
      if (state instanceof InvoiceState.Open open && minor <= open.owed().minor()) {
        state = open.receive(Money.ofMinor(minor));
        received = received.plus(Money.ofMinor(minor));
      }
    }
    Money left =
        switch (state) {
          case InvoiceState.Open open -> open.owed();
          case InvoiceState.Settled settled -> Money.ZERO;
        };
    assertThat(received.plus(left)).isEqualTo(owed);
  }

  private static void refuses(String amount, Rule rule) {
    assertThatThrownBy(() -> TEN_POUNDS.receive(Money.of(amount)))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(rule));
  }
}
