package app.pragmata.server.partswanted;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PART_WANTED;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.noCondition;

import app.pragmata.core.Day;
import app.pragmata.core.Decimal;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.partswanted.PartWantedState;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.PartWantedRecord;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.jobs.VisitStore.Needs;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Follows parts that jobs wait for. The office has a to-do as soon as one is wanted, the job is not
 * done while one is, and once one is there a visit waits on the Planner's shelf to fit it.
 */
@Service
@Transactional
public class PartsWanted {
  /**
   * A part that is wanted, as it is said; everything may be left blank.
   *
   * @param partId of the price list; null for one that is not on it, or that nobody knows yet
   * @param equipmentId at the job's site, for which it is; null for what the job is about
   * @param words what it is, or what else there is to say
   * @param quantity as typed; empty for one
   */
  public record WantForm(
      @Nullable Long partId,
      @Nullable Long equipmentId,
      @Nullable String words,
      @Nullable String quantity,
      boolean urgent) {}

  /** What a job waits for; null for a part that is not on the price list. */
  public record Wanted(@Nullable Long partId, BigDecimal quantity) {}

  private static final int LONGEST_WORDS = 300;
  private static final int LONGEST_SUPPLIER = 120;
  private static final int LONGEST_AWAITED = 120;

  private final DSLContext database;
  private final VisitStore visits;
  private final ToDoService toDos;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;
  private final Events events;

  PartsWanted(
      DSLContext database,
      VisitStore visits,
      ToDoService toDos,
      CompanyStore companies,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.visits = visits;
    this.toDos = toDos;
    this.companies = companies;
    this.repeats = repeats;
    this.events = events;
  }

  /** Notes what a job waits for; gives its id. */
  public long want(Act act, @Nullable String key, long jobId, WantForm form) {
    return repeats.once(
        act,
        key,
        "want part",
        jobId + " " + form,
        () -> insert(act, visits.lockJob(jobId), null, form));
  }

  /**
   * Notes what is missing on a visit, inside the caller's transaction; gives its id.
   *
   * @param visit locked
   */
  public long want(Act act, LockedVisit visit, WantForm form) {
    return insert(act, visit.job(), visit.id(), form);
  }

  private long insert(Act act, LockedJob job, @Nullable Long visitId, WantForm form) {
    var reading = new Reading();
    BigDecimal quantity = reading.optional("quantity", form.quantity(), Reading::quantity);
    String words = reading.optionalText("words", form.words(), LONGEST_WORDS);
    if (form.partId() != null && !database.fetchExists(PART, PART.ID.eq(form.partId()))) {
      reading.fault("partId", Rule.NOT_FOUND, "There is no such part. Choose another.");
    }
    if (form.equipmentId() != null && !isOnSite(form.equipmentId(), job.siteId())) {
      reading.fault(
          "equipmentId",
          Rule.NOT_FOUND,
          "This equipment does not stand at the job's site. Choose another, or none.");
    }
    reading.refuseIfFaulty();
    job.requireUnbilled();
    PartWantedRecord row = database.newRecord(PART_WANTED);
    row.setJobId(job.id());
    row.setVisitId(visitId);
    row.setPartId(form.partId());
    row.setWords(words);
    row.setQuantity(quantity == null ? BigDecimal.ONE : quantity);
    row.setUrgent(form.urgent());
    row.setEquipmentId(form.equipmentId() == null ? job.equipmentId() : form.equipmentId());
    row.setState(PartWantedState.WANTED);
    row.setWantedAt(act.at());
    row.setWantedBy(act.personId());
    row.setToDoId(tellOffice(act, job, row));
    events.store(act, PartWantedEvent.PART_WANTED, row);
    follow(act, job);
    return row.getId();
  }

  private boolean isOnSite(long equipmentId, long siteId) {
    return database.fetchExists(
        EQUIPMENT, EQUIPMENT.ID.eq(equipmentId).and(EQUIPMENT.SITE_ID.eq(siteId)));
  }

  private long tellOffice(Act act, LockedJob job, PartWantedRecord row) {
    Company company = companies.getCompany();
    String said =
        "%s: %s for %s, asked for by %s"
            .formatted(
                row.getUrgent() ? "Urgent part wanted" : "Part wanted",
                name(row),
                database.fetchValue(SITE.NAME, SITE.ID.eq(job.siteId())),
                database.fetchValue(PERSON.NAME, PERSON.ID.eq(act.personId())));
    boolean more = row.getPartId() != null && !row.getWords().isEmpty();
    String what = more ? said + ": “" + row.getWords() + "”" : said;
    LocalDate due =
        row.getUrgent()
            ? act.today()
            : company.calendar().workdaysAfter(act.today(), company.partWantedDays());
    return toDos.insertForOffice(
        act, act.personId(), ToDoForm.ofJob(what, due, job.customerId(), job.id()));
  }

