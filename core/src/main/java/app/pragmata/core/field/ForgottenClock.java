package app.pragmata.core.field;

import app.pragmata.core.jobs.TimeEntry;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A clock that was left running. It is asked when it ended; nothing is guessed.
 *
 * @param kind of the clock that runs
 * @param visitId of its visit; null for none
 * @param startedAt when it was started
 * @param hoursEnd when the working hours of its person end on the day on which it was started; null
 *     on a day without any
 */
public record ForgottenClock(
    TimeEntry.Kind kind, @Nullable Long visitId, Instant startedAt, @Nullable Instant hoursEnd) {
  /** So long after the end of the working hours nobody minds. */
  static final Duration GRACE = Duration.ofHours(1);

  /**
   * Whether it was started before the end of the working hours and has run more than an hour past
   * it. Whoever is called out in the evening or works on a day off has forgotten nothing.
   */
  public boolean isPastHours(Instant now) {
    return hoursEnd != null && startedAt.isBefore(hoursEnd) && now.isAfter(hoursEnd.plus(GRACE));
  }

  /**
   * Whether its end has to be said before anything else is tapped: it is past the hours of a day
   * that is over.
   */
  public boolean mustBeSaid(Instant now, ZoneId zone) {
    LocalDate day = startedAt.atZone(zone).toLocalDate();
    return isPastHours(now) && day.isBefore(now.atZone(zone).toLocalDate());
  }

  /**
   * Whether the start of the next clock leaves open when this one ended. Driving off, a break and
   * work elsewhere than on a visit end what was done before at that moment; work on a visit to
   * which nobody drove does not, for some of the time before was the way there.
   *
   * @param nextVisitId null for none
   */
  public boolean isInDoubt(TimeEntry.Kind next, @Nullable Long nextVisitId) {
    return next == TimeEntry.Kind.LABOUR
        && nextVisitId != null
        && visitId != null
        && kind != TimeEntry.Kind.BREAK
        && !Objects.equals(visitId, nextVisitId);
  }
}
