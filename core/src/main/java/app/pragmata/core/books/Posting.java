package app.pragmata.core.books;

import static app.pragmata.core.books.PostingCategory.*;

import app.pragmata.core.Category;
import app.pragmata.core.money.Money;
import java.util.Map;

/** The one place that knows which event debits and credits what. */
public final class Posting {
  private Posting() {}

  /** The balanced entry of an event; without lines when no money moves. */
  public static JournalEntry entryFor(BooksEvent event) {
    var entry = new JournalEntry.Builder();
    switch (event) {
      case BooksEvent.TimeApproved approved -> time(entry, approved);
      case BooksEvent.TimeTakenBack back -> entry.mirrored(entryFor(back.approved()));
      case BooksEvent.DriveHomeShared shared ->
          entry
              .debit(
                  shared.place().postingCategory(Category.DRIVE),
                  shared.of(),
                  shared.time().plus(shared.distance()))
              .credit(PAYROLL_CLEARING, shared.time())
              .credit(VEHICLE_COSTS_ABSORBED, shared.distance());
      case BooksEvent.DriveHomeTakenBack back ->
          entry
              .debit(PAYROLL_CLEARING, back.time())
              .debit(VEHICLE_COSTS_ABSORBED, back.distance())
              .credit(
                  back.place().postingCategory(Category.DRIVE),
                  back.of(),
                  back.time().plus(back.distance()));
      case BooksEvent.PartUsed used ->
          entry
              .debit(used.place().postingCategory(Category.PARTS), used.of(), used.cost())
              .credit(STOCK, used.cost());
      case BooksEvent.SupplierBilled bill ->
          entry
              .debit(bill.place().postingCategory(Category.OTHER), bill.of(), bill.net())
              .debit(INPUT_VAT, bill.inputVat())
              .credit(TRADE_CREDITORS, bill.net().plus(bill.inputVat()));
      case BooksEvent.SupplierCredited credit ->
          entry
              .debit(TRADE_CREDITORS, credit.net())
              .credit(credit.place().postingCategory(Category.OTHER), credit.of(), credit.net());
      case BooksEvent.PartReceived received ->
          entry.debit(STOCK, received.cost()).credit(GOODS_RECEIVED_NOT_BILLED, received.cost());
      case BooksEvent.UsedBeyondStock beyond ->
          entry.debit(STOCK, beyond.cost()).credit(STOCK_DIFFERENCES, beyond.cost());
      case BooksEvent.StockExplained explained ->
          entry.debit(STOCK_DIFFERENCES, explained.cost()).credit(STOCK, explained.cost());
      case BooksEvent.CountedMore more ->
          entry.debit(STOCK, more.cost()).credit(STOCK_DIFFERENCES, more.cost());
      case BooksEvent.CountedLess less ->
          entry.debit(STOCK_DIFFERENCES, less.cost()).credit(STOCK, less.cost());
      case BooksEvent.InvoicePosted invoice -> invoice(entry, invoice);
      case BooksEvent.CreditPosted credit -> entry.mirrored(entryFor(credit.credited()));
      case BooksEvent.MoneyReceived money ->
          entry
              .debit(BANK, money.amount())
              .credit(TRADE_DEBTORS, money.allocated())
              .credit(CUSTOMER_DEPOSITS, money.amount().minus(money.allocated()));
      case BooksEvent.MoneyAllocated money ->
          entry.debit(CUSTOMER_DEPOSITS, money.amount()).credit(TRADE_DEBTORS, money.amount());
      case BooksEvent.AllocationTakenBack money ->
          entry.debit(TRADE_DEBTORS, money.amount()).credit(CUSTOMER_DEPOSITS, money.amount());
      case BooksEvent.MoneyGivenBack money ->
          entry.debit(CUSTOMER_DEPOSITS, money.amount()).credit(BANK, money.amount());
      case BooksEvent.ReceiptTakenBack money ->
          entry.debit(CUSTOMER_DEPOSITS, money.amount()).credit(BANK, money.amount());
      case BooksEvent.JobNotCharged free ->
          entry
              .debit(WARRANTY_AND_GOODWILL, free.of(), free.cost())
              .credit(WORK_IN_PROGRESS, free.of(), free.cost());
      case BooksEvent.JobCalledOff off ->
          entry
              .debit(COST_OF_WORK_CALLED_OFF, off.of(), off.cost())
              .credit(WORK_IN_PROGRESS, off.of(), off.cost());
    }
    return entry.build();
  }

  /** Labour and driving are one line of work in progress, and two of what is sold. */
  private static void time(JournalEntry.Builder entry, BooksEvent.TimeApproved approved) {
    Money driving = approved.drive().plus(approved.distance());
    PostingCategory labour = approved.place().postingCategory(Category.LABOUR);
    PostingCategory drive = approved.place().postingCategory(Category.DRIVE);
    if (labour == drive) {
      entry.debit(labour, approved.of(), approved.labour().plus(driving));
    } else {
      entry.debit(labour, approved.of(), approved.labour()).debit(drive, approved.of(), driving);
    }
    entry
        .credit(PAYROLL_CLEARING, approved.labour().plus(approved.drive()))
        .credit(VEHICLE_COSTS_ABSORBED, approved.distance());
  }

  private static void invoice(JournalEntry.Builder entry, BooksEvent.InvoicePosted invoice) {
    entry.debit(TRADE_DEBTORS, invoice.gross());
    for (BooksEvent.Charged job : invoice.jobs()) {
      for (Category category : Category.values()) {
        entry.credit(
            PostingCategory.sales(category), job.of(), amount(job.netByCategory(), category));
      }
      entry
          .credit(BILLED_AHEAD_OF_WORK, job.of(), job.ahead())
          .debit(BILLED_AHEAD_OF_WORK, job.of(), job.deducted());
    }
    entry.credit(OUTPUT_VAT, invoice.outputVat());
    for (BooksEvent.Charged job : invoice.jobs()) {
      for (Category category : Category.values()) {
        entry.debit(
            PostingCategory.costOfSales(category),
            job.of(),
            amount(job.costByCategory(), category));
      }
      entry.credit(
          WORK_IN_PROGRESS, job.of(), job.costByCategory().values().stream().collect(Money.sum()));
    }
  }

  private static Money amount(Map<Category, Money> amounts, Category category) {
    return amounts.getOrDefault(category, Money.ZERO);
  }
}
