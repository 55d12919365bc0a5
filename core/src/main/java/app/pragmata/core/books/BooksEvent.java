package app.pragmata.core.books;

import app.pragmata.core.Category;
import app.pragmata.core.Coded;
import app.pragmata.core.money.Money;
import java.util.List;
import java.util.Map;

/** What happens in the work that the books must know of. All amounts are at least nothing. */
public sealed interface BooksEvent {
  /** The names of the events; a reversal has the name of its own. */
  enum Code implements Coded {
    TIME_APPROVED,
    TIME_TAKEN_BACK,
    DRIVE_HOME_SHARED,
    DRIVE_HOME_TAKEN_BACK,
    PART_USED,
    SUPPLIER_BILLED,
    SUPPLIER_CREDITED,
    PART_RECEIVED,
    USED_BEYOND_STOCK,
    STOCK_EXPLAINED,
    COUNTED_MORE,
    COUNTED_LESS,
    INVOICE_POSTED,
    CREDIT_POSTED,
    MONEY_RECEIVED,
    MONEY_ALLOCATED,
    ALLOCATION_TAKEN_BACK,
    MONEY_GIVEN_BACK,
    RECEIPT_TAKEN_BACK,
    JOB_NOT_CHARGED,
    JOB_CALLED_OFF,
    REVERSAL
  }

  /** Its name. */
  default Code code() {
    return switch (this) {
      case TimeApproved event -> Code.TIME_APPROVED;
      case TimeTakenBack event -> Code.TIME_TAKEN_BACK;
      case DriveHomeShared event -> Code.DRIVE_HOME_SHARED;
      case DriveHomeTakenBack event -> Code.DRIVE_HOME_TAKEN_BACK;
      case PartUsed event -> Code.PART_USED;
      case SupplierBilled event -> Code.SUPPLIER_BILLED;
      case SupplierCredited event -> Code.SUPPLIER_CREDITED;
      case PartReceived event -> Code.PART_RECEIVED;
      case UsedBeyondStock event -> Code.USED_BEYOND_STOCK;
      case StockExplained event -> Code.STOCK_EXPLAINED;
      case CountedMore event -> Code.COUNTED_MORE;
      case CountedLess event -> Code.COUNTED_LESS;
      case InvoicePosted event -> Code.INVOICE_POSTED;
      case CreditPosted event -> Code.CREDIT_POSTED;
      case MoneyReceived event -> Code.MONEY_RECEIVED;
      case MoneyAllocated event -> Code.MONEY_ALLOCATED;
      case AllocationTakenBack event -> Code.ALLOCATION_TAKEN_BACK;
      case MoneyGivenBack event -> Code.MONEY_GIVEN_BACK;
      case ReceiptTakenBack event -> Code.RECEIPT_TAKEN_BACK;
      case JobNotCharged event -> Code.JOB_NOT_CHARGED;
      case JobCalledOff event -> Code.JOB_CALLED_OFF;
    };
  }

  /**
   * The office approved time.
   *
   * @param place where the job's cost stands: time may come after the closing document
   * @param drive what the driving minutes cost
   * @param distance what the vehicle cost
   */
  record TimeApproved(CostObject of, CostPlace place, Money labour, Money drive, Money distance)
      implements BooksEvent {}

  /** Some of the time that was approved turned out to be wrong after the closing document. */
  record TimeTakenBack(TimeApproved approved) implements BooksEvent {}

  /** A visit bears its share of a drive home. */
  record DriveHomeShared(CostObject of, CostPlace place, Money time, Money distance)
      implements BooksEvent {}

  /** Such a share is taken back, from where the job's cost stands by now. */
  record DriveHomeTakenBack(CostObject of, CostPlace place, Money time, Money distance)
      implements BooksEvent {}

  record PartUsed(CostObject of, CostPlace place, Money cost) implements BooksEvent {}

  /** A supplier's bill for a job. */
  record SupplierBilled(CostObject of, CostPlace place, Money net, Money inputVat)
      implements BooksEvent {}

  /** A supplier bears some of a job's cost, without VAT; it is less from where it stands by now. */
  record SupplierCredited(CostObject of, CostPlace place, Money net) implements BooksEvent {}

  /** A delivery into the stores, not billed yet. */
  record PartReceived(Money cost) implements BooksEvent {}

  /** A part was used that all places together did not hold in the books. */
  record UsedBeyondStock(Money cost) implements BooksEvent {}

  /** A delivery, a count or a part put back explains what was used beyond the stock. */
  record StockExplained(Money cost) implements BooksEvent {}

  /** A place holds more than its books said. */
  record CountedMore(Money cost) implements BooksEvent {}

  /** A place holds less than its books said. */
  record CountedLess(Money cost) implements BooksEvent {}

  /** An invoice, and for each of its jobs what it charges. */
  record InvoicePosted(Money gross, Money outputVat, List<Charged> jobs) implements BooksEvent {
    public InvoicePosted {
      jobs = List.copyOf(jobs);
    }
  }

  /** A credit note: what of an invoice is not charged after all. */
  record CreditPosted(InvoicePosted credited) implements BooksEvent {}

  /**
   * What is charged for a job.
   *
   * @param netByCategory sales; categories without any may be left out
   * @param costByCategory the work in progress that becomes cost of sales
   * @param ahead what is billed ahead of work, without VAT
   * @param deducted what was billed ahead of work before and is a sale now
   */
  record Charged(
      CostObject of,
      Map<Category, Money> netByCategory,
      Map<Category, Money> costByCategory,
      Money ahead,
      Money deducted) {
    /** Work that is charged without anything having been billed ahead of it. */
    public static Charged work(
        CostObject of, Map<Category, Money> netByCategory, Map<Category, Money> costByCategory) {
      return new Charged(of, netByCategory, costByCategory, Money.ZERO, Money.ZERO);
    }

    public Charged {
      netByCategory = Map.copyOf(netByCategory);
      costByCategory = Map.copyOf(costByCategory);
    }
  }

  /**
   * A customer's money came in.
   *
   * @param allocated what of it pays invoices at once; the rest is a deposit
   */
  record MoneyReceived(Money amount, Money allocated) implements BooksEvent {}

  /** A deposit comes off what an invoice still asks for. */
  record MoneyAllocated(Money amount) implements BooksEvent {}

  /** What went to an invoice is a deposit again. */
  record AllocationTakenBack(Money amount) implements BooksEvent {}

  record MoneyGivenBack(Money amount) implements BooksEvent {}

  /** Money turned out not to have come, such as a cheque that bounced. */
  record ReceiptTakenBack(Money amount) implements BooksEvent {}

  /** Warranty or goodwill: the work in progress becomes our own cost. */
  record JobNotCharged(CostObject of, Money cost) implements BooksEvent {}

  /** Work that was called off after it had cost something. */
  record JobCalledOff(CostObject of, Money cost) implements BooksEvent {}
}
