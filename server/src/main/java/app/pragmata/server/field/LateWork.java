package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.LATE_ACT;
import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static org.jooq.impl.DSL.min;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Unreadable;
import app.pragmata.core.field.LateActState;
import app.pragmata.core.field.LateTap;
import app.pragmata.core.field.LateTime;
import app.pragmata.core.field.PocketStep;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.field.OwnTimes.NoteTimeForm;
import app.pragmata.server.field.OwnTimes.OwnTimeForm;
import app.pragmata.server.generated.tables.records.LateActRecord;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** What came in late and waits for the office, and the time that it tells of. */
@Component
class LateWork {
  /** A stretch of somebody's time. */
  record OfPerson(long personId, LateTime time) {}

  private final DSLContext database;
  private final LateStep steps;
  private final JsonMapper json;

  LateWork(DSLContext database, LateStep steps, JsonMapper json) {
    this.database = database;
    this.steps = steps;
    this.json = json;
  }

  /** All that waits, in the order in which it was tapped. */
  List<LateActRecord> listWaiting() {
    return database
        .selectFrom(LATE_ACT)
        .where(LATE_ACT.STATE.eq(LateActState.WAITING))
        .orderBy(LATE_ACT.COUNTED_AT, LATE_ACT.ID)
        .fetch();
  }

  /** What was sent, as its step takes it. */
  <Form> Form form(LateActRecord row, Class<Form> kind) {
    return steps.read(values(row), kind);
  }

  private Map<String, Object> values(LateActRecord row) {
    return json.readValue(row.getForm(), new TypeReference<>() {});
  }

  /**
   * The time that some of what waits tells of, of whoever tapped and of those for whom it was
   * tapped.
   *
   * @param chosen whose stretches are wanted
   * @param waiting all that waits: what is started elsewhere ends a stretch too
   */
  List<OfPerson> times(Act act, Collection<LateActRecord> chosen, List<LateActRecord> waiting) {
    Set<Long> ids = chosen.stream().map(LateActRecord::getId).collect(Collectors.toSet());
    return chosen.stream()
        .flatMap(row -> people(row).stream())
        .distinct()
        .sorted()
        .flatMap(
            person ->
                Stream.concat(
                        times(act, person, waiting).stream()
                            .filter(time -> ids.contains(time.tapId())),
                        chosen.stream()
                            .filter(row -> row.getPersonId().equals(person))
                            .flatMap(row -> noted(act, row).stream()))
                    .map(time -> new OfPerson(person, time)))
        .toList();
  }

  /** Time that somebody added by hand; none where nobody can read it. */
  private Optional<LateTime> noted(Act act, LateActRecord row) {
    NoteTimeForm form =
        row.getStep() == PocketStep.NOTE_TIME ? form(row, NoteTimeForm.class) : null;
    if (form == null || form.timeEntryId() != null) {
      return Optional.empty();
    }
    OwnTimeForm time = form.time();
    TimeEntry.Kind kind = Objects.requireNonNullElse(time.kind(), TimeEntry.Kind.LABOUR);
    var reading = new Reading();
    Instant from =
        reading.required("from", time.from(), said -> TypedTime.moment(act, form.day(), said));
    Instant to = reading.required("to", time.to(), said -> TypedTime.moment(act, form.day(), said));
    BigDecimal miles =
        kind == TimeEntry.Kind.DRIVE
            ? reading.optional("miles", time.miles(), Reading::miles)
            : null;
    if (from == null || to == null) {
      return Optional.empty();
    }
    TimeEntry.check(from, to, act.at(), reading);
    return reading.faults().isEmpty()
        ? Optional.of(
            new LateTime(
                row.getId(),
                row.getVisitId(),
                kind,
                Objects.requireNonNullElse(time.work(), ""),
                from,
                to,
                Objects.requireNonNullElse(miles, BigDecimal.ZERO)))
        : Optional.empty();
  }

  private List<LateTime> times(Act act, long personId, List<LateActRecord> waiting) {
    Function<Instant, @Nullable Instant> nextClock =
        moment ->
            database
                .select(min(TIME_ENTRY.STARTED_AT))
                .from(TIME_ENTRY)
                .where(TIME_ENTRY.PERSON_ID.eq(personId))
                .and(TIME_ENTRY.REMOVED_AT.isNull())
                .and(TIME_ENTRY.STARTED_AT.gt(moment))
                .fetchSingle()
                .value1();
    return LateTime.of(
        waiting.stream()
            .filter(row -> people(row).contains(personId))
            .map(row -> tap(act, row))
            .sorted(Comparator.comparing(LateTap::at).thenComparing(LateTap::id))
            .toList(),
        nextClock);
  }

  /** For whom it was tapped: whoever tapped and those of the crew that were ticked. */
  private List<Long> people(LateActRecord row) {
    List<Long> others =
        values(row).get("crewIds") instanceof List<?> ids
            ? ids.stream()
                .filter(Number.class::isInstance)
                .map(id -> ((Number) id).longValue())
                .toList()
            : List.of();
    return Stream.concat(Stream.of(row.getPersonId()), others.stream()).distinct().toList();
  }

  private LateTap tap(Act act, LateActRecord row) {
    Clocks.@Nullable ClockForm clock =
        row.getStep() == PocketStep.START_CLOCK ? form(row, Clocks.ClockForm.class) : null;
    StepForm step =
        switch (row.getStep()) {
          case DRIVE, ARRIVE, START_WORK, PAUSE, STOP_CLOCK -> form(row, StepForm.class);
          default -> StepForm.PLAIN;
        };
    String endedAt =
        row.getStep() == PocketStep.FINISH
            ? form(row, FieldService.FinishForm.class).endedAt()
            : step.endedAt();
    return new LateTap(
        row.getId(),
        row.getVisitId(),
        row.getStep(),
        switch (row.getStep()) {
          case DRIVE -> TimeEntry.Kind.DRIVE;
          case START_WORK -> TimeEntry.Kind.LABOUR;
          case START_CLOCK -> clock == null ? null : clock.kind();
          default -> null;
        },
        clock == null ? line(step.lineId()) : Objects.requireNonNullElse(clock.work(), ""),
        row.getCountedAt(),
        ended(act, row, endedAt),
        miles(step));
  }

  /** What a promised line says; empty for none. */
  private String line(@Nullable Long lineId) {
    return lineId == null
        ? ""
        : Objects.requireNonNullElse(
            database.fetchValue(PROMISED_LINE.DESCRIPTION, PROMISED_LINE.ID.eq(lineId)), "");
  }

  /** When it ended as somebody says; null where nobody does, or where nobody can read it. */
  private static @Nullable Instant ended(Act act, LateActRecord row, @Nullable String typed) {
    if (typed == null || typed.isBlank()) {
      return null;
    }
    try {
      return TypedTime.moment(act, act.dayOf(row.getCountedAt()), typed);
    } catch (Unreadable unreadable) {
      return null;
    }
  }

  private static BigDecimal miles(StepForm step) {
    try {
      return step.readMiles();
    } catch (Refused unreadable) {
      return BigDecimal.ZERO;
    }
  }
}
