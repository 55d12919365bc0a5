package app.pragmata.server.calls;

import static app.pragmata.server.generated.Tables.CAUSE_CODE;
import static app.pragmata.server.generated.Tables.FAULT_CODE;
import static app.pragmata.server.generated.Tables.JOB;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.records.Versions;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What was wrong on a job and why, once somebody knows; also after it was billed. */
@RestController
class JobCodesApi {
  record CodesForm(int version, @Nullable String faultCode, @Nullable String causeCode) {}

  private final DSLContext database;
  private final VersionStore versions;
  private final VisitStore visits;

  JobCodesApi(DSLContext database, VisitStore visits, VersionStore versions) {
    this.versions = versions;
    this.database = database;
    this.visits = visits;
  }

  @PutMapping("/api/jobs/{id}/codes")
  @Transactional
  public Changed saveJobCodes(Act act, @PathVariable long id, @RequestBody CodesForm form) {
    var reading = new Reading();
    requireKnown("faultCode", form.faultCode(), FAULT_CODE, FAULT_CODE.CODE, reading);
    requireKnown("causeCode", form.causeCode(), CAUSE_CODE, CAUSE_CODE.CODE, reading);
    reading.refuseIfFaulty();
    LockedJob job = visits.lockJob(id);
    Versions.require(form.version(), job.version());
    job.noteCodes(form.faultCode(), form.causeCode());
    visits.storeJob(act, JobEvent.CODES_NOTED, job, "");
    return versions.changed(JOB.ID, id);
  }

  private void requireKnown(
      String field, @Nullable String code, Table<?> table, Field<String> key, Reading reading) {
    if (code != null && !database.fetchExists(table, key.eq(code))) {
      reading.fault(field, Rule.NOT_FOUND, "There is no such code. Choose one from the list.");
    }
  }
}
