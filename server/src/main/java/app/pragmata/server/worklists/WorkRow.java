package app.pragmata.server.worklists;

import app.pragmata.server.jobs.Response;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One quote, job or receipt on a worklist.
 *
 * @param jobId the job whose sheet tells of it; null of a quote, and of money for no job
 * @param quoteId the quote whose sheet tells of it, where there is no job yet
 * @param site empty for money that is for none
 * @param day since when it stands here, or its planned or due day where that says more
 * @param ageDays from that day to today; negative when it lies ahead
 * @param valueMinor net up to Checked, what is owed with VAT at Billed, what came in at Paid
 * @param marginPercent null when nothing is charged
 * @param forecastPercent what is left of its charge at its end; null where nothing can be said
 * @param belowFloor whether that is less than the company wants to keep
 * @param remark a few words about what it waits for
 * @param response by when somebody has to be there; null where nobody has, or somebody was
 */
record WorkRow(
    WorkKind kind,
    long id,
    long number,
    @Nullable Long jobId,
    @Nullable Long quoteId,
    String title,
    long customerId,
    String customer,
    String site,
    @Nullable String technician,
    LocalDate day,
    int ageDays,
    boolean stuck,
    Remark remark,
    @Nullable Long remarkNumber,
    long valueMinor,
    @Nullable BigDecimal marginPercent,
    @Nullable BigDecimal forecastPercent,
    boolean belowFloor,
    List<SmallRung> rungs,
    @Nullable Response response) {

  /** What it keeps: at its end where that can be said; null when nothing is charged. */
  @Nullable BigDecimal keptPercent() {
    return forecastPercent == null ? marginPercent : forecastPercent;
  }

  /** One rung of the small cost ladder. */
  record SmallRung(long quotedMinor, long actualMinor) {}
}
