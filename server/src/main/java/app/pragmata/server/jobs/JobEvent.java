package app.pragmata.server.jobs;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;
import java.util.List;
import java.util.stream.Stream;

/** What happens to a job, its visits, and the time, parts and costs of them. */
public enum JobEvent implements Event {
  OPENED(RecordKind.JOB),
  MADE_FROM_QUOTE(RecordKind.JOB),
  EXTRA_WORK_PROMISED(RecordKind.JOB),
  MOVED_ON(RecordKind.JOB),
  CODES_NOTED(RecordKind.JOB),
  BASIS_CHOSEN(RecordKind.JOB),
  VAT_DECIDED(RecordKind.JOB),
  BILLED(RecordKind.JOB),
  CLOSED_WITHOUT_CHARGE(RecordKind.JOB),
  WORK_TAKEN_BACK(RecordKind.JOB),
  NEEDS_CHANGED(RecordKind.JOB),
  CALLED_OFF(RecordKind.JOB),
  VISIT_WANTED(RecordKind.VISIT),
  VISIT_NEEDS_CHANGED(RecordKind.VISIT),
  PART_ARRIVED(RecordKind.VISIT),
  PART_NOT_ARRIVED(RecordKind.VISIT),
  VISIT_PLANNED(RecordKind.VISIT),
  VISIT_CREW_CHANGED(RecordKind.VISIT),
  VISIT_UNPLANNED(RecordKind.VISIT),
  VISIT_ACCEPTED(RecordKind.VISIT),
  LINE_DONE(RecordKind.VISIT),
  LINE_NOT_DONE(RecordKind.VISIT),
  VISIT_UNDER_WAY(RecordKind.VISIT),
  VISIT_ARRIVED_AT(RecordKind.VISIT),
  VISIT_STARTED(RecordKind.VISIT),
  VISIT_PAUSED(RecordKind.VISIT),
  VISIT_RECORDED(RecordKind.VISIT),
  VISIT_FINISHED(RecordKind.VISIT),
  VISIT_CHECKED(RecordKind.VISIT),
  VISIT_REOPENED(RecordKind.VISIT),
  VISIT_NOT_THIS_TIME(RecordKind.VISIT),
  VISIT_CALLED_OFF(RecordKind.VISIT),
  VISIT_LATE(RecordKind.VISIT),
  VISIT_PRICE_TOLD(RecordKind.VISIT),
  TIME_STARTED(RecordKind.TIME_ENTRY),
  TIME_STOPPED(RecordKind.TIME_ENTRY),
  TIME_ADDED(RecordKind.TIME_ENTRY),
  TIME_CORRECTED(RecordKind.TIME_ENTRY),
  TIME_CONFIRMED(RecordKind.TIME_ENTRY),
  TIME_REMOVED(RecordKind.TIME_ENTRY),
  TIME_COSTED(RecordKind.TIME_ENTRY),
  DRIVE_HOME_SHARED(RecordKind.TIME_ENTRY),
  DRIVE_HOME_TAKEN_BACK(RecordKind.TIME_ENTRY),
  PART_USED(RecordKind.VISIT_PART),
  PART_ADDED(RecordKind.VISIT_PART),
  PART_CORRECTED(RecordKind.VISIT_PART),
  PART_REMOVED(RecordKind.VISIT_PART),
  PART_NOT_UNDER_WARRANTY(RecordKind.VISIT_PART),
  PART_UNDER_WARRANTY(RecordKind.VISIT_PART),
  VISIT_WARRANTY_CHANGED(RecordKind.VISIT),
  PROMISE_WARRANTY_CHANGED(RecordKind.JOB),
  SUPPLIER_BILLED(RecordKind.OTHER_COST),
  SUPPLIER_CREDITED(RecordKind.OTHER_COST),
  CHARGE_ADDED(RecordKind.JOB_CHARGE),
  CHARGE_REMOVED(RecordKind.JOB_CHARGE),
  CHARGE_PUT_BACK(RecordKind.JOB_CHARGE);

  private final RecordKind kind;

  JobEvent(RecordKind kind) {
    this.kind = kind;
  }

  /** The codes of what the office wrote down or put right afterwards. */
  public static List<String> corrections() {
    return Stream.of(TIME_ADDED, TIME_CORRECTED, PART_ADDED, PART_CORRECTED)
        .map(Event::code)
        .toList();
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
