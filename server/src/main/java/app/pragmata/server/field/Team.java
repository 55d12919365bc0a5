package app.pragmata.server.field;

import app.pragmata.server.jobs.Clock;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.LockedVisit;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Those for whom somebody taps, with the clocks that run and their visits, all locked until the
 * transaction ends.
 *
 * @param people whoever taps among them, in the order of their ids
 * @param visits by id: the one that is tapped and those on which a clock runs
 * @param days on which a clock was started that is a drive to no visit
 */
record Team(
    List<Long> people,
    Map<Long, Clock> running,
    Map<Long, LockedVisit> visits,
    List<PersonDay> days) {

  LockedVisit visit(long visitId) {
    return Objects.requireNonNull(visits.get(visitId));
  }

  /** The clock of this person, on whatever it runs. */
  Optional<Clock> clock(long personId) {
    return Optional.ofNullable(running.get(personId));
  }

  /** The clock of this person that runs on this visit, or on none for null. */
  Optional<Clock> clock(long personId, @Nullable Long visitId) {
    return clock(personId).filter(clock -> Objects.equals(clock.visitId(), visitId));
  }

  /** The visit of a clock; null for none. */
  @Nullable LockedVisit visitOf(Clock clock) {
    return clock.visitId() == null ? null : visit(clock.visitId());
  }
}
