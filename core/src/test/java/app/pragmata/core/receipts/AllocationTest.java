package app.pragmata.core.receipts;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.money.Money;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.LongRange;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class AllocationTest {
  private static final LocalDate DAY = LocalDate.of(2026, 11, 2);

  private static Debt debt(long invoice, int day, String owed) {
    return new Debt(invoice, DAY.plusDays(day), Money.of(owed));
  }

  private static List<String> paid(List<Allocation> allocations) {
    return allocations.stream().map(each -> each.invoiceId() + ": " + each.amount()).toList();
  }

  @Test
  void the_oldest_invoice_is_paid_first_whatever_the_order_in_which_they_are_listed() {
    assertThat(
            paid(
                Allocation.oldestFirst(
                    Money.of("150.00"), List.of(debt(2, 5, "90.00"), debt(1, 1, "100.00")))))
        .containsExactly("1: 100.00", "2: 50.00");
  }

  @Test
  void of_two_invoices_of_a_day_the_one_that_was_posted_first_is_paid_first() {
    assertThat(
            paid(
                Allocation.oldestFirst(
                    Money.of("10.00"), List.of(debt(9, 1, "90.00"), debt(8, 1, "100.00")))))
        .containsExactly("8: 10.00");
  }

  @Test
  void an_invoice_that_owes_nothing_gets_nothing() {
    assertThat(Allocation.oldestFirst(Money.of("10.00"), List.of(debt(1, 1, "0.00")))).isEmpty();
    assertThat(Allocation.oldestFirst(Money.ZERO, List.of(debt(1, 1, "5.00")))).isEmpty();
  }

  @Test
  void money_that_came_before_the_invoice_pays_it_on_the_invoices_day() {
    var allocation = new Allocation(1, DAY, Money.of("10.00"));
    assertThat(allocation.day(DAY.minusDays(3))).isEqualTo(DAY);
    assertThat(allocation.day(DAY.plusDays(3))).isEqualTo(DAY.plusDays(3));
  }

  @Test
  void an_allocation_of_nothing_and_a_debt_below_nothing_cannot_be() {
    assertThatThrownBy(() -> new Allocation(1, DAY, Money.ZERO))
        .isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> debt(1, 1, "-0.01")).isInstanceOf(IllegalArgumentException.class);
  }

  @Property
  void no_invoice_gets_more_than_it_owes_and_nothing_is_kept_that_could_pay_one(
      @ForAll @LongRange(min = 0, max = 100_000) long money,
      @ForAll @Size(max = 8) List<@LongRange(min = 0, max = 30_000) Long> owed) {
    var debts = new ArrayList<Debt>();
    for (long minor : owed) {
      debts.add(new Debt(debts.size(), DAY.plusDays(minor % 3), Money.ofMinor(minor)));
    }
    List<Allocation> allocations = Allocation.oldestFirst(Money.ofMinor(money), debts);
    long all = owed.stream().mapToLong(Long::longValue).sum();
    assertThat(Allocation.sum(allocations).minor()).isEqualTo(Math.min(money, all));
    Money left = Allocation.after(allocations, debts).stream().map(Debt::owed).collect(Money.sum());
    assertThat(left.minor()).isEqualTo(all - Math.min(money, all));
  }
}