  /** Such as “2 Limit switch”. */
  private String name(PartWantedRecord row) {
    String part =
        row.getPartId() == null
            ? row.getWords()
            : database.fetchValue(PART.NAME, PART.ID.eq(row.getPartId()));
    return Decimal.text(row.getQuantity())
        + " "
        + (part.isEmpty() ? "of we do not know what" : part);
  }

  /**
   * It is ordered, or ordered anew.
   *
   * @param supplier may be empty
   * @param expected when it should be there, as typed; empty where nobody knows
   */
  public void order(
      Act act, long id, int version, @Nullable String supplier, @Nullable String expected) {
    var reading = new Reading();
    String from = reading.optionalText("supplier", supplier, LONGEST_SUPPLIER);
    LocalDate day = reading.optional("expected", expected, typed -> Day.parse(typed, act.today()));
    if (day != null && day.isBefore(act.today())) {
      reading.fault(
          "expected", Rule.DAY_PASSED, "This day has passed. Say when it should be there.");
    }
    reading.refuseIfFaulty();
    change(
        act,
        id,
        version,
        row -> {
          row.setState(row.getState().become(PartWantedState.ORDERED));
          row.setOrderedAt(act.at());
          row.setOrderedBy(act.personId());
          row.setSupplier(from);
          row.setExpectedOn(day);
          events.store(act, PartWantedEvent.PART_ORDERED, row);
          toDos.settle(act, row.getToDoId(), "Ordered");
        });
  }

  /** It is there: a visit of its job waits to be planned, if none is planned already. */
  public void arrive(Act act, long id, int version) {
    change(act, id, version, row -> arrived(act, row));
  }

  private void arrived(Act act, PartWantedRecord row) {
    row.setState(row.getState().become(PartWantedState.ARRIVED));
    row.setArrivedAt(act.at());
    row.setArrivedBy(act.personId());
    events.store(act, PartWantedEvent.WANTED_PART_ARRIVED, row);
    toDos.settle(act, row.getToDoId(), "It is there");
  }

  /**
   * What the visit waits for is there, or is not after all; so are the parts of its job that were
   * to be fitted on it. Refused of a visit that has begun, or that waits for no part.
   */
  public void noteArrival(Act act, long visitId, int version, boolean arrived) {
    LockedVisit visit = visits.lock(visitId);
    Versions.require(version, visit.version());
    visit.job().requireUnbilled();
    if (!(visit.state() instanceof VisitState.Plannable)) {
      throw new Refused(
          Rule.VISIT_BEGUN, "This visit has begun or is over; it waits for nothing any more.");
    }
    if (visit.awaitedPart().isEmpty()) {
      throw new Refused(Rule.NOT_FOUND, "This visit waits for no part. Reload the page.");
    }
    visits.noteArrival(act, visit, arrived ? act.today() : null);
    for (PartWantedRecord row : openOf(visit.job().id(), PART_WANTED.NEXT_VISIT_ID.eq(visitId))) {
      if (arrived && row.getState() != PartWantedState.ARRIVED) {
        arrived(act, row);
      } else if (!arrived && row.getState() == PartWantedState.ARRIVED) {
        takeBack(act, row);
      }
    }
    follow(act, visits.lockJob(visit.job().id()));
  }

  private int usualMinutes(LockedJob job) {
    return database
        .select(KIND_OF_JOB.DEFAULT_MINUTES)
        .from(JOB)
        .join(KIND_OF_JOB)
        .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
        .where(JOB.ID.eq(job.id()))
        .fetchSingle()
        .value1();
  }

  /**
   * A part that is not on the price list is fitted. Refused of one that is: it would cost the job
   * nothing.
   */
  public void fit(Act act, long id, int version) {
    change(
        act,
        id,
        version,
        row -> {
          if (row.getPartId() != null) {
            throw new Refused(
                Rule.WRONG_KIND,
                "Add this part to the visit on which it was fitted, so that it is on the job’s cost. It counts as fitted then.");
          }
          fit(act, row, null);
        });
  }

  private void fit(Act act, PartWantedRecord row, @Nullable Long visitPartId) {
    row.setVisitPartId(visitPartId);
    close(act, row, PartWantedState.FITTED, "");
    events.store(act, PartWantedEvent.WANTED_PART_FITTED, row);
    toDos.settle(act, row.getToDoId(), "Fitted");
  }

  /** Nobody wants it any more. */
  public void drop(Act act, long id, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.text("reason", reason, LONGEST_WORDS);
    reading.refuseIfFaulty();
    change(
        act,
        id,
        version,
        row -> {
          close(act, row, PartWantedState.NO_LONGER_WANTED, why);
          events.store(act, PartWantedEvent.PART_NO_LONGER_WANTED, row, About.because(why));
          toDos.settle(act, row.getToDoId(), "No longer wanted");
        });
  }

