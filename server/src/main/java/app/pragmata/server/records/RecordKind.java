package app.pragmata.server.records;

import app.pragmata.core.Coded;
import org.jspecify.annotations.Nullable;

/** The kinds of records of which is kept what happened, each with what it is a part of. */
public enum RecordKind implements Coded {
  COMPANY,
  PERSON,
  HOLIDAY,
  RESPONSE_TERMS,
  PRICE_LIST,
  CUSTOMER,
  SITE(CUSTOMER),
  CONTACT(CUSTOMER),
  CUSTOMER_NOTE(CUSTOMER),
  EQUIPMENT,
  PART,
  HANDOVER(PART),
  JOB,
  VISIT(JOB),
  TIME_ENTRY(JOB),
  VISIT_PART(JOB),
  OTHER_COST(JOB),
  JOB_CHARGE(JOB),
  AGREEMENT(CUSTOMER),
  ROUND(AGREEMENT),
  PART_WANTED(JOB),
  WARRANTY_CLAIM(JOB),
  WORK_ORDER(JOB),
  UNLISTED_PART(JOB),
  WAGES_RUN,
  LATE_ACT(JOB),
  VISIT_PHOTO(JOB),
  JOB_MESSAGE(JOB),
  CHECKLIST,
  CHECKLIST_ANSWER(JOB),
  INVOICE(JOB),
  CREDIT_NOTE(JOB),
  RECEIPT(CUSTOMER),
  QUOTE,
  KIT,
  FAULT_TALK,
  FAULT_CODE,
  CAUSE_CODE,
  TO_DO,
  IMPORT;

  private final @Nullable RecordKind owner;

  RecordKind() {
    this(null);
  }

  RecordKind(@Nullable RecordKind owner) {
    this.owner = owner;
  }

  /** What a record of this kind is a part of, whose history tells of it too; null for none. */
  public @Nullable RecordKind owner() {
    return owner;
  }
}
