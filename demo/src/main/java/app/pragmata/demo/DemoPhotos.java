package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import app.pragmata.server.field.VisitPhotos;
import app.pragmata.server.field.VisitPhotos.PhotoNote;
import app.pragmata.server.pictures.Pictures;
import app.pragmata.server.records.Act;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.springframework.stereotype.Component;

/** What the demo's technicians have taken pictures of on their last visits. */
@Component
class DemoPhotos {
  private static final int VISITS = 6;

  private record Finished(
      long visitId, long technicianId, Instant at, String kind, String serial) {}

  private final DSLContext database;
  private final VisitPhotos photos;

  DemoPhotos(DSLContext database, VisitPhotos photos) {
    this.database = database;
    this.photos = photos;
  }

  void take(Act act) {
    List<Finished> last =
        database
            .select(
                VISIT.ID,
                VISIT.TECHNICIAN_ID,
                VISIT.FINISHED_AT,
                EQUIPMENT_KIND.NAME,
                EQUIPMENT.SERIAL_NUMBER)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(EQUIPMENT)
            .on(EQUIPMENT.ID.eq(JOB.EQUIPMENT_ID))
            .join(EQUIPMENT_KIND)
            .on(EQUIPMENT_KIND.ID.eq(EQUIPMENT.EQUIPMENT_KIND_ID))
            .where(VISIT.STATE.in(VisitState.Code.FINISHED, VisitState.Code.CHECKED))
            .and(EQUIPMENT_KIND.NAME.notLike("%arrier%"))
            .orderBy(VISIT.FINISHED_AT.desc(), VISIT.ID)
            .limit(VISITS)
            .fetch(Records.mapping(Finished::new));
    for (Finished visit : last) {
      int seed = (int) visit.visitId();
      keep(act, visit, 40, "As found", scene(visit.kind(), seed, true));
      keep(act, visit, 30, "Rating plate", DrawnPhotos.plate(seed, visit.kind(), visit.serial()));
      keep(act, visit, 5, "Works again", scene(visit.kind(), -seed, false));
    }
  }

  private static byte[] scene(String kind, int seed, boolean open) {
    return kind.contains("gate") ? DrawnPhotos.gate(seed, open) : DrawnPhotos.shutter(seed, open);
  }

  private void keep(Act act, Finished visit, int minutesBefore, String words, byte[] picture) {
    Instant taken = visit.at().minus(minutesBefore, ChronoUnit.MINUTES);
    photos.add(
        new Act(visit.technicianId(), Role.TECHNICIAN, taken, act.zone()),
        "demo-photo-%d-%d".formatted(visit.visitId(), minutesBefore),
        visit.visitId(),
        Pictures.kept(picture),
        new PhotoNote(words, null, null, null, null, null, null));
  }
}
