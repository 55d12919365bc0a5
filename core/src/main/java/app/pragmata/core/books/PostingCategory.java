package app.pragmata.core.books;

import app.pragmata.core.Category;
import app.pragmata.core.Coded;

/** What an entry is posted to, before the chart of accounts says which account that is. */
public enum PostingCategory implements Coded {
  BANK,
  TRADE_DEBTORS,
  STOCK,
  WORK_IN_PROGRESS,
  INPUT_VAT,
  TRADE_CREDITORS,
  GOODS_RECEIVED_NOT_BILLED,
  CUSTOMER_DEPOSITS,
  BILLED_AHEAD_OF_WORK,
  OUTPUT_VAT,
  PAYROLL_CLEARING,
  VEHICLE_COSTS_ABSORBED,
  SALES_LABOUR,
  SALES_CALL_OUT,
  SALES_PARTS,
  SALES_OTHER,
  COST_OF_SALES_LABOUR,
  COST_OF_SALES_DRIVE,
  COST_OF_SALES_PARTS,
  COST_OF_SALES_OTHER,
  WARRANTY_AND_GOODWILL,
  COST_OF_WORK_CALLED_OFF,
  STOCK_DIFFERENCES;

  /**
   * Whether its lines are of a job: those of profit and loss and of the work under way are, those
   * of control accounts and of differences that no job explains are of none.
   */
  public boolean isOfJobs() {
    return switch (this) {
      case WORK_IN_PROGRESS,
          BILLED_AHEAD_OF_WORK,
          SALES_LABOUR,
          SALES_CALL_OUT,
          SALES_PARTS,
          SALES_OTHER,
          COST_OF_SALES_LABOUR,
          COST_OF_SALES_DRIVE,
          COST_OF_SALES_PARTS,
          COST_OF_SALES_OTHER,
          WARRANTY_AND_GOODWILL,
          COST_OF_WORK_CALLED_OFF ->
          true;
      case BANK,
          TRADE_DEBTORS,
          STOCK,
          INPUT_VAT,
          TRADE_CREDITORS,
          GOODS_RECEIVED_NOT_BILLED,
          CUSTOMER_DEPOSITS,
          OUTPUT_VAT,
          PAYROLL_CLEARING,
          VEHICLE_COSTS_ABSORBED,
          STOCK_DIFFERENCES ->
          false;
    };
  }

  /** Of which kind the account is that takes it; one of the balance sheet may be of either side. */
  public boolean mayGoTo(AccountKind kind) {
    return switch (this) {
      case BANK,
          TRADE_DEBTORS,
          STOCK,
          WORK_IN_PROGRESS,
          INPUT_VAT,
          TRADE_CREDITORS,
          GOODS_RECEIVED_NOT_BILLED,
          CUSTOMER_DEPOSITS,
          BILLED_AHEAD_OF_WORK,
          OUTPUT_VAT,
          PAYROLL_CLEARING,
          VEHICLE_COSTS_ABSORBED ->
          kind.isOfBalanceSheet();
      case SALES_LABOUR, SALES_CALL_OUT, SALES_PARTS, SALES_OTHER -> kind == AccountKind.INCOME;
      case COST_OF_SALES_LABOUR,
          COST_OF_SALES_DRIVE,
          COST_OF_SALES_PARTS,
          COST_OF_SALES_OTHER,
          WARRANTY_AND_GOODWILL,
          COST_OF_WORK_CALLED_OFF,
          STOCK_DIFFERENCES ->
          kind == AccountKind.EXPENSE;
    };
  }

  public static PostingCategory sales(Category category) {
    return switch (category) {
      case LABOUR -> SALES_LABOUR;
      case DRIVE -> SALES_CALL_OUT;
      case PARTS -> SALES_PARTS;
      case OTHER -> SALES_OTHER;
    };
  }

  public static PostingCategory costOfSales(Category category) {
    return switch (category) {
      case LABOUR -> COST_OF_SALES_LABOUR;
      case DRIVE -> COST_OF_SALES_DRIVE;
      case PARTS -> COST_OF_SALES_PARTS;
      case OTHER -> COST_OF_SALES_OTHER;
    };
  }
}
