package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.HOLIDAY;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.generated.tables.records.HolidayRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The days on which the company is closed besides those that it never works on. */
@RestController
class HolidaysApi {
  record Holiday(LocalDate day, String name) {}

  /** The same as typed. */
  record HolidayForm(@Nullable String day, @Nullable String name) {}

  private final DSLContext database;
  private final Events events;
  private final ApplicationEventPublisher changes;

  HolidaysApi(DSLContext database, Events events, ApplicationEventPublisher changes) {
    this.database = database;
    this.events = events;
    this.changes = changes;
  }

  /** Those of this year and later, the earliest first. */
  @GetMapping("/api/settings/holidays")
  List<Holiday> listHolidays(Act act) {
    return database
        .select(HOLIDAY.DAY, HOLIDAY.NAME)
        .from(HOLIDAY)
        .where(HOLIDAY.DAY.ge(act.today().withDayOfYear(1)))
        .orderBy(HOLIDAY.DAY)
        .fetch(Records.mapping(Holiday::new));
  }

  /** Adds one; adding the same again does nothing. */
  @PostMapping("/api/settings/holidays")
  @Transactional
  public List<Holiday> addHoliday(Act act, @RequestBody HolidayForm form) {
    var reading = new Reading();
    LocalDate day = reading.required("day", form.day(), typed -> Day.parse(typed, act.today()));
    String name = reading.text("name", form.name(), 60);
    if (day != null && day.isBefore(act.today())) {
      reading.fault("day", Rule.DAY_PASSED, "This day has passed. Enter one that is to come.");
    }
    reading.refuseIfFaulty();
    int added =
        database
            .insertInto(HOLIDAY)
            .values(Objects.requireNonNull(day), Objects.requireNonNull(name))
            .onConflictDoNothing()
            .execute();
    if (added == 0 && !nameOf(day).equals(name)) {
      reading.fault(
          "day",
          Rule.REPEATED,
          "That day is %s already. Remove it first, or enter another day.".formatted(nameOf(day)));
      reading.refuseIfFaulty();
    }
    if (added == 1) {
      tell(act, CompanyEvent.HOLIDAY_ADDED, day, Map.of(), Map.of("day", day, "name", name));
      changes.publishEvent(new SettingsChanged());
    }
    return listHolidays(act);
  }

  private String nameOf(LocalDate day) {
    return database
        .select(HOLIDAY.NAME)
        .from(HOLIDAY)
        .where(HOLIDAY.DAY.eq(day))
        .fetchSingle(HOLIDAY.NAME);
  }

  /** Removes one that is to come; what has been counted without it stays so. */
  @DeleteMapping("/api/settings/holidays/{day}")
  @Transactional
  public List<Holiday> removeHoliday(Act act, @PathVariable LocalDate day) {
    if (day.isBefore(act.today())) {
      throw new Refused(
          Rule.DAY_PASSED, "This day has passed, and promises were counted without it. Leave it.");
    }
    HolidayRecord row = database.selectFrom(HOLIDAY).where(HOLIDAY.DAY.eq(day)).fetchOne();
    if (row != null) {
      row.delete();
      tell(
          act,
          CompanyEvent.HOLIDAY_REMOVED,
          day,
          Map.of("day", day, "name", row.getName()),
          Map.of());
      changes.publishEvent(new SettingsChanged());
    }
    return listHolidays(act);
  }

  /** A holiday is known by its day. */
  private void tell(
      Act act,
      CompanyEvent event,
      LocalDate day,
      Map<String, Object> before,
      Map<String, Object> after) {
    events.tell(act, event, day.toEpochDay(), About.NOTHING.with(before, after));
  }
}
