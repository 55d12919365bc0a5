package app.pragmata.core.books;

import app.pragmata.core.Category;
import app.pragmata.core.Coded;
import app.pragmata.core.money.Money;
import java.util.Map;

/** What happens in the work that the books must know of. All amounts are at least nothing. */
public sealed interface BooksEvent {
  /** The names of the events; a reversal has the name of its own. */
  enum Code implements Coded {
    TIME_APPROVED,
    DRIVE_HOME_SHARED,
    DRIVE_HOME_TAKEN_BACK,
    PART_USED,
    SUPPLIER_BILLED,
    PART_RECEIVED,
    INVOICE_POSTED,
    MONEY_RECEIVED,
    DEPOSIT_RECEIVED,
    DEPOSIT_APPLIED,
    DEPOSIT_REFUNDED,
    JOB_NOT_CHARGED,
    REVERSAL
  }

  /** Its name. */
  default Code code() {
    return switch (this) {
      case TimeApproved event -> Code.TIME_APPROVED;
      case DriveHomeShared event -> Code.DRIVE_HOME_SHARED;
      case DriveHomeTakenBack event -> Code.DRIVE_HOME_TAKEN_BACK;
      case PartUsed event -> Code.PART_USED;
      case SupplierBilled event -> Code.SUPPLIER_BILLED;
      case PartReceived event -> Code.PART_RECEIVED;
      case InvoicePosted event -> Code.INVOICE_POSTED;
      case MoneyReceived event -> Code.MONEY_RECEIVED;
      case DepositReceived event -> Code.DEPOSIT_RECEIVED;
      case DepositApplied event -> Code.DEPOSIT_APPLIED;
      case DepositRefunded event -> Code.DEPOSIT_REFUNDED;
      case JobNotCharged event -> Code.JOB_NOT_CHARGED;
    };
  }

  /** The office checked a visit: its labour and driving minutes, and its miles. */
  record TimeApproved(Money time, Money distance) implements BooksEvent {}

  /**
   * A visit bears its share of a drive home.
   *
   * @param place where the job's cost stands: a share may come after the closing document
   */
  record DriveHomeShared(Money time, Money distance, CostPlace place) implements BooksEvent {}

  /** Such a share is taken back, from where the job's cost stands by now. */
  record DriveHomeTakenBack(Money time, Money distance, CostPlace place) implements BooksEvent {}

  record PartUsed(Money cost) implements BooksEvent {}

  /** A supplier's bill for a job. */
  record SupplierBilled(Money net, Money inputVat) implements BooksEvent {}

  /** A delivery into the stores, not billed yet. */
  record PartReceived(Money cost) implements BooksEvent {}

  /** An invoice, and the work in progress that it turns into cost of sales. */
  record InvoicePosted(
      Money gross,
      Map<Category, Money> netByCategory,
      Money outputVat,
      Map<Category, Money> costByCategory)
      implements BooksEvent {
    public InvoicePosted {
      netByCategory = Map.copyOf(netByCategory);
      costByCategory = Map.copyOf(costByCategory);
    }
  }

  record MoneyReceived(Money amount) implements BooksEvent {}

  /** Money taken before the invoice: we owe it until the work is billed or it is given back. */
  record DepositReceived(Money amount) implements BooksEvent {}

  /** A deposit comes off what an invoice still asks for. */
  record DepositApplied(Money amount) implements BooksEvent {}

  record DepositRefunded(Money amount) implements BooksEvent {}

  /** Warranty or goodwill: the work in progress becomes our own cost. */
  record JobNotCharged(Money cost) implements BooksEvent {}
}
