package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Day;
import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.jobs.VisitStore.Needs;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/**
 * What visits wait for, over HTTP: a day, such as that on which a part arrives, or another visit.
 */
@RestController
class NeedsApi {
  /**
   * What a visit needs as it is typed, such as "1:30" and "wed".
   *
   * @param version of the visit; 0 for a new one
   * @param notBefore empty for nothing, or where nobody knows when the part arrives
   * @param part the part that it waits for; empty for none
   * @param followsId the visit of its job that must be over before; null for none
   */
  record NeedsForm(
      int version,
      @Nullable String expected,
      @Nullable String notBefore,
      @Nullable String part,
      @Nullable Long followsId) {}

  /**
   * What a visit needs, with the other visits of its job that it could wait for.
   *
   * @param part the part that it waits for; empty for none
   * @param partArrivedOn null until the part is there
   */
  record VisitNeeds(
      int version,
      int expectedMinutes,
      @Nullable LocalDate notBefore,
      String part,
      @Nullable LocalDate partArrivedOn,
      @Nullable Long followsId,
      List<OtherVisit> others) {}

  /** Another visit of the job; one that waits has no day. */
  record OtherVisit(long visitId, VisitState.Code state, @Nullable LocalDate day) {}

  private static final int LONGEST_PART = 120;

  private final VisitStore visits;
  private final VersionStore versions;
  private final RepeatableRequests repeats;
  private final DSLContext database;

  NeedsApi(
      VisitStore visits, VersionStore versions, RepeatableRequests repeats, DSLContext database) {
    this.visits = visits;
    this.versions = versions;
    this.repeats = repeats;
    this.database = database;
  }

  @GetMapping("/api/visits/{id}/needs")
  VisitNeeds getVisitNeeds(@PathVariable long id) {
    var visit = database.selectFrom(VISIT).where(VISIT.ID.eq(id)).fetchOne();
    if (visit == null) {
      throw new Refused(Rule.NOT_FOUND, "This visit does not exist. Reload the page.");
    }
    return new VisitNeeds(
        visit.getVersion(),
        visit.getExpectedMinutes(),
        visit.getNotBefore(),
        visit.getAwaitedPart(),
        visit.getPartArrivedOn(),
        visit.getFollowsId(),
        database
            .select(VISIT.ID, VISIT.STATE, VISIT.DAY)
            .from(VISIT)
            .where(VISIT.JOB_ID.eq(visit.getJobId()).and(VISIT.ID.ne(id)))
            .and(VISIT.STATE.notIn(VisitState.Code.DROPPED))
            .orderBy(VISIT.DAY.asc().nullsLast(), VISIT.ID)
            .fetch(Records.mapping(OtherVisit::new)));
  }

  /** Says what a visit needs that has not begun. */
  @PutMapping("/api/visits/{id}/needs")
  @Transactional
  public Changed changeVisitNeeds(Act act, @PathVariable long id, @RequestBody NeedsForm form) {
    LockedVisit visit = lock(id, form.version());
    Needs needs = read(act, form, visit.job());
    if (needs.followsId() != null && visits.followed(needs.followsId()).contains(id)) {
      throw refused(
          "followsId", Rule.LEADS_IN_A_CIRCLE, "That visit waits for this one. Choose another.");
    }
    visits.need(act, visit, needs);
    return versions.changed(VISIT.ID, id);
  }

  /** A visit that has not begun; refused when it has, or when somebody changed it meanwhile. */
  private LockedVisit lock(long id, int version) {
    LockedVisit visit = visits.lock(id);
    Versions.require(version, visit.version());
    visit.job().requireUnbilled();
    if (!(visit.state() instanceof VisitState.Plannable)) {
      throw new Refused(
          Rule.VISIT_BEGUN, "This visit has begun or is over; it waits for nothing. Add another.");
    }
    return visit;
  }

  /** One more visit for a job, which waits for its time. */
  @PostMapping("/api/jobs/{id}/waiting-visits")
  @Transactional
  public Changed wantVisit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody NeedsForm form) {
    long made =
        repeats.once(
            act,
            key,
            "want visit",
            id + " " + form,
            () -> {
              LockedJob job = visits.lockJob(id);
              job.requireUnbilled();
              return visits.want(act, job, read(act, form, job));
            });
    return versions.changed(VISIT.ID, made);
  }

  private Needs read(Act act, NeedsForm form, LockedJob job) {
    var reading = new Reading();
    Integer expected = reading.required("expected", form.expected(), Minutes::parse);
    LocalDate notBefore =
        reading.optional("notBefore", form.notBefore(), typed -> Day.parse(typed, act.today()));
    String part = reading.optionalText("part", form.part(), LONGEST_PART);
    if (expected != null) {
      VisitPlan.check(notBefore == null ? act.today() : notBefore, expected, act.today(), reading);
    }
    reading.refuseIfFaulty();
    Long follows = form.followsId();
    if (follows != null
        && !database.fetchExists(VISIT, VISIT.ID.eq(follows).and(VISIT.JOB_ID.eq(job.id())))) {
      throw refused(
          "followsId", Rule.UNREACHABLE, "A visit waits for another of its own job. Choose one.");
    }
    return new Needs(Objects.requireNonNull(expected), notBefore, part, follows);
  }

  private static Refused refused(String field, Rule rule, String message) {
    return new Refused(List.of(new Fault(field, rule, message)));
  }
}
