package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CHECKLIST_ANSWER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_CHECKLIST;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Reading;
import app.pragmata.server.checklists.AskedChecklist;
import app.pragmata.server.checklists.VisitChecklists;
import app.pragmata.server.checklists.VisitChecklists.AnswerForm;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** What was answered to checklists, for the office, which puts it right. */
@RestController
class ChecklistAnswersApi {
  /** What was answered on one visit. */
  record AnsweredVisit(long visitId, List<AskedChecklist> checklists) {}

  /** Another answer, as an answer is given on site, and why. */
  record AnswerCorrectionForm(
      @Nullable Long checklistItemId,
      @Nullable String answer,
      boolean doesNotApply,
      @Nullable String word,
      @Nullable String reason) {}

  private static final int LONGEST_REASON = 300;

  private final VisitChecklists checklists;
  private final VisitStore visits;
  private final VersionStore versions;
  private final DSLContext database;

  ChecklistAnswersApi(
      VisitChecklists checklists, VisitStore visits, VersionStore versions, DSLContext database) {
    this.checklists = checklists;
    this.visits = visits;
    this.versions = versions;
    this.database = database;
  }

  /** Of each visit of a job that has begun with a checklist, in the order of its visits. */
  @GetMapping("/api/jobs/{id}/checklists")
  List<AnsweredVisit> listChecklistsOfJob(Act act, @PathVariable long id) {
    Field<List<AskedChecklist>> asked = AskedChecklist.ofVisit(act.zone());
    return database
        .select(VISIT.ID, asked)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(JOB.ID.eq(id))
        .and(exists(selectOne().from(VISIT_CHECKLIST).where(VISIT_CHECKLIST.VISIT_ID.eq(VISIT.ID))))
        .orderBy(VISIT.DAY, VISIT.ID)
        .fetch(Records.mapping(AnsweredVisit::new));
  }

  /** Puts an answer right, or adds one that nobody gave on site; the reason stays. */
  @PostMapping("/api/visits/{id}/checklist-answers")
  @Transactional
  public Changed correctChecklistAnswer(
      Act act, @PathVariable long id, @RequestBody AnswerCorrectionForm form) {
    var reading = new Reading();
    String reason = reading.text("reason", form.reason(), LONGEST_REASON);
    reading.refuseIfFaulty();
    long answer =
        checklists.answer(
            act,
            visits.lock(id),
            new AnswerForm(form.checklistItemId(), form.answer(), form.doesNotApply(), form.word()),
            Objects.requireNonNull(reason));
    return versions.changed(CHECKLIST_ANSWER.ID, answer);
  }
}
