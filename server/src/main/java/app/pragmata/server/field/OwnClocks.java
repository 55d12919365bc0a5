package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;

/** The clocks of one person on a visit. */
record OwnClocks(List<Clock> clocks) {
  record Clock(
      TimeEntry.Kind kind, Instant startedAt, @Nullable Instant endedAt, BigDecimal miles) {}

  static Field<OwnClocks> of(Act act) {
    return multiset(
            select(TIME_ENTRY.KIND, TIME_ENTRY.STARTED_AT, TIME_ENTRY.ENDED_AT, TIME_ENTRY.MILES)
                .from(TIME_ENTRY)
                .where(TIME_ENTRY.VISIT_ID.eq(VISIT.ID).and(TIME_ENTRY.REMOVED_AT.isNull()))
                .and(TIME_ENTRY.PERSON_ID.eq(act.personId())))
        .as("clocks")
        .convertFrom(rows -> new OwnClocks(rows.map(mapping(Clock::new))));
  }

  /** A visit that others have begun is still to start for whoever has no clock on it. */
  VisitState.Code ownState(VisitState.Code state) {
    boolean driving =
        clocks.stream()
            .anyMatch(clock -> clock.kind() == TimeEntry.Kind.DRIVE && clock.endedAt() == null);
    return switch (state) {
      case DRIVING, ON_SITE ->
          driving
              ? VisitState.Code.DRIVING
              : state == VisitState.Code.DRIVING ? VisitState.Code.PLANNED : state;
      default -> state;
    };
  }

  /** Null while none runs. */
  @Nullable Instant runningSince() {
    return clocks.stream()
        .filter(clock -> clock.endedAt() == null)
        .map(Clock::startedAt)
        .findFirst()
        .orElse(null);
  }

  /** Of what has ended. */
  int minutes(TimeEntry.Kind kind) {
    return clocks.stream()
        .filter(clock -> clock.kind() == kind && clock.endedAt() != null)
        .mapToInt(clock -> TimeEntry.minutesBetween(clock.startedAt(), clock.endedAt()))
        .sum();
  }

  BigDecimal miles() {
    return clocks.stream().map(Clock::miles).reduce(BigDecimal.ZERO, BigDecimal::add);
  }
}
