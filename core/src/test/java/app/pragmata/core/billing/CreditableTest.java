package app.pragmata.core.billing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Category;
import app.pragmata.core.Refused;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatGroup;
import app.pragmata.core.money.VatTreatment;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class CreditableTest {
  private static final VatGroup STANDARD = VatTreatment.rated("standard", "20").group();
  private static final long JOB = 7;

  private static Creditable.Line line(int position, Money left) {
    return new Creditable.Line(
        position, JOB, new ChargeLine.Of.Promise(), Category.PARTS, STANDARD, left);
  }

  private static Creditable of(List<Creditable.Line> lines, List<Creditable.Off> off) {
    Money net =
        lines.stream()
            .map(Creditable.Line::left)
            .collect(Money.sum())
            .minus(off.stream().map(Creditable.Off::left).collect(Money.sum()));
    return new Creditable(
        lines,
        off,
        List.of(new Creditable.Group(STANDARD, net, VatBreakdown.vatOn(STANDARD, net))));
  }

  @Test
  void a_part_of_a_line_is_credited_with_the_tax_on_it() {
    Creditable invoice = of(List.of(line(1, Money.of("100.00"))), List.of());
    Creditable.Credit credit =
        invoice.credit(
            List.of(new Creditable.Less(invoice.lines().getFirst(), Money.of("12.34"))), List.of());
    assertThat(credit.net()).isEqualTo(Money.of("12.34"));
    assertThat(credit.vatAmount()).isEqualTo(Money.of("2.47"));
  }

  @Test
  void more_than_is_left_of_a_line_is_refused_at_that_line() {
    Creditable invoice = of(List.of(line(1, Money.of("10.00"))), List.of());
    var asked = List.of(new Creditable.Less(invoice.lines().getFirst(), Money.of("10.01")));
    assertThatThrownBy(() -> invoice.credit(asked, List.of()))
        .isInstanceOfSatisfying(
            Refused.class,
            refused -> assertThat(refused.faults().getFirst().field()).isEqualTo("lines/0/amount"));
  }

  @Test
  void of_what_is_credited_nothing_is_left() {
    Creditable invoice = of(List.of(line(1, Money.ZERO)), List.of());
    assertThat(invoice.credit(invoice.whole(invoice.lines()), List.of()).isEmpty()).isTrue();
  }

  @Property
  void credits_that_complete_an_invoice_take_exactly_its_tax(
      @ForAll @Size(min = 1, max = 6) List<@LongRange(min = 1, max = 99) Long> nets) {
    List<Creditable.Line> lines = new ArrayList<>();
    for (long net : nets) {
      lines.add(line(lines.size() + 1, Money.ofMinor(net)));
    }
    Creditable whole = of(lines, List.of());
    Money vatLeft = whole.groups().getFirst().vat();
    Money netLeft = whole.groups().getFirst().net();
    for (Creditable.Line each : lines) {
      Creditable left =
          new Creditable(
              lines, List.of(), List.of(new Creditable.Group(STANDARD, netLeft, vatLeft)));
      Creditable.Credit credit =
          left.credit(List.of(new Creditable.Less(each, each.left())), List.of());
      assertThat(credit.vatAmount().isNegative()).isFalse();
      netLeft = netLeft.minus(credit.net());
      vatLeft = vatLeft.minus(credit.vatAmount());
    }
    assertThat(netLeft).isEqualTo(Money.ZERO);
    assertThat(vatLeft).isEqualTo(Money.ZERO);
  }

  @Test
  void the_whole_price_of_a_final_invoice_is_what_it_asks_for() {
    var off = new Creditable.Off(1, JOB, STANDARD, Money.of("70.00"));
    Creditable invoice =
        of(List.of(line(1, Money.of("60.00")), line(2, Money.of("40.00"))), List.of(off));
    assertThat(invoice.price(invoice.lines()))
        .extracting(Creditable.Less::net)
        .containsExactly(Money.of("18.00"), Money.of("12.00"));
  }

  @Test
  void more_price_than_a_final_invoice_asks_for_is_refused() {
    var off = new Creditable.Off(1, JOB, STANDARD, Money.of("70.00"));
    Creditable invoice = of(List.of(line(1, Money.of("100.00"))), List.of(off));
    var asked = List.of(new Creditable.Less(invoice.lines().getFirst(), Money.of("30.01")));
    assertThatThrownBy(() -> invoice.credit(asked, List.of()))
        .isInstanceOf(Refused.class)
        .hasMessageContaining("30.00");
  }

  @Test
  void taking_all_work_back_gives_the_stages_back_as_well() {
    var off = new Creditable.Off(1, JOB, STANDARD, Money.of("70.00"));
    Creditable invoice = of(List.of(line(1, Money.of("100.00"))), List.of(off));
    Creditable.Credit credit = invoice.credit(invoice.whole(invoice.lines()), invoice.deductions());
    assertThat(credit.net()).isEqualTo(Money.of("30.00"));
    assertThat(credit.gross()).isEqualTo(Money.of("36.00"));
    assertThat(credit.given(JOB)).isEqualTo(Money.of("70.00"));
    assertThat(credit.netByCategory(JOB)).containsEntry(Category.PARTS, Money.of("100.00"));
  }
}
