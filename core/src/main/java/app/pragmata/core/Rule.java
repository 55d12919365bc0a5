package app.pragmata.core;

/**
 * Every rule that input or a move can break, so that a refusal is known by its rule, not by its
 * text.
 */
public enum Rule {
  UNREADABLE,
  MISSING,
  NEGATIVE,
  TOO_LARGE,
  TOO_LONG,
  ENDS_BEFORE_START,
  LONGER_THAN_SIXTEEN_HOURS,
  IN_THE_FUTURE,
  OVERLAPPING_CLOCKS,
  WRONG_STATE,
  NOT_FOUND,
  STALE_VERSION,
  REPEATED_KEY_WITH_OTHER_CONTENT,
  NOT_ENOUGH_STOCK,
  NOTHING_IN_FORCE,
  NO_ACCOUNT_FOR_CATEGORY,
  UNBALANCED_ENTRY,
  PERIOD_CLOSED,
  MORE_THAN_OWED,
  NO_LINES,
  EXCEEDS_LIMIT
}
