package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.generated.tables.records.JobRecord;
import app.pragmata.server.generated.tables.records.VisitRecord;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
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
   */
  public record PlanForm(
      int version,
      @Nullable Long technicianId,
      List<Long> companionIds,
      @Nullable String day,
      @Nullable String start,
      @Nullable String expected) {}

  private final DSLContext database;
  private final VisitStore visits;
  private final DrivesHome drivesHome;
  private final PeopleStore people;
  private final RepeatableRequests repeats;
  private final Events events;

  PlanningService(
      DSLContext database,
      VisitStore visits,
      DrivesHome drivesHome,
      PeopleStore people,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.visits = visits;
    this.drivesHome = drivesHome;
    this.people = people;
    this.repeats = repeats;
    this.events = events;
  }

  /** Gives a visit its technician and time, or moves it. */
  public void plan(Act act, long visitId, PlanForm form) {
    VisitPlan plan = read(act, form);
    List<PersonDay> days = drivesHome.daysOf(visitId);
    drivesHome.lock(days);
    var locked = visits.lock(visitId);
    Versions.require(form.version(), locked.visit().getVersion());
    locked.lockedJob().requireUnbilled();
    if (!(locked.state() instanceof VisitState.Plannable plannable)) {
      throw new Refused(
          Rule.VISIT_BEGUN,
          "This visit has begun or is over; it cannot be planned again. Add another visit.");
    }
    locked.visit().setTechnicianId(plan.technicianId());
    locked.visit().setDay(plan.day());
    locked.visit().setPlannedDay(plan.day());
    locked.visit().setStartTime(plan.start());
    locked.visit().setExpectedMinutes(plan.expectedMinutes());
    visits.store(
        act,
        JobEvent.VISIT_PLANNED,
        locked,
        plannable.plan(),
        told(locked.companionIds(), plan.companionIds()));
    visits.setCompanions(visitId, plan.companionIds());
    drivesHome.follow(act, days);
  }

  private static About told(List<Long> before, List<Long> after) {
    return Set.copyOf(before).equals(Set.copyOf(after))
        ? About.NOTHING
        : About.NOTHING.with(Map.of("companionIds", before), Map.of("companionIds", after));
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
          VisitStore.LockedJob job = visits.lockJob(jobId);
          job.requireUnbilled();
          VisitRecord visit = database.newRecord(VISIT);
          visit.setJobId(jobId);
          visit.setTechnicianId(plan.technicianId());
          visit.setDay(plan.day());
          visit.setPlannedDay(plan.day());
          visit.setStartTime(plan.start());
          visit.setExpectedMinutes(plan.expectedMinutes());
          visit.setState(VisitState.Code.PLANNED);
          events.store(act, JobEvent.VISIT_PLANNED, visit, told(List.of(), plan.companionIds()));
          visits.setCompanions(visit.getId(), plan.companionIds());
          visits.follow(act, job.row());
          return visit.getId();
        });
  }

  /** Calls a whole job off, with its visits; only before anything was recorded on it. */
  public void callOffJob(Act act, long jobId, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.text("reason", reason, 300);
    reading.refuseIfFaulty();
    VisitStore.LockedJob locked = visits.lockJob(jobId);
    JobRecord job = locked.row();
    Versions.require(version, job.getVersion());
    boolean begun =
        database.fetchExists(
            VISIT,
            VISIT
                .JOB_ID
                .eq(jobId)
                .and(
                    VISIT.STATE.in(
                        VisitState.Code.DRIVING,
                        VisitState.Code.ON_SITE,
                        VisitState.Code.FINISHED,
                        VisitState.Code.CHECKED)));
    if (begun || locked.closed() || !(JobState.of(job.getState()) instanceof JobState.Open open)) {
      throw new Refused(
          Rule.JOB_BEGUN,
          "Work on this job has begun. Finish and check its visits; then bill it or close it without charge.");
    }
    for (VisitRecord visit :
        database
            .selectFrom(VISIT)
            .where(VISIT.JOB_ID.eq(jobId))
            .and(VISIT.STATE.in(VisitState.Code.UNPLANNED, VisitState.Code.PLANNED))
            .fetch()) {
      visit.setState(VisitState.Code.CALLED_OFF);
      visit.setReason(why);
      events.store(act, JobEvent.VISIT_CALLED_OFF, visit);
    }
    visits.storeJob(act, JobEvent.CALLED_OFF, job, open.callOff(), Objects.requireNonNull(why));
  }

  private VisitPlan read(Act act, PlanForm form) {
    var reading = new Reading();
    LocalDate day = reading.required("day", form.day(), typed -> Day.parse(typed, act.today()));
    LocalTime start = reading.required("start", form.start(), Day::parseTime);
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
