package app.pragmata.server.field;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.CheckService.TimeForm;
import app.pragmata.server.jobs.Clock;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.jobs.WrittenTime;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Time of a person's day that belongs to no visit: the drive home, the yard, training. */
@Service
@Transactional
class DaysTime {
  private final TimeEntries times;
  private final DrivesHome drivesHome;
  private final CompanyStore companies;
  private final PeopleStore people;
  private final RepeatableRequests repeats;

  DaysTime(
      TimeEntries times,
      DrivesHome drivesHome,
      CompanyStore companies,
      PeopleStore people,
      RepeatableRequests repeats) {
    this.times = times;
    this.drivesHome = drivesHome;
    this.companies = companies;
    this.people = people;
    this.repeats = repeats;
  }

  /** Time that nobody clocked; gives the id of the entry. */
  long add(Act act, @Nullable String key, long personId, LocalDate day, TimeForm form) {
    return repeats.once(
        act,
        key,
        "add time of a day",
        personId + " " + day + " " + form,
        () -> {
          var reading = new Reading();
          if (form.kind() == null) {
            reading.fault(
                "kind", Rule.MISSING, "Choose whether it was a drive, labour or a break.");
          }
          Day.checkNotLongAgo("from", day, act.today(), reading);
          reading.refuseIfFaulty();
          WrittenTime time = TypedTime.read(act, form, form.kind(), day, hours());
          return add(act, personId, day, form.kind(), time);
        });
  }

  /** The same within an act of its own. */
  long add(Act act, long personId, LocalDate day, TimeEntry.Kind kind, WrittenTime time) {
    people.requireTechnician(personId);
    lock(personId, day);
    long id = times.add(act, null, personId, kind, time);
    follow(act, personId, day, time);
    return id;
  }

  /** Puts an entry right that belongs to no visit. */
  void correct(Act act, long entryId, TimeForm form) {
    Clock entry = lock(entryId, form.version());
    WrittenTime time = TypedTime.read(act, form, entry.kind(), entry.day(), hours());
    LocalDate before = entry.day();
    times.correct(act, entry, null, time);
    follow(act, entry.personId(), before, time);
  }

  /** An entry over midnight is one of two days. */
  private void follow(Act act, long personId, LocalDate before, WrittenTime time) {
    drivesHome.follow(
        act,
        Stream.concat(
                Stream.of(before),
                time.spans().stream().map(span -> span.from().atZone(hours().zone()).toLocalDate()))
            .distinct()
            .map(day -> new PersonDay(personId, day))
            .toList());
  }

  /** Takes an entry off that belongs to no visit. */
  void remove(Act act, long entryId, int version, String reason) {
    Clock entry = lock(entryId, version);
    times.remove(act, entry, null, reason);
    drivesHome.follow(act, List.of(new PersonDay(entry.personId(), entry.day())));
  }

  private Clock lock(long entryId, int version) {
    Clock read = times.get(entryId);
    lock(read.personId(), read.day());
    Clock entry = times.get(entryId);
    Versions.require(version, entry.version());
    return entry;
  }

  private void lock(long personId, LocalDate day) {
    drivesHome.lockAll(List.of(new PersonDay(personId, day)));
  }

  private WorkingCalendar hours() {
    return companies.getCompany().calendar();
  }
}
