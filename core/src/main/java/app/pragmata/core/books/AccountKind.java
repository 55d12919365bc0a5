package app.pragmata.core.books;

import app.pragmata.core.Coded;

/** On which side of the books an account belongs. */
public enum AccountKind implements Coded {
  ASSET,
  LIABILITY,
  INCOME,
  EXPENSE;

  /** Whether it stands in the balance sheet, and else in profit and loss. */
  public boolean isOfBalanceSheet() {
    return this == ASSET || this == LIABILITY;
  }
}
