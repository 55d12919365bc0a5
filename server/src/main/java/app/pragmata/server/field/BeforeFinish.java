package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.VISIT_SIGNATURE;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Coded;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.Capture;
import app.pragmata.core.jobs.Captured;
import app.pragmata.server.jobs.LockedVisit;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Component;

/** What the kind of a job wants to be there before a technician finishes a visit of it. */
@Component
class BeforeFinish {
  /** Of the job that is selected. */
  static final Field<List<Capture>> WANTED =
      field(
              select(KIND_OF_JOB.BEFORE_FINISH)
                  .from(KIND_OF_JOB)
                  .where(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID)))
          .as("wanted_before_finish")
          .convertFrom(BeforeFinish::read);

  private static final Map<Capture, String> FIELDS =
      Map.of(Capture.PHOTO, "photo", Capture.SIGNATURE, "signed", Capture.CAUSE, "causeCode");

  private static final Map<Capture, String> WORDS =
      Map.of(
          Capture.PHOTO,
          "Take a photo first: work of this kind is not finished without one.",
          Capture.SIGNATURE,
          "Let somebody sign first: work of this kind is not finished without it. Where nobody is there, say that you come again.",
          Capture.CAUSE,
          "Say first why it was wrong: work of this kind is not finished without it.");

  private final DSLContext database;
  private final VisitPhotos photos;

  BeforeFinish(DSLContext database, VisitPhotos photos) {
    this.database = database;
    this.photos = photos;
  }

  /** Refuses, with each thing that is missing at its field. */
  void require(LockedVisit visit, FieldService.Said said) {
    var job =
        database
            .select(WANTED, JOB.FAULT_CODE, JOB.CAUSE_CODE)
            .from(JOB)
            .where(JOB.ID.eq(visit.job().id()))
            .fetchSingle();
    if (job.value1().isEmpty()) {
      return;
    }
    var captured =
        new Captured(
            photos.count(visit.id()) > 0,
            said.signed() != null
                || database.fetchExists(VISIT_SIGNATURE, VISIT_SIGNATURE.VISIT_ID.eq(visit.id())),
            said.causeCode() != null || job.value2() == null || job.value3() != null);
    var reading = new Reading();
    for (Capture missing : captured.missing(job.value1())) {
      reading.fault(FIELDS.get(missing), Rule.MISSING, WORDS.get(missing));
    }
    reading.refuseIfFaulty();
  }

  private static List<Capture> read(String[] codes) {
    return Arrays.stream(codes).map(code -> Coded.find(Capture.class, code).orElseThrow()).toList();
  }
}
