package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.LATE_ACT;
import static app.pragmata.server.generated.Tables.VISIT;
import static java.util.stream.Collectors.partitioningBy;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.LateActState;
import app.pragmata.core.field.LateTime;
import app.pragmata.core.field.PocketStep;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.LateWork.OfPerson;
import app.pragmata.server.field.OwnTimes.NoteTimeForm;
import app.pragmata.server.field.Weeks.WeekForm;
import app.pragmata.server.generated.tables.records.LateActRecord;
import app.pragmata.server.http.AskedSet;
import app.pragmata.server.jobs.WrittenTime;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.todos.ToDoService;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * The office's answer to what came in late: it counts and is written down, or it does not. What the
 * office did meanwhile stays as it is.
 */
@Service
@Transactional
class LateAnswers {
  /** When a clock ended of which no tap says so, as a time of the day on which it began. */
  record EndForm(long lateActId, @Nullable String endedAt) {}

  /**
   * What counts.
   *
   * @param lateActIds of one person on one visit, or on none
   */
  record WriteDownForm(@Nullable List<Long> lateActIds, @Nullable List<EndForm> ends) {}

  /** What does not count, and why; whoever tapped reads it. */
  record RefuseForm(@Nullable List<Long> lateActIds, @Nullable String reason) {}

  private static final int LONGEST_REASON = 300;

  private final DSLContext database;
  private final LateWork late;
  private final LateVisits visits;
  private final LateRecords records;
  private final CheckService check;
  private final DaysTime daysTime;
  private final OwnTimes ownTimes;
  private final Weeks weeks;
  private final CompanyStore companies;
  private final ToDoService toDos;
  private final Events events;

  LateAnswers(
      DSLContext database,
      LateWork late,
      LateVisits visits,
      LateRecords records,
      CheckService check,
      DaysTime daysTime,
      OwnTimes ownTimes,
      Weeks weeks,
      CompanyStore companies,
      ToDoService toDos,
      Events events) {
    this.database = database;
    this.late = late;
    this.visits = visits;
    this.records = records;
    this.check = check;
    this.daysTime = daysTime;
    this.ownTimes = ownTimes;
    this.weeks = weeks;
    this.companies = companies;
    this.toDos = toDos;
    this.events = events;
  }

  /** What belongs to the job of its visit. */
  static About about(DSLContext database, LateActRecord row) {
    return row.getVisitId() == null
        ? About.NOTHING
        : About.partOf(
            Objects.requireNonNull(
                database.fetchValue(VISIT.JOB_ID, VISIT.ID.eq(row.getVisitId()))));
  }

  /**
   * Writes it down: on its visit where that is still whoever's it was, checked or not, and else on
   * one more visit of the same job, so that what the office planned meanwhile stays.
   */
  void writeDown(Act act, WriteDownForm form) {
    List<LateActRecord> rows = lock(form.lateActIds());
    LateActRecord first = rows.getFirst();
    List<OfPerson> times =
        late.times(act, rows, late.listWaiting()).stream()
            .map(one -> new OfPerson(one.personId(), ended(act, one.time(), form)))
            .toList();
    String reason = cut("Came in late. " + first.getDetail());
    // A break is of the day, wherever it was tapped.
    Map<Boolean, List<OfPerson>> ofDay =
        times.stream()
            .collect(
                partitioningBy(
                    one ->
                        first.getVisitId() == null || one.time().kind() == TimeEntry.Kind.BREAK));
    for (OfPerson one : ofDay.get(true)) {
      daysTime.add(
          act,
          one.personId(),
          act.dayOf(one.time().from()),
          one.time().kind(),
          written(one.time(), reason));
    }
    if (first.getVisitId() != null) {
      writeDown(act, rows, ofDay.get(false), reason);
    }
    putRight(act, rows, times);
    answer(act, rows, LateActState.WRITTEN_DOWN, "", "Written down");
  }

  private void writeDown(Act act, List<LateActRecord> rows, List<OfPerson> times, String reason) {
    Long visitId = visits.of(act, rows, times);
    boolean finishes = visitId != null && visits.isPlanned(visitId);
    for (OfPerson one : times) {
      check.addTime(
          act,
          Objects.requireNonNull(visitId),
          one.personId(),
          one.time().kind(),
          written(one.time(), reason));
    }
    rows.stream()
        .filter(row -> finishes || row.getStep() != PocketStep.FINISH)
        .forEach(row -> records.write(act, row, visitId, reason));
  }

