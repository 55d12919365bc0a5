package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.VISIT_PART;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.generated.tables.records.VisitPartRecord;
import app.pragmata.server.jobs.DriveHomeStore;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * The office's part of a visit: corrections with their reasons, and the check that sends its time
 * to the books.
 */
@Service
@Transactional
public class CheckService {
  /**
   * A time entry as it is typed. Added time is of the person, or of the visit's technician where
   * none is named; a correction leaves whose it is. "+1" behind a time means the next day. Without
   * a rate class it is cut where the working hours change.
   */
  public record TimeForm(
      int version,
      @Nullable Long personId,
      TimeEntry.@Nullable Kind kind,
      @Nullable String from,
      @Nullable String to,
      @Nullable RateClass rateClass,
      @Nullable String miles,
      @Nullable String description,
      @Nullable String reason) {}

  /** A part's corrected quantity. */
  public record QuantityForm(int version, @Nullable String quantity, @Nullable String reason) {}

  private static final int LONGEST_REASON = 300;

  private final DSLContext database;
  private final VisitStore visits;
  private final Clocks clocks;
  private final DaysTime daysTime;
  private final DrivesHome drivesHome;
  private final PartsUsed parts;
  private final BooksStore books;
  private final CompanyStore companies;
  private final PeopleStore people;
  private final RepeatableRequests repeats;
  private final Events events;

  CheckService(
      DSLContext database,
      VisitStore visits,
      Clocks clocks,
      DaysTime daysTime,
      DrivesHome drivesHome,
      PartsUsed parts,
      BooksStore books,
      CompanyStore companies,
      PeopleStore people,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.visits = visits;
    this.clocks = clocks;
    this.daysTime = daysTime;
    this.drivesHome = drivesHome;
    this.parts = parts;
    this.books = books;
    this.companies = companies;
    this.people = people;
    this.repeats = repeats;
    this.events = events;
  }

  public void correctTime(Act act, long entryId, TimeForm form) {
    TimeEntryRecord entry = clocks.get(entryId);
    if (entry.getVisitId() == null) {
      daysTime.correct(act, entry, form);
      return;
    }
    var locked = lockCorrectable(entry.getVisitId());
    entry.refresh();
    Versions.require(form.version(), entry.getVersion());
    TypedTime typed = read(act, locked, form, entry.getKind());
    entry.setMiles(typed.miles());
    entry.setDescription(typed.description());
    clocks.store(
        act,
        FieldEvent.TIME_CORRECTED,
        entry,
        typed.spans(),
        hours().zone(),
        about(locked, typed.reason()));
    visits.touch(act, locked, locked.state());
  }

  /** Time that nobody clocked; gives the id of the entry. */
  public long addTime(Act act, @Nullable String key, long visitId, TimeForm form) {
    return repeats.once(
        act,
        key,
        "add time",
        visitId + " " + form,
        () -> {
          var locked = lockRecordable(act, visitId);
          TimeEntry.Kind kind = form.kind() == null ? TimeEntry.Kind.LABOUR : form.kind();
          TypedTime typed = read(act, locked, form, kind);
          TimeEntryRecord entry = clocks.newEntry(visitId, worker(locked, form.personId()), kind);
          entry.setMiles(typed.miles());
          entry.setDescription(typed.description());
          clocks.store(
              act,
              FieldEvent.TIME_ADDED,
              entry,
              typed.spans(),
              hours().zone(),
              about(locked, typed.reason()));
          visits.touch(act, locked, recorded(act, locked));
          return entry.getId();
        });
  }

  /** Whose added time it is; anybody who works in the field may have helped. */
  private long worker(VisitStore.Locked locked, @Nullable Long personId) {
    if (personId == null) {
      return locked.visit().getTechnicianId();
    }
    people.requireTechnician(personId);
    return personId;
  }

  public void removeTime(Act act, long entryId, int version, @Nullable String reason) {
    String why = readReason(reason);
    TimeEntryRecord entry = clocks.get(entryId);
    if (entry.getVisitId() == null) {
      daysTime.remove(act, entry, version, why);
      return;
    }
    var locked = lockCorrectable(entry.getVisitId());
    entry.refresh();
    Versions.require(version, entry.getVersion());
    entry.setRemovedAt(act.at());
    events.store(act, FieldEvent.TIME_REMOVED, entry, about(locked, why));
    visits.touch(act, locked, locked.state());
  }

  public void correctQuantity(Act act, long visitPartId, QuantityForm form) {
    var reading = new Reading();
    BigDecimal quantity = reading.required("quantity", form.quantity(), Reading::quantity);
    String why = reading.text("reason", form.reason(), LONGEST_REASON);
    reading.refuseIfFaulty();
    VisitPartRecord use = getUse(visitPartId);
    var locked = lockCorrectable(use.getVisitId());
    use.refresh();
    Versions.require(form.version(), use.getVersion());
    parts.change(act, locked, use, Objects.requireNonNull(quantity), Objects.requireNonNull(why));
    visits.touch(act, locked, locked.state());
  }

