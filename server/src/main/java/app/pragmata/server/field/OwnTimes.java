package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.field.CheckService.TimeForm;
import app.pragmata.server.jobs.Clock;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Technicians put their own times right, until the office has checked them. What the clock measured
 * stays beside.
 */
@Service
@Transactional
class OwnTimes {
  /**
   * An own time as it really was; times are those of its day, "+1" behind one is the next day.
   *
   * @param visitId null for time on no visit
   * @param kind of time that nobody clocked; a correction leaves it
   * @param work of other paid time: what it was for
   */
  record OwnTimeForm(
      int version,
      @Nullable Long visitId,
      TimeEntry.@Nullable Kind kind,
      @Nullable String work,
      @Nullable String from,
      @Nullable String to,
      @Nullable String miles,
      @Nullable String reason) {}

  private final CheckService check;
  private final DaysTime daysTime;
  private final TimeEntries times;
  private final VisitStore visits;
  private final RepeatableRequests repeats;
  private final DSLContext database;

  OwnTimes(
      CheckService check,
      DaysTime daysTime,
      TimeEntries times,
      VisitStore visits,
      RepeatableRequests repeats,
      DSLContext database) {
    this.check = check;
    this.daysTime = daysTime;
    this.times = times;
    this.visits = visits;
    this.repeats = repeats;
    this.database = database;
  }

  /**
   * The same as a phone keeps it while there is no network.
   *
   * @param timeEntryId the entry that is put right; null for time that nobody clocked
   * @param day on which that was
   */
  record NoteTimeForm(@Nullable Long timeEntryId, LocalDate day, OwnTimeForm time) {
    NoteTimeForm {
      Objects.requireNonNull(day);
      Objects.requireNonNull(time);
    }
  }

  /** Puts an own entry right, or adds time that nobody clocked. */
  void note(Act act, @Nullable String key, NoteTimeForm form) {
    if (form.timeEntryId() == null) {
      add(act, key, form.day(), form.time());
    } else {
      correct(act, key, form.timeEntryId(), form.time());
    }
  }

  /** Puts somebody's entry right as they noted it, whatever was corrected meanwhile. */
  void putRight(Act office, long personId, long entryId, OwnTimeForm form) {
    Clock entry = requireOf(personId, entryId);
    check.correctTime(office, entryId, corrected(entry, entry.version(), form));
  }

  /**
   * Puts an own entry right that has ended.
   *
   * @param key by which an answer that was not heard is asked for again; null for none, since its
   *     version lets nothing be done twice
   */
  void correct(Act act, @Nullable String key, long entryId, OwnTimeForm form) {
    if (key == null) {
      correct(act, entryId, form);
      return;
    }
    repeats.once(
        act,
        key,
        "correct own time",
        entryId + " " + form,
        entryId,
        () -> correct(act, entryId, form));
  }

  private void correct(Act act, long entryId, OwnTimeForm form) {
    Clock entry = requireOf(act.personId(), entryId);
    if (!entry.isInDoubt()) {
      requireMayBackdate(act);
    }
    requireUnchecked(entry);
    if (entry.isRunning()) {
      throw new Refused(
          Rule.CLOCK_RUNNING, "This clock still runs. Stop it first, and say when it ended.");
    }
    check.correctTime(act, entryId, corrected(entry, form.version(), form));
  }

  private static TimeForm corrected(Clock entry, int version, OwnTimeForm form) {
    return new TimeForm(
        version,
        null,
        null,
        form.from(),
        form.to(),
        null,
        form.miles(),
        entry.description(),
        form.reason());
  }

  /** Own time that nobody clocked, on a visit or none; gives the id of the entry. */
  long add(Act act, @Nullable String key, LocalDate day, OwnTimeForm form) {
    DayApi.requireDayOfWork(day);
    requireMayBackdate(act);
    if (form.visitId() == null && form.kind() == TimeEntry.Kind.LABOUR) {
      var reading = new Reading();
      reading.text("work", form.work(), Clocks.LONGEST_WORK);
      reading.refuseIfFaulty();
    }
    var time =
        new TimeForm(
            0,
            act.personId(),
            form.kind(),
            form.from(),
            form.to(),
            null,
            form.miles(),
            form.work(),
            form.reason());
    if (form.visitId() == null) {
      return daysTime.add(act, key, act.personId(), day, time);
    }
    requireOwnVisit(act, form.visitId(), day);
    return check.addTime(act, key, form.visitId(), time);
  }

  /** The end of an own clock that the next one set was right. */
  void confirm(Act act, long entryId, int version) {
    Clock read = requireOf(act.personId(), entryId);
    LockedVisit visit = read.visitId() == null ? null : visits.lock(read.visitId());
    Clock entry = times.get(entryId);
    Versions.require(version, entry.version());
    times.confirm(act, entry, visit);
    if (visit != null) {
      visits.touch(act, visit, visit.state());
    }
  }

  private void requireOwnVisit(Act act, long visitId, LocalDate day) {
    boolean own =
        database.fetchExists(
            VISIT,
            VISIT
                .ID
                .eq(visitId)
                .and(VISIT.DAY.eq(day))
                .and(OwnVisit.ofCrew(VISIT, act.personId()))
                .and(
                    VISIT.STATE.in(
                        VisitState.Code.DRIVING,
                        VisitState.Code.ON_SITE,
                        VisitState.Code.FINISHED)));
    if (!own) {
      throw new Refused(
          Rule.NOT_FOUND,
          "You have no such visit on that day that is begun and not checked. Reload your week.");
    }
  }

  private Clock requireOf(long personId, long entryId) {
    Clock entry = times.get(entryId);
    if (entry.personId() != personId) {
      throw new Refused(Rule.NOT_FOUND, "This time is not yours. Reload your week.");
    }
    return entry;
  }

  private static void requireUnchecked(Clock entry) {
    if (entry.isApproved()) {
      throw new Refused(
          Rule.VISIT_CHECKED, "The office has checked this time. Tell them what is wrong with it.");
    }
  }

  private void requireMayBackdate(Act act) {
    if (!database.fetchExists(PERSON, PERSON.ID.eq(act.personId()).and(PERSON.MAY_BACKDATE))) {
      throw new Refused(
          Rule.NOT_TO_BACKDATE,
          "You do not put times right by yourself. Ask the office to write it down.");
    }
  }
}
