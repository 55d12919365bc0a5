package app.pragmata.server.field;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.CheckService.TimeForm;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Time of a person's day that belongs to no visit: the drive home, the yard, training. */
@Service
@Transactional
class DaysTime {
  private final Clocks clocks;
  private final DrivesHome drivesHome;
  private final CompanyStore companies;
  private final PeopleStore people;
  private final RepeatableRequests repeats;
  private final Events events;

  DaysTime(
      Clocks clocks,
      DrivesHome drivesHome,
      CompanyStore companies,
      PeopleStore people,
      RepeatableRequests repeats,
      Events events) {
    this.clocks = clocks;
    this.drivesHome = drivesHome;
    this.companies = companies;
    this.people = people;
    this.repeats = repeats;
    this.events = events;
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
            reading.fault("kind", Rule.MISSING, "Choose whether it was a drive or labour.");
          }
          reading.refuseIfFaulty();
          people.requireTechnician(personId);
          TypedTime typed = TypedTime.read(act, form, form.kind(), day, hours());
          lock(personId, day);
          TimeEntryRecord entry = clocks.newEntry(null, personId, form.kind());
          store(act, FieldEvent.TIME_ADDED, entry, typed);
          return entry.getId();
        });
  }

  /** Puts an entry right that belongs to no visit. */
  void correct(Act act, TimeEntryRecord entry, TimeForm form) {
    lock(entry.getPersonId(), entry.getDay());
    entry.refresh();
    Versions.require(form.version(), entry.getVersion());
    store(
        act,
        FieldEvent.TIME_CORRECTED,
        entry,
        TypedTime.read(act, form, entry.getKind(), entry.getDay(), hours()));
  }

  private void store(Act act, FieldEvent event, TimeEntryRecord entry, TypedTime typed) {
    LocalDate before = entry.getDay();
    entry.setMiles(typed.miles());
    entry.setDescription(typed.description());
    clocks.store(act, event, entry, typed.spans(), hours().zone(), About.because(typed.reason()));
    follow(act, entry.getPersonId(), before, typed);
  }

  /** An entry over midnight is one of two days. */
  private void follow(Act act, long personId, @Nullable LocalDate before, TypedTime typed) {
    drivesHome.follow(
        act,
        java.util.stream.Stream.concat(
                java.util.stream.Stream.ofNullable(before),
                typed.spans().stream()
                    .map(span -> span.from().atZone(hours().zone()).toLocalDate()))
            .distinct()
            .map(day -> new PersonDay(personId, day))
            .toList());
  }

  /** Takes an entry off that belongs to no visit. */
  void remove(Act act, TimeEntryRecord entry, int version, String reason) {
    lock(entry.getPersonId(), entry.getDay());
    entry.refresh();
    Versions.require(version, entry.getVersion());
    entry.setRemovedAt(act.at());
    events.store(act, FieldEvent.TIME_REMOVED, entry, About.because(reason));
    drivesHome.follow(act, List.of(new PersonDay(entry.getPersonId(), entry.getDay())));
  }

  private void lock(long personId, LocalDate day) {
    drivesHome.lockAll(List.of(new PersonDay(personId, day)));
  }

  private WorkingCalendar hours() {
    return companies.getCompany().calendar();
  }
}
