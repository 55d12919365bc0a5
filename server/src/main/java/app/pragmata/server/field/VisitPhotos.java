package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART_WANTED;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TAP_POSITION;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.UNLISTED_PART;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_PHOTO;
import static app.pragmata.server.generated.Tables.VISIT_PHOTO_CONTENT;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.trunc;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.Tap;
import app.pragmata.core.field.TapPosition;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import app.pragmata.core.planning.Place;
import app.pragmata.server.checklists.VisitChecklists;
import app.pragmata.server.generated.tables.records.VisitPhotoRecord;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.pictures.Pictures;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.DatePart;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Photos of visits. A technician adds them to any visit on which they are or worked, in whatever
 * state it is by now, so that none is lost that was taken without a network; nobody deletes one,
 * what is taken off stays with its reason.
 */
@Service
@Transactional
public class VisitPhotos {
  /** A photo as JPEG, with what it shows; the words may be empty. */
  @SuppressWarnings("ArrayRecordComponent") // Nobody compares reports.
  public record ReportPhoto(byte[] jpeg, String words) {}

  /**
   * What is known of a photo besides the picture.
   *
   * @param words what it shows; may be empty
   * @param partWantedId the part wanted that it shows; null for none
   * @param unlistedPartId the fitted part without a price that it shows; null for none
   * @param checklistItemId the question of a checklist that it answers; null for none
   * @param takenAt by the phone's clock; null is now
   * @param sentAt when the phone sent it, so that its clock need not be right
   * @param position where it was taken; null where the phone does not say
   */
  public record PhotoNote(
      @Nullable String words,
      @Nullable Long partWantedId,
      @Nullable Long unlistedPartId,
      @Nullable Long checklistItemId,
      @Nullable Instant takenAt,
      @Nullable Instant sentAt,
      @Nullable PositionForm position) {}

  /**
   * A photo without its picture.
   *
   * @param milesFromSite where it was taken, in a straight line; null where that is not known
   * @param away whether it was surely not taken at the site
   */
  record VisitPhoto(
      long id,
      int version,
      long visitId,
      String words,
      @Nullable Long partWantedId,
      @Nullable Long unlistedPartId,
      @Nullable Long checklistItemId,
      LocalDateTime takenAt,
      String takenBy,
      @Nullable BigDecimal milesFromSite,
      boolean away) {}

  /** More than anybody looks at. */
  private static final int MOST = 60;

  private static final int LONGEST_WORDS = 300;
  private static final int MOST_BEFORE = 12;
  private static final int MOST_ON_REPORT = 12;

  private final DSLContext database;
  private final VisitStore visits;
  private final VisitChecklists checklists;
  private final TapPositions positions;
  private final RepeatableRequests repeats;
  private final Events events;

  VisitPhotos(
      DSLContext database,
      VisitStore visits,
      VisitChecklists checklists,
      TapPositions positions,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.visits = visits;
    this.checklists = checklists;
    this.positions = positions;
    this.repeats = repeats;
    this.events = events;
  }

  /** Keeps a photo; gives its id. The same key with the same picture keeps it once. */
  public long add(
      Act act, @Nullable String key, long visitId, Pictures.Kept photo, PhotoNote note) {
    return repeats.once(
        act,
        key,
        "add photo",
        visitId + " " + photo.hash(),
        () -> {
          var reading = new Reading();
          String words = reading.optionalText("words", note.words(), LONGEST_WORDS);
          LockedVisit visit = visits.lock(visitId);
          if (act.role() == Role.TECHNICIAN && !mayAdd(visit, act.personId())) {
            throw OwnVisit.notThere();
          }
          if (note.partWantedId() != null
              && !database.fetchExists(
                  PART_WANTED,
                  PART_WANTED
                      .ID
                      .eq(note.partWantedId())
                      .and(PART_WANTED.JOB_ID.eq(visit.job().id())))) {
            reading.fault(
                "partWantedId", Rule.NOT_FOUND, "There is no such part wanted on this job.");
          }
          if (note.unlistedPartId() != null
              && !database.fetchExists(
                  UNLISTED_PART,
                  UNLISTED_PART
                      .ID
                      .eq(note.unlistedPartId())
                      .and(UNLISTED_PART.VISIT_ID.eq(visitId)))) {
            reading.fault("unlistedPartId", Rule.NOT_FOUND, "There is no such part on this visit.");
          }
          checklists.begin(reading, visit, "checklistItemId", note.checklistItemId());
          reading.refuseIfFaulty();
          if (count(visitId) >= MOST) {
            throw new Refused(
                Rule.EXCEEDS_LIMIT,
                "A visit has at most %d photos. Take one off first.".formatted(MOST));
          }
          VisitPhotoRecord row = database.newRecord(VISIT_PHOTO);
          row.setVisitId(visitId);
          row.setWords(words);
          row.setPartWantedId(note.partWantedId());
          row.setUnlistedPartId(note.unlistedPartId());
          row.setChecklistItemId(note.checklistItemId());
          row.setTakenAt(Tap.moment(note.takenAt(), note.sentAt(), act.at()));
          row.setTakenBy(act.personId());
          row.setKeptAt(act.at());
          events.store(act, FieldEvent.PHOTO_ADDED, row, About.partOf(visit.job().id()));
          database
              .insertInto(VISIT_PHOTO_CONTENT)
              .set(VISIT_PHOTO_CONTENT.PHOTO_ID, row.getId())
              .set(VISIT_PHOTO_CONTENT.LARGE, photo.large())
              .set(VISIT_PHOTO_CONTENT.SMALL, photo.small())
              .execute();
          positions.note(act, note.position(), row.getTakenAt());
          return row.getId();
        });
  }