  /**
   * A part that nobody wrote down; gives the id of the use. On a planned visit the time comes
   * first: a part has no moment that would say that the visit has happened.
   */
  public long addPart(Act act, @Nullable String key, long visitId, FieldService.PartForm form) {
    return repeats.once(
        act,
        key,
        "add part",
        visitId + " " + form,
        () -> {
          BigDecimal quantity = FieldService.readQuantity(form);
          var locked = lockCorrectable(visitId);
          long id =
              parts.add(
                  act,
                  FieldEvent.PART_ADDED,
                  locked,
                  Objects.requireNonNull(form.partId()),
                  quantity);
          visits.touch(act, locked, locked.state());
          return id;
        });
  }

  public void removePart(Act act, long visitPartId, int version, @Nullable String reason) {
    String why = readReason(reason);
    VisitPartRecord use = getUse(visitPartId);
    var locked = lockCorrectable(use.getVisitId());
    use.refresh();
    Versions.require(version, use.getVersion());
    parts.remove(act, locked, use, why);
    visits.touch(act, locked, locked.state());
  }

  /** Takes a part out of the equipment's warranty, or back under it when the reason is empty. */
  public void excludeFromWarranty(Act act, long visitPartId, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.optionalText("reason", reason, LONGEST_REASON);
    reading.refuseIfFaulty();
    VisitPartRecord use = getUse(visitPartId);
    var locked = visits.lock(use.getVisitId());
    locked.lockedJob().requireUnbilled();
    use.refresh();
    Versions.require(version, use.getVersion());
    use.setWarrantyExclusion(why.isEmpty() ? null : why);
    events.store(
        act,
        why.isEmpty() ? FieldEvent.PART_UNDER_WARRANTY : FieldEvent.PART_NOT_UNDER_WARRANTY,
        use,
        about(locked, why));
    visits.follow(act, locked.job());
  }

  /** The office says: correct. The visit's time goes to work in progress at the rates in force. */
  public void check(Act act, long visitId, int version) {
    List<PersonDay> days = lockDays(visitId);
    var locked = lockShown(visitId, version);
    if (!(locked.state() instanceof VisitState.Finished finished)) {
      throw new Refused(
          Rule.VISIT_NOT_FINISHED,
          "Only a finished visit can be checked; this one is " + shownState(locked) + ".");
    }
    approve(act, locked);
    locked.visit().setCheckedAt(act.at());
    locked.visit().setCheckedBy(act.personId());
    visits.store(act, JobEvent.VISIT_CHECKED, locked, finished.check(), "");
    drivesHome.follow(act, days);
  }

  /**
   * Takes a check back as long as the job is not billed: its entry is reversed, and the visit can
   * be corrected again.
   */
  public void reopen(Act act, long visitId, int version) {
    List<PersonDay> days = lockDays(visitId);
    var locked = lockShown(visitId, version);
    if (!(locked.state() instanceof VisitState.Checked checked)) {
      throw new Refused(
          Rule.VISIT_NOT_CHECKED,
          "Only a checked visit can be reopened; this one is " + shownState(locked) + ".");
    }
    books
        .findUnreversed(BooksEvent.Code.TIME_APPROVED, "visit", visitId)
        .ifPresent(
            posted ->
                books.reverse(
                    act,
                    posted,
                    visits.source("visit", visitId, "check taken back", locked.job())));
    for (TimeEntryRecord entry : clocks.list(visitId)) {
      entry.setTimeCostMinor(null);
      entry.setDistanceCostMinor(null);
      events.store(act, JobEvent.TIME_COSTED, entry, about(locked, ""));
    }
    locked.visit().setCheckedAt(null);
    locked.visit().setCheckedBy(null);
    visits.store(act, JobEvent.VISIT_REOPENED, locked, checked.reopen(), "");
    drivesHome.follow(act, days);
  }

  /**
   * The visit did not happen; what it cost all the same is approved, and it makes no charge. A new
   * one is put in its place.
   */
  public void notThisTime(Act act, long visitId, int version, @Nullable String reason) {
    String why = readReason(reason);
    List<PersonDay> days = lockDays(visitId);
    var locked = drop(act, visitId, version, why);
    if (locked.state() instanceof VisitState.Droppable droppable) {
      visits.store(act, JobEvent.VISIT_NOT_THIS_TIME, locked, droppable.notThisTime(), why);
    }
    visits.want(act, locked.job().getId(), visitId, locked.visit().getExpectedMinutes());
    visits.follow(act, locked.job());
    drivesHome.follow(act, days);
  }

  /** The visit will not happen; what it cost all the same is approved, and it makes no charge. */
  public void callOff(Act act, long visitId, int version, @Nullable String reason) {
    String why = readReason(reason);
    List<PersonDay> days = lockDays(visitId);
    var locked = drop(act, visitId, version, why);
    if (locked.state() instanceof VisitState.Droppable droppable) {
      visits.store(act, JobEvent.VISIT_CALLED_OFF, locked, droppable.callOff(), why);
    }
    drivesHome.follow(act, days);
  }

