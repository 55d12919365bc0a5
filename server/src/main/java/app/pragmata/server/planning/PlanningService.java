package app.pragmata.server.planning;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Plans visits, and drops the ones that will not happen. */
@Service
@Transactional
public class PlanningService {
  /**
   * A visit's plan as it is typed, such as "tue", "8:30" and "1:30".
   *
   * @param technicianId who is responsible
   * @param companionIds who comes along; empty for nobody
   * @param overruled what speaks against the time and is put up with; anything else is refused
   * @param holdId the time that was held for it; null for none. It is free again afterwards.
   */
  public record PlanForm(
      int version,
      @Nullable Long technicianId,
      List<Long> companionIds,
      @Nullable String day,
      @Nullable String start,
      @Nullable String expected,
      List<Clash> overruled,
      @Nullable Long holdId) {
    /** A visit of one person that is made at this time whatever speaks against it. */
    public static PlanForm anyway(
        int version, long technicianId, LocalDate day, LocalTime start, int minutes) {
      return new PlanForm(
          version,
          technicianId,
          List.of(),
          day.toString(),
          start.toString(),
          Minutes.text(minutes),
          List.of(Clash.values()),
          null);
    }
  }

  private final VisitStore visits;
  private final DrivesHome drivesHome;
  private final ReceiptService receipts;
  private final BooksStore books;
  private final PeopleStore people;
  private final RepeatableRequests repeats;
  private final PlanCheck check;
  private final HoldStore holds;

  PlanningService(
      VisitStore visits,
      DrivesHome drivesHome,
      ReceiptService receipts,
      BooksStore books,
      PeopleStore people,
      RepeatableRequests repeats,
      PlanCheck check,
      HoldStore holds) {
    this.check = check;
    this.holds = holds;
    this.visits = visits;
    this.drivesHome = drivesHome;
    this.receipts = receipts;
    this.books = books;
    this.people = people;
    this.repeats = repeats;
  }

  /** Gives a visit its technician and time, or moves it. */
  public void plan(Act act, long visitId, PlanForm form) {
    planAll(act, Map.of(visitId, form));
  }

  /** The same for several, all or none; they may change places with each other. */
  void planAll(Act act, Map<Long, PlanForm> forms) {
    forms.keySet().stream()
        .sorted()
        .forEach(id -> write(act, id, Objects.requireNonNull(forms.get(id))));
    check(act, forms);
  }

  private void check(Act act, Map<Long, PlanForm> forms) {
    holds.end(act, forms.values().stream().map(PlanForm::holdId).filter(Objects::nonNull).toList());
    check.check(
        act,
        forms.entrySet().stream()
            .collect(
                Collectors.toMap(
                    Map.Entry::getKey, form -> new HashSet<>(form.getValue().overruled()))));
  }

  private void write(Act act, long visitId, PlanForm form) {
    VisitPlan plan = read(act, form);
    List<PersonDay> days = drivesHome.daysOf(List.of(visitId));
    drivesHome.lock(days, List.of(visitId));
    LockedVisit visit = visits.lock(visitId);
    Versions.require(form.version(), visit.version());
    visit.job().requireUnbilled();
    if (!(visit.state() instanceof VisitState.Plannable plannable)) {
      throw new Refused(
          Rule.VISIT_BEGUN,
          "This visit has begun or is over; it cannot be planned again. Add another visit.");
    }
    visits.plan(act, visit, plannable.plan(), plan);
    drivesHome.follow(act, days);
  }

  /** Takes a visit off the day on which it was planned; it waits for a time again. */
  public void unplan(Act act, long visitId, int version) {
    List<PersonDay> days = drivesHome.daysOf(List.of(visitId));
    drivesHome.lock(days, List.of(visitId));
    LockedVisit visit = visits.lock(visitId);
    Versions.require(version, visit.version());
    unplan(act, visit, days);
  }

  /**
   * The same by whoever was to go, as it stands; gives the visit.
   *
   * @param require refuses whoever may not
   */
  public LockedVisit handBack(Act act, long visitId, Consumer<LockedVisit> require) {
    List<PersonDay> days = drivesHome.daysOf(List.of(visitId));
    drivesHome.lock(days, List.of(visitId));
    LockedVisit visit = visits.lock(visitId);
    require.accept(visit);
    unplan(act, visit, days);
    return visit;
  }

  private void unplan(Act act, LockedVisit visit, List<PersonDay> days) {
    visit.job().requireUnbilled();
    switch (visit.state()) {
      case VisitState.Unplanned waits -> {}
      case VisitState.Planned planned -> {
        visits.unplan(act, visit, planned.unplan());
        drivesHome.follow(act, days);
      }
      default ->
          throw new Refused(
              Rule.VISIT_BEGUN,
              "This visit has begun or is over; it cannot be taken off the day. Add another visit.");
    }
  }

  /** One more visit for a job, planned at once; gives its id. */
  public long add(Act act, @Nullable String key, long jobId, PlanForm form) {
    return repeats.once(
        act,
        key,
        "add visit",
        jobId + " " + form,
        () -> {
          VisitPlan plan = read(act, form);
          LockedJob job = visits.lockJob(jobId);
          job.requireUnbilled();
          long id = visits.add(act, job, plan);
          check(act, Map.of(id, form));
          return id;
        });
  }

  /** Calls a whole job off, with its visits; only before anything was recorded on it. */
  public void callOffJob(Act act, long jobId, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.text("reason", reason, 300);
    reading.refuseIfFaulty();
    LockedJob job = visits.lockJob(jobId);
    Versions.require(version, job.version());
    if (job.closed() || visits.isBegun(job) || !(job.state() instanceof JobState.Open open)) {
      throw new Refused(
          Rule.JOB_BEGUN,
          "Work on this job has begun. Finish and check its visits; then bill it or close it without charge.");
    }
    callOff(act, job, open, Objects.requireNonNull(why));
  }

  /** The same once it is known that nothing is to come of it; what it has cost goes with it. */
  public void callOff(Act act, LockedJob job, JobState.Open open, String why) {
    receipts.requireNothingAhead(job);
    Money cost = visits.callOff(act, job, open, why);
    books.post(
        act,
        new BooksEvent.JobCalledOff(job.costObject(), cost),
        VisitStore.source(RecordKind.JOB, job.id(), "called off: " + why, job));
  }

  private VisitPlan read(Act act, PlanForm form) {
    var reading = new Reading();
    LocalDate day = reading.required("day", form.day(), typed -> Day.parse(typed, act.today()));
    LocalTime start =
        reading.required(
            "start",
            form.start(),
            typed -> {
              LocalTime time = Day.parseTime(typed);
              if (day != null) {
                // Refuses what the clocks skip or show twice.
                Day.momentOf(day.atTime(time), act.zone());
              }
              return time;
            });
    Integer expected = reading.required("expected", form.expected(), Minutes::parse);
    if (form.technicianId() == null) {
      reading.fault("technicianId", Rule.MISSING, "Choose a technician.");
    }
    if (day != null && expected != null) {
      VisitPlan.check(day, expected, act.today(), reading);
    }
    if (form.technicianId() != null) {
      VisitPlan.checkCompanions(form.technicianId(), form.companionIds(), reading);
    }
    reading.refuseIfFaulty();
    people.requireTechnician(Objects.requireNonNull(form.technicianId()));
    form.companionIds().forEach(people::requireTechnician);
    return new VisitPlan(
        form.technicianId(),
        form.companionIds(),
        Objects.requireNonNull(day),
        Objects.requireNonNull(start),
        Objects.requireNonNull(expected));
  }
}