  private boolean mayAdd(LockedVisit visit, long personId) {
    return visit.isOfCrew(personId)
        || database.fetchExists(
            TIME_ENTRY, TIME_ENTRY.VISIT_ID.eq(visit.id()).and(TIME_ENTRY.PERSON_ID.eq(personId)));
  }

  /** How many photos a visit has. */
  int count(long visitId) {
    return database.fetchCount(
        VISIT_PHOTO, VISIT_PHOTO.VISIT_ID.eq(visitId).and(VISIT_PHOTO.REMOVED_AT.isNull()));
  }

  /** Which questions of checklists the photos of a visit answer. */
  Set<Long> answers(long visitId) {
    return database
        .select(VISIT_PHOTO.CHECKLIST_ITEM_ID)
        .from(VISIT_PHOTO)
        .where(VISIT_PHOTO.VISIT_ID.eq(visitId).and(VISIT_PHOTO.REMOVED_AT.isNull()))
        .and(VISIT_PHOTO.CHECKLIST_ITEM_ID.isNotNull())
        .fetchSet(VISIT_PHOTO.CHECKLIST_ITEM_ID);
  }

  /**
   * Takes a photo off; the office says why, and a technician takes off own ones until the visit is
   * checked. Gives the visit's id.
   */
  long remove(Act act, long id, int version, String reason) {
    Long visitId = database.fetchValue(VISIT_PHOTO.VISIT_ID, VISIT_PHOTO.ID.eq(id));
    if (visitId == null) {
      throw noPhoto();
    }
    LockedVisit visit = visits.lock(visitId);
    VisitPhotoRecord row =
        database
            .selectFrom(VISIT_PHOTO)
            .where(VISIT_PHOTO.ID.eq(id).and(VISIT_PHOTO.REMOVED_AT.isNull()))
            .fetchOptional()
            .orElseThrow(VisitPhotos::noPhoto);
    if (act.role() == Role.TECHNICIAN) {
      if (row.getTakenBy() != act.personId()) {
        throw noPhoto();
      }
      if (visit.state() instanceof VisitState.Checked) {
        throw new Refused(
            Rule.VISIT_CHECKED, "This visit is checked. Ask the office to take the photo off.");
      }
    }
    Versions.require(version, row.getVersion());
    row.setRemovedAt(act.at());
    events.store(act, FieldEvent.PHOTO_REMOVED, row, About.partOf(visit.job().id()).why(reason));
    return visitId;
  }

  /** Those of a visit, as they were taken. */
  @Transactional(readOnly = true)
  List<VisitPhoto> listOfVisit(Act act, long visitId) {
    return list(act, VISIT_PHOTO.VISIT_ID.eq(visitId), false, MOST);
  }

  /** Those of a job's visits, as they were taken. */
  @Transactional(readOnly = true)
  List<VisitPhoto> listOfJob(Act act, long jobId) {
    return list(act, VISIT.JOB_ID.eq(jobId), false, Integer.MAX_VALUE);
  }

  /** Those of a visit that its customer gets, small and as they were taken. */
  @Transactional(readOnly = true)
  public List<ReportPhoto> listForReport(long visitId) {
    return database
        .select(VISIT_PHOTO_CONTENT.SMALL, VISIT_PHOTO.WORDS)
        .from(VISIT_PHOTO)
        .join(VISIT_PHOTO_CONTENT)
        .on(VISIT_PHOTO_CONTENT.PHOTO_ID.eq(VISIT_PHOTO.ID))
        .where(VISIT_PHOTO.VISIT_ID.eq(visitId).and(VISIT_PHOTO.REMOVED_AT.isNull()))
        // What is to be ordered is shown to the office, not to the customer.
        .and(VISIT_PHOTO.PART_WANTED_ID.isNull())
        .orderBy(VISIT_PHOTO.TAKEN_AT, VISIT_PHOTO.ID)
        .limit(MOST_ON_REPORT)
        .fetch(Records.mapping(ReportPhoto::new));
  }

