package app.pragmata.core.company;

import app.pragmata.core.Rule;
import java.util.Arrays;
import java.util.Locale;
import java.util.Optional;

/** Everything that a document says in words of its own; each language has all of them. */
public enum Phrase {
  /** How a day is written, as a pattern of {@link java.time.format.DateTimeFormatter}. */
  DAY,
  /** How a day is written without its year. */
  SHORT_DAY,
  /** Whose van a place of stock is. */
  VAN,
  /** Where a customer is when nothing more is known of the place. */
  MAIN_SITE,
  LABOUR,
  OVERTIME,
  NIGHT,
  /** Hours and the rate. */
  LABOUR_AT_RATE,
  /** Hours, the rate and the class of hours. */
  LABOUR_OF_CLASS_AT_RATE,
  CALL_OUT,
  /** What is charged beyond the work, so that it comes to what the customer was told. */
  TO_AGREED_PRICE,
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
  /** The day, from when and until when. */
  MAIL_VISIT,
  MAIL_VISIT_CHANGED,
  /** The day. */
  MAIL_VISIT_CALLED_OFF,
  /** Who comes. */
  MAIL_VISIT_REMINDER,
  MAIL_ON_THE_WAY,
  /** Who comes, and when by now. */
  MAIL_LATE,
  /** Who comes, the day, from when, until when, where, what for, and how long it takes. */
  MAIL_VISIT_SAYS,
  /** The equipment. */
  MAIL_VISIT_ON,
  /** The promised parts. */
  MAIL_VISIT_PARTS,
  /** The net price. */
  MAIL_VISIT_AS_QUOTED,
  MAIL_VISIT_BY_TIME,
  /** Until when the warranty runs. */
  MAIL_VISIT_WARRANTY,
  /** The day, from when and until when. */
  MAIL_VISIT_CALLED_OFF_SAYS,
  /** Who comes, and about when. */
  MAIL_ON_THE_WAY_SAYS,
  /** Who comes, when it was planned, and when it is by now. */
  MAIL_LATE_SAYS,
  /** The job's number and who orders it. */
  MAIL_WORK_ORDER,
  /** The job's number and what is to be done. */
  MAIL_WORK_ORDER_SAYS,
  /** By when. */
  MAIL_WORK_ORDER_BY,
  /** What was agreed, without VAT. */
  MAIL_WORK_ORDER_PRICE,
  /** The job's number and who ordered it. */
  MAIL_WORK_ORDER_OFF,
  /** The job's number and what was to be done. */
  MAIL_WORK_ORDER_OFF_SAYS,
  /** The receipt's number, and the amount. */
  MAIL_RECEIPT,
  /** The amount, the day, how it came, the job's number and title. */
  MAIL_RECEIPT_SAYS,
  MAIL_RECEIPT_BY_CARD,
  MAIL_RECEIPT_IN_CASH,
  MAIL_RECEIPT_BY_CHEQUE,
  MAIL_RECEIPT_BY_TRANSFER,
  /** The day and the job's title. */
  MAIL_REPORT,
  /** The link. */
  MAIL_REPORT_SAYS,
  /** The link. */
  TEXT_REPORT_SAYS,
  /** The job's title. */
  MAIL_MESSAGE,
  /** Who says it, what, and the link. */
  MAIL_MESSAGE_SAYS,
  /** The company. */
  MAIL_TEST,
  MAIL_TEST_SAYS,
  /** The company. */
  MAIL_PASSWORD,
  /** The person, the name to sign in with and the link. */
  MAIL_PASSWORD_SAYS,
  /** Who and the day. */
  SHEET_ROUND,
  SHEET_JOB,
  /** From when, until when, and how long. */
  SHEET_TIME,
  SHEET_DRIVE,
  SHEET_ACCESS,
  SHEET_OPEN,
  SHEET_WORK,
  SHEET_NOTES,
  SHEET_EQUIPMENT,
  /** The serial number and the day of fitting. */
  SHEET_SERIAL,
  /** Until when. */
  SHEET_WARRANTY,
  SHEET_BEFORE,
  SHEET_WITH,
  SHEET_DONE,
  FILE_SHEETS,
  REPORT_TITLE,
  REPORT_TIMES,
  REPORT_LABOUR,
  REPORT_DRIVE,
  REPORT_PARTS,
  REPORT_PHOTOS,
  REPORT_DONE,
  REPORT_YES,
  REPORT_NO,
  REPORT_DOES_NOT_APPLY,
  /** Who signed, and when. */
  REPORT_SIGNED,
  REPORT_PRICES,
  REPORT_PRICES_SO_FAR,
  /** For a job's number. */
  FILE_REPORT,
  FILE_QUOTE,
  /** The number and the edition. */
  PAGE_EDITION,
  PAGE_LINES,
  /** The currency. */
  PAGE_PRICES_WITH_VAT,
  /** The currency. */
  PAGE_PRICES_WITHOUT_VAT,
  /** An amount or a share. */
  PAGE_DISCOUNT,
  PAGE_PDF,
  PAGE_CHOSEN,
  PAGE_NOT_CHOSEN,
  PAGE_ADD_THIS,
  /** What it is one of. */
  PAGE_THIS_ONE,
  /** The moment. */
  PAGE_ACCEPTED,
  /** By whom, and the moment. */
  PAGE_ACCEPTED_BY,
  PAGE_IN_TOUCH,
  /** A check sum. */
  PAGE_KEPT_AS,
  PAGE_DECLINED,
  PAGE_THINK_AGAIN,
  /** A day. */
  PAGE_LAPSED,
  PAGE_ASK_NEW,
  PAGE_CHANGING,
  PAGE_SAME_ADDRESS,
  PAGE_ACCEPT,
  PAGE_YOUR_NAME,
  /** An amount. */
  PAGE_ACCEPT_FOR,
  PAGE_SIGNATURE,
  PAGE_DRAWN,
  PAGE_DRAW,
  PAGE_DRAW_AGAIN,
  PAGE_DEPOSIT,
  /** An amount. */
  PAGE_DEPOSIT_ARRIVED,
  PAGE_COMES_OFF,
  /** An amount. */
  PAGE_DEPOSIT_DUE,
  /** The reference. */
  PAGE_PAY_BY_TRANSFER,
  /** The account and the reference. */
  PAGE_PAY_BY_TRANSFER_TO,
  /** An amount. */
  PAGE_PAY_DEPOSIT,
  PAGE_CARD_NUMBER,
  /** An amount. */
  PAGE_PAY_BY_CARD,
  PAGE_QUESTIONS,
  PAGE_ASK,
  PAGE_ANSWER_SOON,
  PAGE_YOUR_QUESTION,
  PAGE_SEND_QUESTION,
  PAGE_HAVE_QUESTION,
  PAGE_NO,
  PAGE_WHY,
  PAGE_DECLINE,
  PAGE_VISITS,
  PAGE_NO_VISIT_YET,
  /** Who, the day, from when and until when. */
  PAGE_COMES,
  /** Who. */
  PAGE_ON_THE_WAY,
  /** Who. */
  PAGE_AT_WORK,
  /** Who, and the day. */
  PAGE_CAME,
  /** Who, and the day. */
  PAGE_COMES_AGAIN,
  PAGE_REPORT,
  PAGE_SIGN_FOR,
  PAGE_SIGN,
  /** Who signed, and when. */
  PAGE_SIGNED,
  PAGE_HOW_WAS_IT,
  PAGE_A_WORD,
  PAGE_SEND_RATING,
  /** From one to five. */
  PAGE_RATED,
  PAGE_MESSAGES,
  PAGE_WRITE,
  PAGE_SEND,
  /** The moment. */
  PAGE_YOU_WROTE,
  REFUSED_MISSING,
  REFUSED_TOO_LONG,
  REFUSED_UNREADABLE,
  REFUSED_NOT_AN_OPTION,
  REFUSED_NOT_ONE_ALTERNATIVE,
  REFUSED_NOT_FOUND,
  REFUSED_STALE_VERSION,
  REFUSED_VISIT_NOT_FINISHED,
  REFUSED_VISIT_SIGNED,
  REFUSED_VISIT_RATED,
  REFUSED_QUOTE_LAPSED,
  REFUSED_QUOTE_NOT_SENT,
  REFUSED_QUOTE_ACCEPTED,
  REFUSED_QUOTE_DECLINED,
  REFUSED_NO_DEPOSIT_DUE,
  REFUSED_DEPOSIT_PAID,
  REFUSED_NO_CARD_TERMINAL,
  REFUSED_DECLINED,
  REFUSED_CARD_ANSWER_UNKNOWN,
  REFUSED_CARD_PAYMENT_RUNNING;

  /** Whether a customer's page says it, in which the values are filled in where it is read. */
  public boolean isOfPage() {
    return switch (this) {
      case QUOTE, QUOTE_OF, NET, TOTAL, DEPOSIT_WITHIN, WARRANTY_BEARS, WARRANTY_BEARS_ALREADY ->
          true;
      default -> name().startsWith("PAGE_");
    };
  }

  /** What a customer is told of a refusal by a rule; empty where the rule's own words are told. */
  public static Optional<Phrase> ofRefusal(Rule rule) {
    return Arrays.stream(values())
        .filter(phrase -> phrase.name().equals("REFUSED_" + rule.name()))
        .findFirst();
  }

  /** Its name in a language's file. */
  public String key() {
    return name().toLowerCase(Locale.ROOT);
  }
}
