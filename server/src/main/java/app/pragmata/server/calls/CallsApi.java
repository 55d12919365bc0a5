package app.pragmata.server.calls;

import static app.pragmata.server.generated.Tables.CALL;
import static app.pragmata.server.generated.Tables.JOB;

import app.pragmata.core.calls.CallOutcome;
import app.pragmata.core.company.Priority;
import app.pragmata.server.jobs.JobOpening;
import app.pragmata.server.records.Act;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Calls over HTTP. */
@RestController
class CallsApi {
  /** What came of a call; exactly what its outcome says is there. */
  record TakenCall(
      long id,
      CallOutcome outcome,
      @Nullable Long jobId,
      @Nullable Long jobNumber,
      @Nullable LocalDateTime respondBy,
      @Nullable Long quoteId,
      @Nullable Long toDoId) {}

  /** By when somebody would be on site if it were promised now. */
  record PromisedResponse(Priority priority, LocalDateTime by) {}

  private final CallService service;
  private final JobOpening jobs;
  private final DSLContext database;

  CallsApi(CallService service, JobOpening jobs, DSLContext database) {
    this.service = service;
    this.jobs = jobs;
    this.database = database;
  }

  @PostMapping("/api/calls")
  TakenCall takeCall(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody CallForm form) {
    long id = service.take(act, key, form);
    return database
        .select(CALL.OUTCOME, CALL.JOB_ID, JOB.NUMBER, JOB.RESPOND_BY, CALL.QUOTE_ID, CALL.TO_DO_ID)
        .from(CALL)
        .leftJoin(JOB)
        .on(JOB.ID.eq(CALL.JOB_ID))
        .where(CALL.ID.eq(id))
        .fetchSingle(
            row ->
                new TakenCall(
                    id,
                    row.value1(),
                    row.value2(),
                    row.value3(),
                    row.value4() == null ? null : LocalDateTime.ofInstant(row.value4(), act.zone()),
                    row.value5(),
                    row.value6()));
  }

  /** For every priority, by when somebody would be with this customer. */
  @GetMapping("/api/customers/{id}/promises")
  List<PromisedResponse> listPromises(Act act, @PathVariable long id) {
    return Arrays.stream(Priority.values())
        .map(
            priority ->
                new PromisedResponse(
                    priority,
                    LocalDateTime.ofInstant(jobs.respondBy(act, id, priority), act.zone())))
        .toList();
  }
}
