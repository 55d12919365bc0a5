package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.ABSENCE;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.planning.AbsenceKind;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.generated.tables.records.AbsenceRecord;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.people.PersonEvent;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.Made;
import app.pragmata.server.records.RepeatableRequests;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** When technicians are not at work. */
@RestController
class AbsencesApi {
  /**
   * An absence as it is typed.
   *
   * @param lastDay empty for the first day alone
   * @param starts from when on each of these days, such as "13:00"; empty, as its end, for whole
   *     days
   */
  record AbsenceForm(
      @Nullable AbsenceKind kind,
      @Nullable String firstDay,
      @Nullable String lastDay,
      @Nullable String starts,
      @Nullable String ends,
      @Nullable String note) {}

  private static final int LONGEST_NOTE = 100;
  private static final int MOST_DAYS = 366;

  private final DSLContext database;
  private final PeopleStore people;
  private final Events events;
  private final RepeatableRequests repeats;

  AbsencesApi(DSLContext database, PeopleStore people, Events events, RepeatableRequests repeats) {
    this.database = database;
    this.people = people;
    this.events = events;
    this.repeats = repeats;
  }

  /** Says that a technician is away; visits that were planned for then stay and are marked. */
  @PostMapping("/api/technicians/{id}/absences")
  @Transactional
  public Made addAbsence(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody AbsenceForm form) {
    return new Made(
        repeats.once(act, key, "add absence", id + " " + form, () -> add(act, id, form)));
  }

  private long add(Act act, long personId, AbsenceForm form) {
    var reading = new Reading();
    AbsenceRecord row = database.newRecord(ABSENCE);
    row.setPersonId(personId);
    row.setKind(form.kind());
    if (form.kind() == null) {
      reading.fault("kind", Rule.MISSING, "Choose why.");
    }
    LocalDate first =
        reading.required("firstDay", form.firstDay(), typed -> Day.parse(typed, act.today()));
    LocalDate last =
        reading.optional(
            "lastDay",
            form.lastDay(),
            typed -> Day.parse(typed, first == null ? act.today() : first));
    if (first != null) {
      VisitPlan.checkDay("firstDay", first, act.today(), reading);
      row.setFirstDay(first);
      row.setLastDay(last == null ? first : last);
      if (last != null && last.isBefore(first)) {
        reading.fault("lastDay", Rule.ENDS_BEFORE_START, "This is before the first day.");
      }
      if (last != null && last.isAfter(first.plusDays(MOST_DAYS))) {
        reading.fault("lastDay", Rule.TOO_LARGE, "That is more than a year. Check it.");
      }
    }
    readTimes(row, form, reading);
    row.setNote(reading.optionalText("note", form.note(), LONGEST_NOTE));
    reading.refuseIfFaulty();
    people.requireTechnician(personId);
    // One after the other, so that nobody is away twice at the same time.
    database.selectFrom(PERSON).where(PERSON.ID.eq(personId)).forUpdate().execute();
    requireThere(row);
    row.store();
    events.tell(
        act, PersonEvent.ABSENCE_ADDED, personId, About.NOTHING.with(Map.of(), values(row)));
    return row.getId();
  }

  private static void readTimes(AbsenceRecord row, AbsenceForm form, Reading reading) {
    LocalTime starts = reading.optional("starts", form.starts(), Day::parseTime);
    LocalTime ends = reading.optional("ends", form.ends(), Day::parseTime);
    if (starts != null && ends == null) {
      reading.fault("ends", Rule.MISSING, "Enter until when, or leave both empty for whole days.");
    }
    if (starts == null && ends != null) {
      reading.fault("starts", Rule.MISSING, "Enter from when, or leave both empty for whole days.");
    }
    if (starts != null && ends != null && !starts.isBefore(ends)) {
      reading.fault("ends", Rule.ENDS_BEFORE_START, "It ends before it begins. Check both times.");
    }
    row.setStarts(starts);
    row.setEnds(ends);
  }

  private void requireThere(AbsenceRecord row) {
    AbsenceRecord other =
        database
            .selectFrom(ABSENCE)
            .where(ABSENCE.PERSON_ID.eq(row.getPersonId()))
            .and(ABSENCE.REMOVED_AT.isNull())
            .and(ABSENCE.FIRST_DAY.le(row.getLastDay()))
            .and(ABSENCE.LAST_DAY.ge(row.getFirstDay()))
            .and(
                row.getStarts() == null
                    ? DSL.noCondition()
                    : ABSENCE
                        .STARTS
                        .isNull()
                        .or(ABSENCE.STARTS.lt(row.getEnds()).and(ABSENCE.ENDS.gt(row.getStarts()))))
            .orderBy(ABSENCE.FIRST_DAY)
            .limit(1)
            .fetchOne();
    if (other != null) {
      throw new Refused(
          Rule.REPEATED,
          "They are away then already, from %s to %s (%s). Take that back first, or enter other days."
              .formatted(other.getFirstDay(), other.getLastDay(), other.getKind().code()));
    }
  }

  /** Takes an absence back: somebody is there after all. Taking it back again does nothing. */
  @DeleteMapping("/api/absences/{id}")
  @Transactional
  public void takeAbsenceBack(Act act, @PathVariable long id) {
    AbsenceRecord row =
        database.selectFrom(ABSENCE).where(ABSENCE.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw new Refused(Rule.NOT_FOUND, "This absence does not exist. Reload the page.");
    }
    if (row.getRemovedAt() != null) {
      return;
    }
    row.setRemovedAt(act.at());
    row.store();
    events.tell(
        act,
        PersonEvent.ABSENCE_TAKEN_BACK,
        row.getPersonId(),
        About.NOTHING.with(values(row), Map.of()));
  }

  private static Map<String, Object> values(AbsenceRecord row) {
    var values = new LinkedHashMap<String, Object>();
    values.put("kind", row.getKind().code());
    values.put("first_day", Objects.requireNonNull(row.getFirstDay()));
    values.put("last_day", Objects.requireNonNull(row.getLastDay()));
    if (row.getStarts() != null) {
      values.put("starts", row.getStarts());
      values.put("ends", row.getEnds());
    }
    return values;
  }
}
