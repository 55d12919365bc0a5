package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_SIGNATURE;
import static java.util.stream.Collectors.joining;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Coded;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.Capture;
import app.pragmata.core.jobs.Captured;
import app.pragmata.server.checklists.AskedChecklist;
import app.pragmata.server.checklists.AskedChecklist.AskedItem;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.records.Act;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What the kind of a job and its checklists want before a technician finishes a visit of it. */
@Component
class BeforeFinish {
  /** Of the job that is selected. */
  static final Field<List<Capture>> WANTED =
      field(
              select(KIND_OF_JOB.BEFORE_FINISH)
                  .from(KIND_OF_JOB)
                  .where(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID)))
          .as("wanted_before_finish")
          .convertFrom(codes -> Coded.getAll(Capture.class, codes));

  private static final Map<Capture, String> FIELDS =
      Map.of(Capture.PHOTO, "photo", Capture.SIGNATURE, "signed", Capture.CAUSE, "causeCode");

  private static final Map<Capture, String> WORDS =
      Map.of(
          Capture.PHOTO,
          "Take a photo first: work of this kind is not finished without one.",
          Capture.SIGNATURE,
          "Let somebody sign first: work of this kind is not finished without it. Where nobody is there, let them sign later on their own page.",
          Capture.CAUSE,
          "Say first why it was wrong: work of this kind is not finished without it.");

  private final DSLContext database;
  private final VisitPhotos photos;

  BeforeFinish(DSLContext database, VisitPhotos photos) {
    this.database = database;
    this.photos = photos;
  }

  /** Refuses, with each thing that is missing at its field. */
  void require(Act act, LockedVisit visit, FieldService.Said said) {
    Field<List<AskedChecklist>> checklists = AskedChecklist.ofVisit(act.zone());
    var job =
        database
            .select(WANTED, JOB.FAULT_CODE, JOB.CAUSE_CODE, checklists)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .where(VISIT.ID.eq(visit.id()))
            .fetchSingle();
    var reading = new Reading();
    if (!job.value1().isEmpty()) {
      require(reading, visit, said, job.value1(), job.value2(), job.value3());
    }
    requireAnswers(reading, visit, job.value4());
    reading.refuseIfFaulty();
  }

  private void requireAnswers(Reading reading, LockedVisit visit, List<AskedChecklist> checklists) {
    List<AskedItem> required =
        checklists.stream()
            .flatMap(checklist -> checklist.items().stream())
            .filter(item -> item.required() && item.given() == null)
            .toList();
    if (required.isEmpty()) {
      return;
    }
    Set<Long> shown = photos.answers(visit.id());
    String missing =
        required.stream()
            .filter(item -> !shown.contains(item.id()))
            .map(AskedItem::question)
            .collect(joining("; "));
    if (!missing.isEmpty()) {
      reading.fault(
          "checklists", Rule.MISSING, "Answer first on the checklist: %s.".formatted(missing));
    }
  }

  private void require(
      Reading reading,
      LockedVisit visit,
      FieldService.Said said,
      List<Capture> wanted,
      @Nullable String faultCode,
      @Nullable String causeCode) {
    var captured =
        new Captured(
            photos.count(visit.id()) > 0,
            said.signed() != null
                || said.signsLater()
                || database.fetchExists(VISIT_SIGNATURE, VISIT_SIGNATURE.VISIT_ID.eq(visit.id())),
            said.causeCode() != null || faultCode == null || causeCode != null);
    for (Capture missing : captured.missing(wanted)) {
      reading.fault(FIELDS.get(missing), Rule.MISSING, WORDS.get(missing));
    }
  }
}