  private static void close(
      Act act, PartWantedRecord row, PartWantedState state, @Nullable String reason) {
    row.setState(row.getState().become(state));
    row.setClosedAt(act.at());
    row.setClosedBy(act.personId());
    row.setReason(reason);
  }

  /** Takes the last step back; what was fitted from a van is put back there instead. */
  public void takeBack(Act act, long id, int version) {
    change(
        act,
        id,
        version,
        row -> {
          if (row.getVisitPartId() != null) {
            throw new Refused(
                Rule.PART_MOVED_ON,
                "It stands on the visit as used. Take it off there, then it is wanted again.");
          }
          if (!row.getState().isOpen()) {
            visits.lockJob(row.getJobId()).requireUnbilled();
          }
          takeBack(act, row);
        });
  }

  private void takeBack(Act act, PartWantedRecord row) {
    PartWantedState was = row.getState();
    row.setState(was.before(row.getOrderedAt() != null, row.getArrivedAt() != null));
    switch (was) {
      case ORDERED -> {
        row.setOrderedAt(null);
        row.setOrderedBy(null);
        row.setSupplier("");
        row.setExpectedOn(null);
      }
      case ARRIVED -> {
        row.setArrivedAt(null);
        row.setArrivedBy(null);
      }
      default -> {
        row.setClosedAt(null);
        row.setClosedBy(null);
        row.setReason("");
        row.setVisitPartId(null);
      }
    }
    events.store(act, PartWantedEvent.PART_STEP_TAKEN_BACK, row);
    if (row.getState() == PartWantedState.WANTED) {
      toDos.openAgain(act, row.getToDoId());
    }
  }

  /** A part that this job waits for; refused when it does not, or when somebody changed it. */
  public Wanted getOpen(long jobId, long id, int version) {
    PartWantedRecord row = lockOf(jobId, id, version);
    row.getState().become(PartWantedState.FITTED);
    return new Wanted(row.getPartId(), row.getQuantity());
  }

  /** It was not wanted after all; refused once somebody has done anything about it. */
  public void withdraw(Act act, long jobId, long id, int version) {
    PartWantedRecord row = lockOf(jobId, id, version);
    if (row.getState() != PartWantedState.WANTED) {
      throw new Refused(
          Rule.PART_MOVED_ON,
          "The office has seen to this part already. Ring them if it is not wanted.");
    }
    drop(act, id, version, "Not wanted after all");
  }

  private PartWantedRecord lockOf(long jobId, long id, int version) {
    PartWantedRecord row =
        database
            .selectFrom(PART_WANTED)
            .where(PART_WANTED.ID.eq(id).and(PART_WANTED.JOB_ID.eq(jobId)))
            .forUpdate()
            .fetchOne();
    if (row == null) {
      throw unknown();
    }
    Versions.require(version, row.getVersion());
    return row;
  }

  /** It is fitted by this use of it. */
  public void fitBy(Act act, LockedJob job, long id, long visitPartId) {
    fit(
        act,
        database.selectFrom(PART_WANTED).where(PART_WANTED.ID.eq(id)).fetchSingle(),
        visitPartId);
    follow(act, job);
  }

  /**
   * A part was used on a job: the first of its kind that it waits for is fitted, if all of it is.
   */
  public void noteUse(Act act, LockedJob job, long partId, BigDecimal quantity, long visitPartId) {
    openOf(job.id(), PART_WANTED.PART_ID.eq(partId).and(PART_WANTED.QUANTITY.le(quantity))).stream()
        .findFirst()
        .ifPresent(
            row -> {
              fit(act, row, visitPartId);
              follow(act, job);
            });
  }

  /**
   * A use of a part was taken off: what it had fitted is wanted again, unless the job is closed.
   */
  public void noteRemoval(Act act, LockedJob job, long visitPartId) {
    if (job.closed()) {
      return;
    }
    List<PartWantedRecord> fitted =
        database
            .selectFrom(PART_WANTED)
            .where(PART_WANTED.VISIT_PART_ID.eq(visitPartId))
            .orderBy(PART_WANTED.ID)
            .forUpdate()
            .fetch();
    fitted.forEach(row -> takeBack(act, row));
    if (!fitted.isEmpty()) {
      follow(act, job);
    }
  }

  /** A visit of the job is over: what has come and was not fitted waits for another. */
  public void noteVisitOver(Act act, LockedJob job) {
    if (job.waitsForParts()) {
      follow(act, job);
    }
  }

  private List<PartWantedRecord> openOf(long jobId, Condition which) {
    return database
        .selectFrom(PART_WANTED)
        .where(PART_WANTED.JOB_ID.eq(jobId).and(isOpen()).and(which))
        .orderBy(PART_WANTED.ID)
        .forUpdate()
        .fetch();
  }

