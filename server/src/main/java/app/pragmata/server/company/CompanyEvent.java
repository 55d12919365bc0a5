package app.pragmata.server.company;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to what holds for the whole company. */
public enum CompanyEvent implements Event {
  FOUNDED(RecordKind.COMPANY),
  COMPANY_CHANGED(RecordKind.COMPANY),
  LOGO_CHANGED(RecordKind.COMPANY),
  QUOTING_SETTINGS_CHANGED(RecordKind.COMPANY),
  WORKING_HOURS_CHANGED(RecordKind.COMPANY),
  PAY_CHANGED(RecordKind.COMPANY),
  RATES_CHANGED(RecordKind.COMPANY),
  CHARGES_CHANGED(RecordKind.COMPANY),
  COSTS_CHANGED(RecordKind.COMPANY),
  MARKUP_CHANGED(RecordKind.COMPANY),
  CHECK_RULES_CHANGED(RecordKind.COMPANY),
  TERMS_WITHDRAWN(RecordKind.COMPANY),
  VAT_CHANGED(RecordKind.COMPANY),
  KIND_OF_JOB_CHANGED(RecordKind.COMPANY),
  SKILLS_CHANGED(RecordKind.COMPANY),
  WORKING_WEEK_CHANGED(RecordKind.COMPANY),
  AREA_CHANGED(RecordKind.COMPANY),
  COST_CENTRE_CHANGED(RecordKind.COMPANY),
  ACCOUNT_CHANGED(RecordKind.COMPANY),
  POSTING_ACCOUNT_CHANGED(RecordKind.COMPANY),
  NUMBER_SERIES_CHANGED(RecordKind.COMPANY),
  MAIL_SERVER_CHANGED(RecordKind.COMPANY),
  HOLIDAY_ADDED(RecordKind.HOLIDAY),
  HOLIDAY_REMOVED(RecordKind.HOLIDAY),
  TERMS_ADDED(RecordKind.RESPONSE_TERMS),
  TERMS_CHANGED(RecordKind.RESPONSE_TERMS),
  TERMS_DELETED(RecordKind.RESPONSE_TERMS);

  private final RecordKind kind;

  CompanyEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
