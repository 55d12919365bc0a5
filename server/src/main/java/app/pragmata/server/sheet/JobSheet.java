package app.pragmata.server.sheet;

import app.pragmata.core.Category;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.costing.Because;
import app.pragmata.core.costing.Variances;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.PassedOn;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.server.billing.BillingView;
import app.pragmata.server.books.BooksApi;
import app.pragmata.server.jobs.Response;
import app.pragmata.server.jobs.WholeJob;
import app.pragmata.server.receipts.Debt;
import app.pragmata.server.receipts.ReceiptView;
import app.pragmata.server.worklists.Stage;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Everything about one job, in the order of its life. Money is in minor units.
 *
 * @param notes what is wrong, in the caller's words; may be empty
 * @param response null when nobody has to be there by a certain time
 * @param receipts money for it or for its quotes, the newest first
 * @param forecast what it comes to at its end; null once it is closed, and where nothing is known
 * @param promises its accepted quotes, the first of them first; none for a job straight from a call
 */
public record JobSheet(
    long id,
    long number,
    int version,
    String title,
    JobState.Code state,
    Stage stage,
    String kindOfJob,
    long customerId,
    String customer,
    Debt debt,
    String site,
    String address,
    String accessNotes,
    @Nullable Equipment equipment,
    String notes,
    @Nullable Response response,
    @Nullable String faultCode,
    @Nullable String causeCode,
    List<Promise> promises,
    List<Visit> visits,
    List<OtherCost> otherCosts,
    List<OwnCharge> charges,
    Cost cost,
    @Nullable JobForecast forecast,
    BillingView billing,
    List<ReceiptView> receipts,
    List<BooksApi.BooksEntry> journal) {

  public record Equipment(
      String name, @Nullable LocalDate partsWarrantyUntil, String partsWarrantyPercent) {}

  /** An accepted quote; a further one is extra work. */
  public record Promise(
      long quoteId,
      long quoteNumber,
      PromiseKind promise,
      LocalDate acceptedOn,
      String acceptedBy,
      String summary,
      List<PromisedLine> lines,
      long netMinor,
      List<PromisedStage> stages,
      long depositAskedMinor) {}

  /** A part of the price that falls due at some point; its amount is without VAT. */
  public record PromisedStage(String name, String part, long amountMinor) {}

  /**
   * A line of an accepted quote.
   *
   * @param position in the quote's promise, from one
   * @param warrantyPercent the share that the equipment's warranty bears; "0" where it bears none
   * @param warrantyForgoneMinor what it would bear, had the line not been taken out of it since
   */
  public record PromisedLine(
      int position,
      Category category,
      String description,
      String quantity,
      long costMinor,
      String warrantyPercent,
      long warrantyReductionMinor,
      long warrantyForgoneMinor,
      long netMinor) {}

  /**
   * A visit with all that is recorded on it.
   *
   * @param notBefore before which its part, or whatever else it waits for, is not there; null for
   *     nothing
   * @param awaitedPart the part that it waits for, or waited for until it arrived; empty for none
   * @param outcome what its technician says came of it; null until then
   * @param acceptedAt when its technician said that they come as planned; null until then
   * @param lateMinutes how much later than planned they expect to be there; null for as planned
   * @param toldMinor what its technician told the customer that the job costs in all; null for
   *     nothing
   * @param toldWithVat whether that is with VAT; null for nothing told
   * @param unsentThings how many taps and photos of it phones still have to send, as they said
   */
  public record Visit(
      long id,
      int version,
      VisitState.Code state,
      @Nullable Long technicianId,
      @Nullable String technician,
      List<WholeJob.Companion> companions,
      @Nullable LocalDate day,
      @Nullable LocalDate plannedDay,
      @Nullable LocalTime start,
      int expectedMinutes,
      @Nullable LocalDate notBefore,
      String awaitedPart,
      boolean partArrived,
      @Nullable Long replacesId,
      String note,
      String reason,
      @Nullable VisitOutcome outcome,
      @Nullable LocalDateTime acceptedAt,
      @Nullable Short lateMinutes,
      @Nullable Long toldMinor,
      @Nullable Boolean toldWithVat,
      int unsentThings,
      @Nullable String labourWarrantyExclusion,
      @Nullable String driveWarrantyExclusion,
      boolean takesRecords,
      boolean billed,
      boolean labourMissing,
      boolean milesMissing,
      List<Time> times,
      List<Part> parts,
      List<DriveHome> drivesHome) {}

  /** What the visit bears of a drive that led to none; it is never charged. */
  public record DriveHome(
      long timeEntryId,
      long personId,
      String person,
      LocalDate day,
      int minutes,
      BigDecimal miles,
      long costMinor) {}

  /**
   * Times of day by the company's clock; the end is null while the clock runs.
   *
   * @param fromDaysLater on how many days after the visit's it starts
   * @param toDaysLater on how many days after the visit's it ends
   * @param byTheClock whether the rate class is what the working hours say all along
   * @param measuredFrom when its clock was started; null for time that was written down, as is to
   *     when it was stopped
   * @param inDoubt whether the next clock set its end and its person is still to say when it was
   */
  public record Time(
      long id,
      int version,
      long personId,
      String person,
      TimeEntry.Kind kind,
      RateClass rateClass,
      LocalTime from,
      int fromDaysLater,
      @Nullable LocalTime to,
      int toDaysLater,
      boolean byTheClock,
      int minutes,
      BigDecimal miles,
      String description,
      @Nullable LocalTime measuredFrom,
      @Nullable LocalTime measuredTo,
      boolean inDoubt,
      long costMinor,
      CostOfTime costed,
      boolean corrected) {}

  /**
   * Why a time costs what it does: minutes / 60 x what an hour costs, and miles x what a mile does.
   *
   * @param timeMinor what the minutes cost, as it was approved or else by these rates
   * @param distanceMinor what the miles cost
   * @param onCostPercent what comes on top of the wage
   * @param classPercent what an hour of the class counts for
   * @param asApproved whether it stands as it was approved and these rates would now give another
   */
  public record CostOfTime(
      long timeMinor,
      long distanceMinor,
      BigDecimal wagePerHour,
      BigDecimal onCostPercent,
      BigDecimal classPercent,
      BigDecimal costPerHour,
      BigDecimal costPerMile,
      boolean asApproved) {}

  /**
   * A part used on the visit.
   *
   * @param beyondPromise how many more were used than promised; nothing or less counts as zero
   * @param warrantyPercent what the equipment's warranty would bear; "0" when nothing
   * @param toPutOnRecord how many of them are equipment now whose serial numbers nobody has entered
   */
  public record Part(
      long id,
      int version,
      String name,
      String unit,
      BigDecimal quantity,
      BigDecimal beyondPromise,
      long costMinor,
      String warrantyPercent,
      @Nullable String warrantyExclusion,
      boolean corrected,
      int toPutOnRecord) {}

  /**
   * A supplier's bill, and what the customer pays of it by time and parts.
   *
   * @param fileName of the bill as it came; null where none is kept
   */
  public record OtherCost(
      long id,
      String supplier,
      String description,
      long costMinor,
      PassedOn passedOn,
      @Nullable String fileName) {}

  /**
   * What the customer pays by time and parts besides the work.
   *
   * @param netMinor quantity x unit price, before anything comes off
   */
  public record OwnCharge(
      long id,
      int version,
      String description,
      BigDecimal quantity,
      BigDecimal unitPrice,
      long netMinor) {}

  /**
   * The cost ladder; while nothing is recorded yet it has not begun and only the promise counts.
   */
  public record Cost(
      boolean begun,
      List<Rung> rungs,
      VariancesOf variances,
      long quotedMinor,
      long actualMinor,
      long quotedMarginMinor,
      @Nullable BigDecimal quotedMarginPercent,
      long netMinor,
      long marginMinor,
      @Nullable BigDecimal marginPercent,
      long marginDifferenceMinor,
      long overheadMinor) {}

  /**
   * Why it cost other than quoted, and what is charged beside what was quoted: the difference of
   * the net less all variances is the difference of the margins. Positive is more.
   */
  public record VariancesOf(
      long labourHoursMinor,
      long labourRateMinor,
      long driveMinutesMinor,
      long driveMilesMinor,
      long driveRateMinor,
      long partsQuantityMinor,
      long partsPriceMinor,
      long otherMinor,
      long netDifferenceMinor) {
    static VariancesOf of(Variances variances, Money netDifference) {
      return new VariancesOf(
          variances.labour().hours().minor(),
          variances.labour().rate().minor(),
          variances.drive().minutes().minor(),
          variances.drive().miles().minor(),
          variances.drive().rate().minor(),
          variances.parts().quantity().minor(),
          variances.parts().price().minor(),
          variances.other().minor(),
          netDifference.minor());
    }
  }

  /**
   * Why a category cost other than quoted; what a reason does not have is nothing.
   *
   * @param minutes more than quoted, or fewer below nothing; as are the amount and the quantity
   * @param part what it is; empty unless the reason is a part
   */
  public record Reason(
      Because.Kind kind, int minutes, long amountMinor, BigDecimal quantity, String part) {
    static Reason of(Because.Reason reason) {
      return new Reason(
          reason.kind(),
          reason.minutes(),
          reason.amount().minor(),
          reason.quantity(),
          reason.part());
    }
  }

  public record Rung(
      Category category,
      long quotedMinor,
      long actualMinor,
      long varianceMinor,
      List<Reason> because) {}
}
