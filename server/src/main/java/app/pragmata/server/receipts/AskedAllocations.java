package app.pragmata.server.receipts;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.core.receipts.Allocation;
import app.pragmata.server.records.Versions;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Reads which invoices some money is to pay, as it was typed. */
final class AskedAllocations {
  private static final int MOST = 100;

  private AskedAllocations() {}

  /** Notes what can be said of them before any invoice is looked up. */
  static void check(Reading reading, List<ReceiptForm.AllocationForm> asked) {
    if (asked.size() > MOST) {
      reading.fault(
          "allocations",
          Rule.EXCEEDS_LIMIT,
          "At most %d invoices at once. Record the rest afterwards.".formatted(MOST));
    }
    var seen = new HashSet<Long>();
    for (int i = 0; i < asked.size(); i++) {
      if (!seen.add(asked.get(i).invoiceId())) {
        reading.fault(
            "allocations/%d/invoiceId".formatted(i),
            Rule.REPEATED,
            "This invoice is named twice. Name it once, with all that it gets.");
      }
    }
  }

  /**
   * What goes to each invoice, in the order asked for; every amount that is more than is owed or
   * left is noted at its field.
   *
   * @param debts the invoices by id, as far as there are any
   */
  static List<Allocation> read(
      Reading reading,
      List<ReceiptForm.AllocationForm> asked,
      Map<Long, ReceivableStore.Locked> debts,
      long customerId,
      Money money,
      TypedMoney currency) {
    var allocations = new ArrayList<Allocation>();
    for (int i = 0; i < asked.size(); i++) {
      String field = "allocations/%d/".formatted(i);
      ReceivableStore.Locked debt = debts.get(asked.get(i).invoiceId());
      if (debt == null) {
        throw ReceivableStore.unknown();
      }
      if (asked.get(i).version() != null) {
        Versions.require(asked.get(i).version(), debt.version());
      }
      if (debt.customerId() != customerId) {
        reading.fault(
            field + "invoiceId",
            Rule.OF_ANOTHER_CUSTOMER,
            "Invoice %d is of another customer. Choose one of theirs.".formatted(debt.number()));
        continue;
      }
      Money left = money.minus(Allocation.sum(allocations));
      Money amount = reading.optional(field + "amount", asked.get(i).amount(), currency::money);
      allocations.addAll(
          amount == null
              ? Allocation.most(left, debt.debt())
              : exactly(reading, field + "amount", amount, left, debt));
    }
    return allocations;
  }

  private static List<Allocation> exactly(
      Reading reading, String field, Money amount, Money left, ReceivableStore.Locked debt) {
    @Nullable String fault = null;
    Rule rule = Rule.MORE_THAN_OWED;
    if (amount.compareTo(debt.debt().owed()) > 0) {
      fault =
          "Only %s is owed on invoice %d, not %s. Check the amount."
              .formatted(debt.debt().owed(), debt.number(), amount);
    } else if (amount.compareTo(left) > 0) {
      rule = Rule.MORE_THAN_LEFT;
      fault = "Only %s of the money is left for this invoice. Check the amounts.".formatted(left);
    } else if (amount.isZero()) {
      rule = Rule.MISSING;
      fault = "Enter how much goes to this invoice, or leave it out.";
    }
    if (fault != null) {
      reading.fault(field, rule, fault);
      return List.of();
    }
    return List.of(new Allocation(debt.invoiceId(), debt.debt().invoiceDate(), amount));
  }
}
