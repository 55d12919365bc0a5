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
      case BooksEvent.TimeApproved approved ->
          entry
              .debit(WORK_IN_PROGRESS, approved.time().plus(approved.distance()))
              .credit(PAYROLL_CLEARING, approved.time())
              .credit(VEHICLE_COSTS_ABSORBED, approved.distance());
      case BooksEvent.DriveHomeShared shared ->
          entry
              .debit(
                  shared.place().postingCategory(Category.DRIVE),
                  shared.time().plus(shared.distance()))
              .credit(PAYROLL_CLEARING, shared.time())
              .credit(VEHICLE_COSTS_ABSORBED, shared.distance());
      case BooksEvent.DriveHomeTakenBack back ->
          entry
              .debit(PAYROLL_CLEARING, back.time())
              .debit(VEHICLE_COSTS_ABSORBED, back.distance())
              .credit(
                  back.place().postingCategory(Category.DRIVE), back.time().plus(back.distance()));
      case BooksEvent.PartUsed used ->
          entry.debit(WORK_IN_PROGRESS, used.cost()).credit(STOCK, used.cost());
      case BooksEvent.SupplierBilled bill ->
          entry
              .debit(WORK_IN_PROGRESS, bill.net())
              .debit(INPUT_VAT, bill.inputVat())
              .credit(TRADE_CREDITORS, bill.net().plus(bill.inputVat()));
      case BooksEvent.PartReceived received ->
          entry.debit(STOCK, received.cost()).credit(GOODS_RECEIVED_NOT_BILLED, received.cost());
      case BooksEvent.InvoicePosted invoice -> invoice(entry, invoice);
      case BooksEvent.MoneyReceived money ->
          entry.debit(BANK, money.amount()).credit(TRADE_DEBTORS, money.amount());
      case BooksEvent.DepositReceived deposit ->
          entry.debit(BANK, deposit.amount()).credit(CUSTOMER_DEPOSITS, deposit.amount());
      case BooksEvent.DepositApplied deposit ->
          entry.debit(CUSTOMER_DEPOSITS, deposit.amount()).credit(TRADE_DEBTORS, deposit.amount());
      case BooksEvent.DepositRefunded deposit ->
          entry.debit(CUSTOMER_DEPOSITS, deposit.amount()).credit(BANK, deposit.amount());
      case BooksEvent.JobNotCharged free ->
          entry.debit(WARRANTY_AND_GOODWILL, free.cost()).credit(WORK_IN_PROGRESS, free.cost());
    }
    return entry.build();
  }

  private static void invoice(JournalEntry.Builder entry, BooksEvent.InvoicePosted invoice) {
    entry.debit(TRADE_DEBTORS, invoice.gross());
    for (Category category : Category.values()) {
      entry.credit(PostingCategory.sales(category), amount(invoice.netByCategory(), category));
    }
    entry.credit(OUTPUT_VAT, invoice.outputVat());
    for (Category category : Category.values()) {
      entry.debit(
          PostingCategory.costOfSales(category), amount(invoice.costByCategory(), category));
    }
    entry.credit(WORK_IN_PROGRESS, invoice.costByCategory().values().stream().collect(Money.sum()));
  }

  private static Money amount(Map<Category, Money> amounts, Category category) {
    return amounts.getOrDefault(category, Money.ZERO);
  }
}