  /** The latest of other visits at the same site. */
  @Transactional(readOnly = true)
  List<VisitPhoto> listBefore(Act act, long visitId) {
    var job = JOB.as("this_job");
    var visit = VISIT.as("this_visit");
    return list(
        act,
        VISIT_PHOTO
            .VISIT_ID
            .ne(visitId)
            .and(
                JOB.SITE_ID.eq(
                    database
                        .select(job.SITE_ID)
                        .from(visit)
                        .join(job)
                        .on(job.ID.eq(visit.JOB_ID))
                        .where(visit.ID.eq(visitId)))),
        true,
        MOST_BEFORE);
  }

  /** Refuses whoever is not on the visit. */
  @Transactional(readOnly = true)
  void requireOwn(Act act, long visitId) {
    if (!database.fetchExists(
        VISIT, VISIT.ID.eq(visitId).and(OwnVisit.ofCrew(VISIT, act.personId())))) {
      throw OwnVisit.notThere();
    }
  }

  /** The picture as JPEG; of photos that are off, none. */
  @Transactional(readOnly = true)
  byte[] picture(Act act, long id, boolean small) {
    return database
        .select(small ? VISIT_PHOTO_CONTENT.SMALL : VISIT_PHOTO_CONTENT.LARGE)
        .from(VISIT_PHOTO_CONTENT)
        .join(VISIT_PHOTO)
        .on(VISIT_PHOTO.ID.eq(VISIT_PHOTO_CONTENT.PHOTO_ID))
        .join(VISIT)
        .on(VISIT.ID.eq(VISIT_PHOTO.VISIT_ID))
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(VISIT_PHOTO.ID.eq(id).and(VISIT_PHOTO.REMOVED_AT.isNull()))
        .and(act.role() == Role.TECHNICIAN ? worksThere(act.personId()) : noCondition())
        .fetchOptional(found -> found.value1())
        .orElseThrow(VisitPhotos::noPhoto);
  }

  /** Whoever has or had a visit at the site may see what it looks like. */
  private static Condition worksThere(long personId) {
    var own = VISIT.as("own");
    var ownJob = JOB.as("own_job");
    return exists(
        selectOne()
            .from(own)
            .join(ownJob)
            .on(ownJob.ID.eq(own.JOB_ID))
            .where(ownJob.SITE_ID.eq(JOB.SITE_ID))
            .and(OwnVisit.ofCrew(own, personId)));
  }

  private List<VisitPhoto> list(Act act, Condition which, boolean latestFirst, int most) {
    return database
        .select(VISIT_PHOTO.fields())
        .select(PERSON.NAME)
        .select(TAP_POSITION.LATITUDE, TAP_POSITION.LONGITUDE, TAP_POSITION.ACCURACY_METRES)
        .select(SITE.LATITUDE, SITE.LONGITUDE)
        .from(VISIT_PHOTO)
        .join(VISIT)
        .on(VISIT.ID.eq(VISIT_PHOTO.VISIT_ID))
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(PERSON)
        .on(PERSON.ID.eq(VISIT_PHOTO.TAKEN_BY))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .leftJoin(TAP_POSITION)
        .on(TAP_POSITION.PERSON_ID.eq(VISIT_PHOTO.TAKEN_BY))
        .and(TAP_POSITION.TAPPED_AT.eq(trunc(VISIT_PHOTO.TAKEN_AT, DatePart.SECOND)))
        .where(which.and(VISIT_PHOTO.REMOVED_AT.isNull()))
        .orderBy(
            latestFirst ? VISIT_PHOTO.TAKEN_AT.desc() : VISIT_PHOTO.TAKEN_AT.asc(), VISIT_PHOTO.ID)
        .limit(most)
        .fetch(
            found -> {
              VisitPhotoRecord row = found.into(VISIT_PHOTO);
              TapPosition taken = TapPositions.position(found);
              Place site = TapPositions.site(found);
              boolean known = taken != null && site != null;
              return new VisitPhoto(
                  row.getId(),
                  row.getVersion(),
                  row.getVisitId(),
                  row.getWords(),
                  row.getPartWantedId(),
                  row.getUnlistedPartId(),
                  row.getChecklistItemId(),
                  LocalDateTime.ofInstant(row.getTakenAt(), act.zone()),
                  Objects.requireNonNull(found.get(PERSON.NAME)),
                  known ? taken.milesFrom(site) : null,
                  known && taken.isAwayFrom(site));
            });
  }

  private static Refused noPhoto() {
    return new Refused(Rule.NOT_FOUND, "This photo is not there any more. Reload the page.");
  }
}