  private List<PersonDay> lockDays(long visitId) {
    List<PersonDay> days = drivesHome.daysOf(visitId);
    drivesHome.lock(days);
    return days;
  }

  private VisitStore.Locked drop(Act act, long visitId, int version, String why) {
    var locked = lockShown(visitId, version);
    if (!(locked.state() instanceof VisitState.Droppable)
        || locked.state() instanceof VisitState.Unplanned) {
      throw new Refused(
          Rule.VISIT_NOT_TO_BE_DROPPED,
          "This visit is " + shownState(locked) + " and cannot be dropped.");
    }
    if (database.fetchExists(
        VISIT_PART, VISIT_PART.VISIT_ID.eq(visitId).and(VISIT_PART.REMOVED_AT.isNull()))) {
      throw new Refused(
          Rule.PARTS_ON_VISIT,
          "Parts are recorded on this visit. Remove them first, or check the visit.");
    }
    approve(act, locked);
    locked.visit().setReason(why);
    return locked;
  }

  private void approve(Act act, VisitStore.Locked locked) {
    long visitId = locked.visit().getId();
    if (!locked.running().isEmpty()) {
      throw new Refused(
          Rule.CLOCK_RUNNING,
          "A clock still runs on this visit. The technician has to stop it first.");
    }
    Company company = companies.getCompany();
    var costing = new Costing(company.terms());
    Money time = Money.ZERO;
    Money distance = Money.ZERO;
    for (TimeEntryRecord entry : clocks.list(visitId)) {
      TimeEntry.Cost cost = costing.cost(DriveHomeStore.fact(entry));
      entry.setTimeCostMinor(cost.time().minor());
      entry.setDistanceCostMinor(cost.distance().minor());
      time = time.plus(cost.time());
      distance = distance.plus(cost.distance());
      events.store(act, JobEvent.TIME_COSTED, entry, about(locked, ""));
    }
    books.post(
        act,
        new BooksEvent.TimeApproved(time, distance),
        visits.source("visit", visitId, "time approved", locked.job()));
  }

  private VisitStore.Locked lockShown(long visitId, int version) {
    var locked = visits.lock(visitId);
    Versions.require(version, locked.visit().getVersion());
    locked.lockedJob().requireUnbilled();
    return locked;
  }

  /** Also a visit whose day has come and on which nobody tapped anything. */
  private VisitStore.Locked lockRecordable(Act act, long visitId) {
    var locked = visits.lock(visitId);
    boolean takesRecords = locked.state().code().takesRecords(locked.visit().getDay(), act.today());
    return takesRecords ? requireUnbilled(locked) : requireCorrectable(locked);
  }

  /** What the office wrote down of a visit that nobody recorded makes it a finished one. */
  private static VisitState recorded(Act act, VisitStore.Locked locked) {
    if (locked.state() instanceof VisitState.Planned planned) {
      locked.visit().setFinishedAt(act.at());
      return planned.writeDown();
    }
    return locked.state();
  }

  private static VisitStore.Locked requireUnbilled(VisitStore.Locked locked) {
    locked.lockedJob().requireUnbilled();
    return locked;
  }

  private VisitStore.Locked lockCorrectable(long visitId) {
    return requireCorrectable(visits.lock(visitId));
  }

  private static VisitStore.Locked requireCorrectable(VisitStore.Locked locked) {
    locked.lockedJob().requireUnbilled();
    switch (locked.state()) {
      case VisitState.Finished finished -> {}
      case VisitState.OnSite onSite -> {}
      case VisitState.Driving driving -> {}
      case VisitState.Checked checked ->
          throw new Refused(
              Rule.VISIT_CHECKED, "This visit is checked. Reopen it first, then correct it.");
      default ->
          throw new Refused(
              Rule.VISIT_TAKES_NO_RECORDS,
              "Nothing can be recorded on a visit that is " + shownState(locked) + ".");
    }
    return locked;
  }

  private TypedTime read(Act act, VisitStore.Locked locked, TimeForm form, TimeEntry.Kind kind) {
    return TypedTime.read(act, form, kind, locked.visit().getDay(), hours());
  }

  private WorkingCalendar hours() {
    return companies.getCompany().calendar();
  }

  private static String readReason(@Nullable String typed) {
    var reading = new Reading();
    String reason = reading.text("reason", typed, LONGEST_REASON);
    reading.refuseIfFaulty();
    return Objects.requireNonNull(reason);
  }

  private VisitPartRecord getUse(long id) {
    VisitPartRecord use =
        database
            .selectFrom(VISIT_PART)
            .where(VISIT_PART.ID.eq(id).and(VISIT_PART.REMOVED_AT.isNull()))
            .fetchOne();
    if (use == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This part is not on the visit any more. Reload the sheet.");
    }
    return use;
  }

  private static String shownState(VisitStore.Locked locked) {
    return locked.visit().getState().code().replace('_', ' ');
  }

  private static About about(VisitStore.Locked locked, String reason) {
    return About.partOf(locked.job().getId()).why(reason);
  }
}
