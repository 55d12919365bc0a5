package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.field.ReportCopy;
import app.pragmata.core.jobs.Capture;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.partswanted.PartWantedState;
import app.pragmata.server.checklists.AskedChecklist;
import app.pragmata.server.jobs.LinesDone.WorkToDo;
import app.pragmata.server.planning.EarlierVisit;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import org.jooq.SelectField;
import org.jspecify.annotations.Nullable;

/**
 * One visit as this person stands to it: whoever comes along and has no clock on it yet is still to
 * start.
 *
 * @param opens from when on somebody can get in; null for at all hours, as is until when
 * @param crew who else comes
 * @param earlier the last visits at the same site
 * @param latitude of the site where somebody has given it; null where not, as is the longitude
 * @param elsewhere one's clock that runs, but not on this visit; null for none
 * @param suggestedMiles how far it is from where one was last, by the roads that the company knows;
 *     null where nobody knows
 * @param jobLabourMinutes what of the promised minutes is used up, by whoever worked on the job
 * @param promisedNetMinor what the promise comes to without VAT, in minor units; null for whoever
 *     does not see prices
 * @param work what is to be done of the promise, line by line
 * @param clockPerLine whether its lines are started and finished one by one
 * @param outcome what came of it; null until it is over
 * @param reason why it is not done, or did not happen; empty for none
 * @param accepted whether whoever is responsible has said to come as planned
 * @param lateMinutes how much later than planned one has said to come; null for as planned
 * @param toldMinor what the customer was told that the job costs in all; null for nothing
 * @param toldWithVat whether that is with VAT; null for nothing told
 * @param responsible whether finishing it is up to this person
 * @param beforeFinish what must be there before it is finished
 * @param checklists what is gone through on it
 * @param messages what was said about its job
 * @param customerReachable whether the customer can be written to
 * @param reportCopy whether the customer gets a report when it is over
 * @param reportGoesTo the mail address for it; empty for none
 * @param runningSince null while no clock of this person runs
 * @param labourMinutes this person's own, as are the drive and the miles
 */
record PocketVisit(
    long visitId,
    VisitState.Code state,
    LocalDate day,
    LocalTime start,
    int expectedMinutes,
    String customer,
    String site,
    String address,
    @Nullable BigDecimal latitude,
    @Nullable BigDecimal longitude,
    String title,
    long jobNumber,
    @Nullable LocalTime opens,
    @Nullable LocalTime closes,
    String accessNotes,
    String contactName,
    String contactPhone,
    String notes,
    @Nullable String equipment,
    @Nullable LocalDate warrantyUntil,
    List<OtherEquipment> otherEquipment,
    List<Mate> crew,
    @Nullable RunningClock elsewhere,
    @Nullable BigDecimal suggestedMiles,
    boolean responsible,
    int promisedMinutes,
    int jobLabourMinutes,
    String promised,
    @Nullable Long promisedNetMinor,
    List<WorkToDo> work,
    boolean clockPerLine,
    String note,
    @Nullable VisitOutcome outcome,
    String reason,
    boolean accepted,
    @Nullable Short lateMinutes,
    @Nullable Long toldMinor,
    @Nullable Boolean toldWithVat,
    @Nullable Instant runningSince,
    int labourMinutes,
    int driveMinutes,
    BigDecimal miles,
    List<UsedPart> parts,
    List<UnlistedPartOnVisit> unlistedParts,
    List<PartToFit> partsToFit,
    List<MissingPart> missingParts,
    List<EarlierVisit> earlier,
    @Nullable String causeCode,
    List<Cause> causes,
    List<Capture> beforeFinish,
    List<AskedChecklist> checklists,
    List<JobMessages.JobMessage> messages,
    boolean customerReachable,
    ReportCopy reportCopy,
    String reportGoesTo) {
  /**
   * Somebody of the crew.
   *
   * @param onClock what they are doing on this visit by their clock; null for nothing
   */
  record Mate(long personId, String name, TimeEntry.@Nullable Kind onClock) {}

  /**
   * What else stands at the site that the job is not about.
   *
   * @param warrantyUntil of its parts; null for none
   */
  record OtherEquipment(long id, String name, @Nullable LocalDate warrantyUntil) {
    static SelectField<List<OtherEquipment>> onSite() {
      var other = EQUIPMENT.as("other");
      return multiset(
              select(
                      other.ID,
                      other.MODEL.concat(", serial ").concat(other.SERIAL_NUMBER),
                      other.PARTS_WARRANTY_UNTIL)
                  .from(other)
                  .where(other.SITE_ID.eq(JOB.SITE_ID))
                  .and(other.ID.isDistinctFrom(JOB.EQUIPMENT_ID))
                  .and(other.REMOVED_ON.isNull())
                  .orderBy(other.FITTED_ON, other.ID))
          .convertFrom(rows -> rows.map(mapping(OtherEquipment::new)));
    }
  }

  /** Why something can be wrong; none are offered on a job without a fault. */
  record Cause(String code, String name) {}

  /** A part on no price list that waits for the office to price it. */
  record UnlistedPartOnVisit(long id, String name, BigDecimal quantity) {}

  /**
   * A part that was used.
   *
   * @param unrecorded how many of it are kept on record as equipment once fitted, and are not yet
   */
  record UsedPart(long id, String name, String unit, BigDecimal quantity, int unrecorded) {}

  /**
   * A part that the job waits for.
   *
   * @param name as it is on the price list, or as it was said; empty where nobody knows
   * @param expectedOn null where nobody knows
   */
  record MissingPart(
      long id,
      int version,
      String name,
      BigDecimal quantity,
      boolean urgent,
      PartWantedState state,
      @Nullable LocalDate expectedOn) {}

  /** A promised part of which so much is still to be fitted on the job. */
  record PartToFit(long partId, String name, BigDecimal quantity) {}
}