  /** Whether the selected one is neither fitted nor dropped. */
  public static Condition isOpen() {
    return PART_WANTED.STATE.in(
        PartWantedState.WANTED, PartWantedState.ORDERED, PartWantedState.ARRIVED);
  }

  /** The job is locked first, so that all about it happens in turn. */
  private void change(Act act, long id, int version, Consumer<PartWantedRecord> change) {
    Long jobId =
        database
            .select(PART_WANTED.JOB_ID)
            .from(PART_WANTED)
            .where(PART_WANTED.ID.eq(id))
            .fetchOne(PART_WANTED.JOB_ID);
    if (jobId == null) {
      throw unknown();
    }
    visits.lockJob(jobId);
    PartWantedRecord row =
        database.selectFrom(PART_WANTED).where(PART_WANTED.ID.eq(id)).forUpdate().fetchSingle();
    Versions.require(version, row.getVersion());
    change.accept(row);
    follow(act, visits.lockJob(jobId));
  }

  static Refused unknown() {
    return new Refused(Rule.NOT_FOUND, "There is no such part wanted. Reload the list.");
  }

  /** The job waits for what is open, and so does the visit that is to fit it. */
  private void follow(Act act, LockedJob job) {
    List<PartWantedRecord> open = openOf(job.id(), noCondition());
    job.waitForParts(open.size());
    visits.follow(act, job);
    if (!job.closed() && job.state() instanceof JobState.Wanted) {
      tellVisit(act, job.id(), open);
    }
  }

  private void tellVisit(Act act, long jobId, List<PartWantedRecord> open) {
    Long told = toldVisit(jobId);
    Long next = told != null || open.isEmpty() ? told : nextVisit(act, jobId, open);
    if (next == null) {
      return;
    }
    boolean allThere = open.stream().allMatch(row -> row.getState() == PartWantedState.ARRIVED);
    boolean dayKnown =
        open.stream()
            .allMatch(
                row -> row.getState() == PartWantedState.ARRIVED || row.getExpectedOn() != null);
    LocalDate expected =
        open.stream()
            .filter(row -> row.getState() == PartWantedState.ORDERED)
            .map(PartWantedRecord::getExpectedOn)
            .filter(Objects::nonNull)
            .max(Comparator.naturalOrder())
            .orElse(null);
    String names = open.stream().map(this::name).collect(Collectors.joining(", "));
    visits.await(
        act,
        visits.lock(next),
        names.length() > LONGEST_AWAITED ? names.substring(0, LONGEST_AWAITED - 1) + "…" : names,
        dayKnown ? expected : null,
        allThere && !open.isEmpty() ? act.today() : null);
    database
        .update(PART_WANTED)
        .set(PART_WANTED.NEXT_VISIT_ID, next)
        .where(PART_WANTED.ID.in(open.stream().map(PartWantedRecord::getId).toList()))
        .execute();
  }

  /** The visit that was told already for what the job waits, while it has not begun. */
  private @Nullable Long toldVisit(long jobId) {
    return database
        .select(VISIT.ID)
        .from(PART_WANTED)
        .join(VISIT)
        .on(VISIT.ID.eq(PART_WANTED.NEXT_VISIT_ID))
        .where(PART_WANTED.JOB_ID.eq(jobId))
        .and(VISIT.STATE.in(VisitState.Code.UNPLANNED, VisitState.Code.PLANNED))
        .orderBy(VISIT.ID.desc())
        .limit(1)
        .fetchOne(VISIT.ID);
  }

  /**
   * The visit of the job that nobody has planned; a new one when something has arrived and nobody
   * comes otherwise.
   */
  private @Nullable Long nextVisit(Act act, long jobId, List<PartWantedRecord> open) {
    Map<VisitState.Code, List<Long>> ahead =
        database
            .select(VISIT.STATE, VISIT.ID)
            .from(VISIT)
            .where(VISIT.JOB_ID.eq(jobId))
            .and(
                VISIT.STATE.in(
                    VisitState.Code.UNPLANNED,
                    VisitState.Code.PLANNED,
                    VisitState.Code.DRIVING,
                    VisitState.Code.ON_SITE))
            .orderBy(VISIT.ID)
            .fetchGroups(VISIT.STATE, VISIT.ID);
    List<Long> unplanned = ahead.getOrDefault(VisitState.Code.UNPLANNED, List.of());
    boolean somethingIsThere =
        open.stream().anyMatch(row -> row.getState() == PartWantedState.ARRIVED);
    if (!ahead.isEmpty() || !somethingIsThere) {
      return unplanned.stream().findFirst().orElse(null);
    }
    LockedJob job = visits.lockJob(jobId);
    return visits.want(act, job, new Needs(usualMinutes(job), null, "", null));
  }
}
