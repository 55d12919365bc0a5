package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.field.HoursWorked;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.OwnTimes.OwnTimeForm;
import app.pragmata.server.field.Weeks.SignedOff;
import app.pragmata.server.field.Weeks.WeekEntry;
import app.pragmata.server.field.Weeks.WeekHours;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Weeks of hours: the technician's own, and everybody's for the office. */
@RestController
class WeeksApi {
  /**
   * One's own week.
   *
   * @param days all seven
   * @param signedOff null while it is not
   * @param mayBackdate whether one may put own times right
   * @param otherWork what is paid for beside visits
   */
  record OwnWeek(
      LocalDate monday,
      List<WeekDay> days,
      WeekHours hours,
      @Nullable SignedOff signedOff,
      boolean mayBackdate,
      List<String> otherWork) {}

  record WeekDay(LocalDate day, List<WeekEntry> entries, HoursWorked worked, int paid) {}

  /** Everybody's hours of a week. */
  record HoursOfWeek(
      LocalDate monday, LocalDate weekBefore, LocalDate weekAfter, List<PersonsWeek> people) {}

  /**
   * A technician's week.
   *
   * @param running whether a clock of it runs
   * @param forgotten whether that has run past the hours of its person
   * @param inDoubt of how many times it is to be said when they ended
   * @param signedOff null while it is not
   */
  record PersonsWeek(
      long personId,
      String person,
      WeekHours hours,
      boolean running,
      boolean forgotten,
      int inDoubt,
      @Nullable SignedOff signedOff) {}

  private final Weeks weeks;
  private final OwnTimes times;
  private final CompanyStore companies;
  private final DSLContext database;

  WeeksApi(Weeks weeks, OwnTimes times, CompanyStore companies, DSLContext database) {
    this.weeks = weeks;
    this.times = times;
    this.companies = companies;
    this.database = database;
  }

  @GetMapping("/api/pocket/weeks/{monday}")
  OwnWeek getOwnWeek(Act act, @PathVariable LocalDate monday) {
    Weeks.requireMonday(monday);
    List<Long> own = List.of(act.personId());
    List<WeekEntry> entries = weeks.list(act, own, monday);
    return new OwnWeek(
        monday,
        IntStream.range(0, 7).mapToObj(monday::plusDays).map(day -> weekDay(day, entries)).toList(),
        Weeks.sum(entries),
        weeks.listSignedOff(act, own, monday, entries).get(act.personId()),
        database.fetchExists(PERSON, PERSON.ID.eq(act.personId()).and(PERSON.MAY_BACKDATE)),
        companies.getCompany().otherWork().names());
  }

  private static WeekDay weekDay(LocalDate day, List<WeekEntry> entries) {
    List<WeekEntry> ofDay = entries.stream().filter(entry -> entry.day().equals(day)).toList();
    HoursWorked worked = Weeks.sum(ofDay).worked();
    return new WeekDay(day, ofDay, worked, worked.paid());
  }

  /** Signs one's own week off as it stands; also again, once it has changed. */
  @PostMapping("/api/pocket/weeks/{monday}/sign-off")
  OwnWeek signWeekOff(Act act, @PathVariable LocalDate monday) {
    weeks.signOff(act, monday);
    return getOwnWeek(act, monday);
  }

  /** Own time that nobody clocked, on a visit of that day or none. */
  @PostMapping("/api/pocket/days/{day}/time-entries")
  OwnWeek addOwnTime(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable LocalDate day,
      @RequestBody OwnTimeForm form) {
    times.add(act, key, day, form);
    return getOwnWeek(act, mondayOf(day));
  }

  /** Puts an own time right that the office has not checked yet. */
  @PutMapping("/api/pocket/time-entries/{id}")
  void correctOwnTime(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody OwnTimeForm form) {
    times.correct(act, key, id, form);
  }

  /** The end that the next clock set was right. */
  @PostMapping("/api/pocket/time-entries/{id}/confirm")
  void confirmOwnTime(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    times.confirm(act, id, at.version());
  }

  private static LocalDate mondayOf(LocalDate day) {
    return day.minusDays(day.getDayOfWeek().getValue() - 1L);
  }

  /** Everybody's hours of a week, by name, with who has not signed off yet. */
  @GetMapping("/api/hours/{monday}")
  HoursOfWeek getHoursOfWeek(Act act, @PathVariable LocalDate monday) {
    Weeks.requireMonday(monday);
    List<Colleague> technicians = weeks.listPeople(monday);
    List<Long> ids = technicians.stream().map(Colleague::id).toList();
    List<WeekEntry> entries = weeks.list(act, ids, monday);
    Map<Long, SignedOff> signedOff = weeks.listSignedOff(act, ids, monday, entries);
    return new HoursOfWeek(
        monday,
        monday.minusWeeks(1),
        monday.plusWeeks(1),
        technicians.stream()
            .map(
                person -> {
                  List<WeekEntry> own =
                      entries.stream().filter(entry -> entry.personId() == person.id()).toList();
                  return new PersonsWeek(
                      person.id(),
                      person.name(),
                      Weeks.sum(own),
                      own.stream().anyMatch(WeekEntry::runs),
                      own.stream().anyMatch(WeekEntry::forgotten),
                      (int) own.stream().filter(WeekEntry::inDoubt).count(),
                      signedOff.get(person.id()));
                })
            .toList());
  }
}