  /**
   * Times that were put right by hand, and weeks that were signed off; what was added by hand is
   * among those that are written.
   */
  private void putRight(Act act, List<LateActRecord> rows, List<OfPerson> added) {
    for (LateActRecord row : rows) {
      if (row.getStep() == PocketStep.SIGN_WEEK_OFF) {
        weeks.signOff(
            act.byTechnician(row.getPersonId()), LateStep.monday(late.form(row, WeekForm.class)));
      } else if (row.getStep() == PocketStep.NOTE_TIME) {
        NoteTimeForm form = late.form(row, NoteTimeForm.class);
        if (form.timeEntryId() != null) {
          ownTimes.putRight(act, row.getPersonId(), form.timeEntryId(), form.time());
        } else if (added.stream().noneMatch(one -> one.time().tapId() == row.getId())) {
          throw new Refused(
              Rule.UNREADABLE,
              "This is no time that can be written down as it is. Ask whoever noted it, write it down by hand, then say here that it does not count.");
        }
      }
    }
  }

  private static LateTime ended(Act act, LateTime time, WriteDownForm form) {
    if (time.to() != null) {
      return time;
    }
    var reading = new Reading();
    String typed =
        form.ends() == null
            ? null
            : form.ends().stream()
                .filter(end -> end != null && end.lateActId() == time.tapId())
                .map(EndForm::endedAt)
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(null);
    Instant to =
        typed == null || typed.isBlank()
            ? null
            : reading.optional(
                "ends", typed, said -> TypedTime.moment(act, act.dayOf(time.from()), said));
    if (typed == null || typed.isBlank()) {
      reading.fault(
          "ends",
          Rule.MISSING,
          "Say when what began at %s ended; no tap says so."
              .formatted(
                  time.from().atZone(act.zone()).toLocalTime().truncatedTo(ChronoUnit.MINUTES)));
    } else if (to != null) {
      TimeEntry.check(time.from(), to, act.at(), reading);
    }
    reading.refuseIfFaulty();
    return new LateTime(
        time.tapId(), time.visitId(), time.kind(), time.work(), time.from(), to, time.miles());
  }

  private WrittenTime written(LateTime time, String reason) {
    return new WrittenTime(
        TypedTime.spans(
            time.from(),
            Objects.requireNonNull(time.to()),
            null,
            companies.getCompany().calendar()),
        time.miles(),
        time.work(),
        reason);
  }

  /** It does not count: nothing is written down, and whoever tapped reads why. */
  void refuse(Act act, RefuseForm form) {
    var reading = new Reading();
    String why = reading.text("reason", form.reason(), LONGEST_REASON);
    reading.refuseIfFaulty();
    List<LateActRecord> rows = lock(form.lateActIds());
    answer(
        act, rows, LateActState.REFUSED, Objects.requireNonNull(why), "It does not count: " + why);
  }

  private List<LateActRecord> lock(@Nullable List<Long> asked) {
    List<Long> ids = AskedSet.read("lateActIds", asked, Function.identity(), "tap", "answer");
    List<LateActRecord> rows =
        database
            .selectFrom(LATE_ACT)
            .where(LATE_ACT.ID.in(ids))
            .orderBy(LATE_ACT.COUNTED_AT, LATE_ACT.ID)
            .forUpdate()
            .fetch();
    if (rows.size() < ids.size()
        || rows.stream().anyMatch(row -> row.getState() != LateActState.WAITING)) {
      throw new Refused(
          Rule.LATE_ACT_ANSWERED,
          "Somebody has answered this already. Reload the page to see what came of it.");
    }
    LateActRecord first = rows.getFirst();
    if (rows.stream()
        .anyMatch(
            row ->
                !row.getPersonId().equals(first.getPersonId())
                    || !Objects.equals(row.getVisitId(), first.getVisitId()))) {
      var reading = new Reading();
      reading.fault(
          "lateActIds", Rule.WRONG_KIND, "Answer for one person and one visit at a time.");
      reading.refuseIfFaulty();
    }
    return rows;
  }

  private void answer(
      Act act, List<LateActRecord> rows, LateActState state, String reason, String outcome) {
    for (LateActRecord row : rows) {
      row.setState(state);
      row.setReason(reason);
      row.setAnsweredAt(act.at());
      events.store(
          act,
          state == LateActState.REFUSED ? FieldEvent.LATE_REFUSED : FieldEvent.LATE_WRITTEN_DOWN,
          row,
          about(database, row).why(reason));
    }
    rows.stream()
        .map(LateActRecord::getToDoId)
        .filter(Objects::nonNull)
        .distinct()
        .filter(
            toDo ->
                !database.fetchExists(
                    LATE_ACT,
                    LATE_ACT.TO_DO_ID.eq(toDo).and(LATE_ACT.STATE.eq(LateActState.WAITING))))
        .forEach(toDo -> toDos.settle(act, toDo, outcome));
  }

  private static String cut(String text) {
    return text.length() > LONGEST_REASON ? text.substring(0, LONGEST_REASON) : text;
  }
}
