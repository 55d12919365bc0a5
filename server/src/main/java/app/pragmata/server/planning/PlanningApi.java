package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
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
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Planning over HTTP. */
@RestController
class PlanningApi {

  record UnplanForm(int version) {}

  record CallOffForm(int version, @Nullable String reason) {}

  /**
   * What a technician already has on a day; the day is null when the typed one cannot be read yet.
   */
  record TechnicianDay(@Nullable LocalDate day, List<PlannedStop> stops) {}

  record PlannedStop(
      long visitId, long jobNumber, String customer, LocalTime start, int expectedMinutes) {}

  private final PlanningService service;
  private final VersionStore versions;
  private final DSLContext database;

  PlanningApi(PlanningService service, DSLContext database, VersionStore versions) {
    this.versions = versions;
    this.service = service;
    this.database = database;
  }

  @PutMapping("/api/visits/{id}/plan")
  @Transactional
  Changed planVisit(Act act, @PathVariable long id, @RequestBody PlanningService.PlanForm form) {
    service.plan(act, id, form);
    return versions.changed(VISIT.ID, id);
  }

  /** Takes a visit off its day; it waits for a time again. */
  @PostMapping("/api/visits/{id}/unplan")
  @Transactional
  Changed unplanVisit(Act act, @PathVariable long id, @RequestBody UnplanForm form) {
    service.unplan(act, id, form.version());
    return versions.changed(VISIT.ID, id);
  }

  @PostMapping("/api/jobs/{id}/visits")
  @Transactional
  Changed addVisit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody PlanningService.PlanForm form) {
    return versions.changed(VISIT.ID, service.add(act, key, id, form));
  }

  @PostMapping("/api/jobs/{id}/call-off")
  @Transactional
  Changed callOffJob(Act act, @PathVariable long id, @RequestBody CallOffForm form) {
    service.callOffJob(act, id, form.version(), form.reason());
    return versions.changed(JOB.ID, id);
  }

  @GetMapping("/api/technicians/{id}/day")
  TechnicianDay technicianDay(
      Act act, @PathVariable long id, @RequestParam(defaultValue = "") String day) {
    LocalDate read = new Reading().optional("day", day, typed -> Day.parse(typed, act.today()));
    if (read == null) {
      return new TechnicianDay(null, List.of());
    }
    return new TechnicianDay(
        read,
        database
            .select(VISIT.ID, JOB.NUMBER, CUSTOMER.NAME, VISIT.START_TIME, VISIT.EXPECTED_MINUTES)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .where(
                VISIT
                    .TECHNICIAN_ID
                    .eq(id)
                    .and(VISIT.DAY.eq(read))
                    .and(VISIT.STATE.notIn(VisitState.Code.DROPPED)))
            .orderBy(VISIT.START_TIME)
            .fetch(Records.mapping(PlannedStop::new)));
  }
}
