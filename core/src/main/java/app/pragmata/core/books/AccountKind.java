package app.pragmata.core.books;

import app.pragmata.core.Coded;

/** On which side of the books an account belongs. */
public enum AccountKind implements Coded {
  ASSET,
  LIABILITY,
  INCOME,
  EXPENSE
}
