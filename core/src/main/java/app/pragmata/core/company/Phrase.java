package app.pragmata.core.company;

import java.util.Locale;

/** Everything that a document says in words of its own; each language has all of them. */
public enum Phrase {
  /** How a day is written, as a pattern of {@link java.time.format.DateTimeFormatter}. */
  DAY,
  /** How a day is written without its year. */
  SHORT_DAY,
  /** Whose van a place of stock is. */
  VAN,
  LABOUR,
  OVERTIME,
  NIGHT,
  /** Hours and the rate. */
  LABOUR_AT_RATE,
  /** Hours, the rate and the class of hours. */
  LABOUR_OF_CLASS_AT_RATE,
  CALL_OUT,
  DRIVE_TIME,
  DRIVE_MILES,
  /** What was done, and the day. */
  OF_DAY,
  VAT_RATED,
  VAT_ZERO,
  VAT_EXEMPT,
  VAT_REVERSE_CHARGE,
  VAT_OUTSIDE_SCOPE,
  QUANTITY_HOURS,
  QUANTITY_MILES,
  PROMISED_FIXED_PRICE,
  PROMISED_ESTIMATE,
  PROMISED_NOT_MORE_THAN,
  QUOTE,
  QUOTE_EDITION,
  /** The quote, the day it was sent and until when it is valid. */
  QUOTE_OF,
  /** The page and how many there are. */
  PAGE_OF,
  VAT_NUMBER,
  QUANTITY,
  WITH_VAT,
  WITHOUT_VAT,
  WARRANTY_BEARS_ALREADY,
  /** The full amount, what the warranty bears, and its percent. */
  WARRANTY_BEARS,
  ONLY_IF_WANTED,
  IN_THE_TOTAL,
  INSTEAD,
  NET,
  TOTAL,
  DEPOSIT_WITHIN,
  MAIL_QUOTE,
  MAIL_QUOTE_CHANGED,
  /** Number, title, valid until and the link. */
  MAIL_QUOTE_SAYS,
  /** Number, title, valid until, the link and the edition. */
  MAIL_EDITION_SAYS,
  MAIL_ANSWER,
  /** The question, the answer and the link. */
  MAIL_ANSWER_SAYS,
  MAIL_GREETING,
  FILE_QUOTE;

  /** Its name in a language's file. */
  public String key() {
    return name().toLowerCase(Locale.ROOT);
  }
}
