package app.pragmata.core.receipts;

import app.pragmata.core.money.Money;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/** What of some money goes to an invoice; always more than nothing. */
public record Allocation(long invoiceId, LocalDate invoiceDate, Money amount) {
  public Allocation {
    if (!amount.isPositive()) {
      throw new IllegalArgumentException("An allocation is more than nothing, not " + amount);
    }
  }

  /** All that the money can pay of one debt; of nothing there is no allocation. */
  public static List<Allocation> most(Money money, Debt debt) {
    Money paid = money.compareTo(debt.owed()) > 0 ? debt.owed() : money;
    return paid.isPositive()
        ? List.of(new Allocation(debt.invoiceId(), debt.invoiceDate(), paid))
        : List.of();
  }

  /** Pays the oldest debts first, each as far as the money goes; what is over stays over. */
  public static List<Allocation> oldestFirst(Money money, List<Debt> debts) {
    var allocations = new ArrayList<Allocation>();
    Money left = money;
    for (Debt debt :
        debts.stream()
            .sorted(Comparator.comparing(Debt::invoiceDate).thenComparing(Debt::invoiceId))
            .toList()) {
      List<Allocation> paid = most(left, debt);
      allocations.addAll(paid);
      left = left.minus(sum(paid));
    }
    return allocations;
  }

  /** What is still owed after these allocations; debts that are paid stay in the list. */
  public static List<Debt> after(List<Allocation> allocations, List<Debt> debts) {
    return debts.stream()
        .map(
            debt ->
                debt.less(
                    sum(
                        allocations.stream()
                            .filter(each -> each.invoiceId() == debt.invoiceId())
                            .toList())))
        .toList();
  }

  /** What they come to together. */
  public static Money sum(List<Allocation> allocations) {
    return allocations.stream().map(Allocation::amount).collect(Money.sum());
  }

  /**
   * The day on which money of a day can go to the invoice: nothing is paid before there is a debt.
   */
  public LocalDate day(LocalDate receivedOn) {
    return receivedOn.isBefore(invoiceDate) ? invoiceDate : receivedOn;
  }
}
