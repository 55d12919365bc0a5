package app.pragmata.core;

/**
 * Every rule that input or a move can break, so that a refusal is known by its rule, not by its
 * text.
 */
public enum Rule {
  UNREADABLE,
  UNKNOWN_WORD,
  MISSING,
  NEGATIVE,
  TOO_LARGE,
  TOO_LONG,
  TOO_SHORT,
  EASILY_GUESSED,
  WRONG_WORD,
  EXCEEDS_LIMIT,
  REPEATED,
  WRONG_ENCODING,
  FORMULA,
  NO_LINES,
  DAY_PASSED,
  IN_THE_FUTURE,
  NO_SUCH_TIME,
  ENDS_BEFORE_START,
  LONGER_THAN_SIXTEEN_HOURS,
  TAPPED_IN_THE_FUTURE,
  TAPPED_TOO_LONG_AGO,
  STAGES_OF_TWO_KINDS,
  STAGES_DO_NOT_ADD_UP,
  NOT_A_FIXED_PRICE,
  LONE_ALTERNATIVE,
  NOT_ONE_ALTERNATIVE,
  UNREACHABLE,
  LEADS_IN_A_CIRCLE,
  OTHER_COLUMNS,
  MERGED_INTO_ITSELF,
  BEFORE_THE_RECEIPT,
  MORE_THAN_OWED,
  MORE_THAN_LEFT,
  OF_ANOTHER_CUSTOMER,
  NOT_ENOUGH_STOCK,
  NOTHING_IN_FORCE,
  NO_ACCOUNT_FOR_CATEGORY,
  UNBALANCED_ENTRY,
  IN_USE,
  OWNER_ONLY,
  LAST_OWNER(Because.STATE),
  DECLINED,

  NOT_FOUND(Because.MISSING),

  STALE_VERSION(Because.STATE),
  REPEATED_KEY_WITH_OTHER_CONTENT(Because.STATE),
  QUOTE_NOT_DRAFT(Because.STATE),
  QUOTE_SENT(Because.STATE),
  QUOTE_NOT_SENT(Because.STATE),
  QUOTE_LAPSED(Because.STATE),
  QUOTE_NOT_ACCEPTED(Because.STATE),
  QUOTE_ACCEPTED(Because.STATE),
  QUOTE_IN_A_JOB(Because.STATE),
  OTHER_SITE(Because.STATE),
  PROMISES_OF_TWO_KINDS(Because.STATE),
  OUTSIDE_SCOPE_BESIDE_OTHERS(Because.STATE),
  WITHOUT_VAT_NUMBER(Because.STATE),
  QUOTE_DECLINED(Because.STATE),
  NO_CARD_TERMINAL(Because.STATE),
  COMPANY_FOUNDED(Because.STATE),
  NO_COMPANY(Because.STATE),
  QUESTION_ANSWERED(Because.STATE),
  JOB_BEGUN(Because.STATE),
  JOB_NOT_CHECKED(Because.STATE),
  JOB_BILLED(Because.STATE),
  JOB_CLOSED(Because.STATE),
  VISIT_BEGUN(Because.STATE),
  NOT_ON_SITE(Because.STATE),
  VISIT_NOT_FINISHED(Because.STATE),
  VISIT_CHECKED(Because.STATE),
  VISIT_NOT_CHECKED(Because.STATE),
  VISIT_BILLED(Because.STATE),
  VISIT_OVER(Because.STATE),
  VISIT_TAKES_NO_RECORDS(Because.STATE),
  VISIT_NOT_TO_BE_DROPPED(Because.STATE),
  PARTS_ON_VISIT(Because.STATE),
  CLOCK_RUNNING(Because.STATE),
  OVERLAPPING_CLOCKS(Because.STATE),
  NO_DEPOSIT_DUE(Because.STATE),
  NOTHING_LEFT(Because.STATE),
  RECEIPT_TAKEN_BACK(Because.STATE),
  MONEY_GIVEN_BACK(Because.STATE),
  DEPOSIT_PAID(Because.STATE),
  DEPOSIT_HELD(Because.STATE),
  STAGE_BILLED(Because.STATE),
  ABOVE_PROMISE(Because.STATE),
  FINAL_INVOICE_STANDS(Because.STATE),
  CARD_PAYMENT_RUNNING(Because.STATE),
  CARD_ANSWER_UNKNOWN(Because.STATE),
  POSTED_FOR_GOOD(Because.STATE),
  PERIOD_CLOSED(Because.STATE),
  CUSTOMER_MERGED(Because.STATE),
  EQUIPMENT_REPLACED(Because.STATE),
  ALL_ON_RECORD(Because.STATE),
  TO_DO_CLOSED(Because.STATE),
  LIST_TAKEN_IN(Because.STATE),
  LIST_BEING_READ(Because.STATE);

  /** What lies behind a refusal. */
  public enum Because {
    /** What was sent. */
    INPUT,
    /** What it is about is not there. */
    MISSING,
    /** Where a record stands by now. */
    STATE
  }

  private final Because because;

  Rule() {
    this(Because.INPUT);
  }

  Rule(Because because) {
    this.because = because;
  }

  /** What lies behind a refusal by this rule. */
  public Because because() {
    return because;
  }
}
