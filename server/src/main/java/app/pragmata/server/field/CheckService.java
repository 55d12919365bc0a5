package app.pragmata.server.field;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.PartsNow;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.customers.EquipmentService;
import app.pragmata.server.http.AskedSet;
import app.pragmata.server.jobs.Clock;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.PartsUsed;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.jobs.WrittenTime;
import app.pragmata.server.partswanted.PartsWanted;
import app.pragmata.server.people.PeopleStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import app.pragmata.server.rounds.RoundDates;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Stream;
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
   * none is named; a correction without one leaves whose it is, as does any of time on no visit.
   * "+1" behind a time means the next day. Without a rate class it is cut where the working hours
   * change.
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

  /**
   * Whether the warranty bears its share of a visit's labour or drive.
   *
   * @param reason why it does not; empty for that it does
   */
  public record WarrantyForm(int version, TimeEntry.@Nullable Kind kind, @Nullable String reason) {}

  /** A part's corrected quantity. */
  public record QuantityForm(int version, @Nullable String quantity, @Nullable String reason) {}

  private static final int LONGEST_REASON = 300;

  private final VisitStore visits;
  private final TimeEntries times;
  private final DaysTime daysTime;
  private final DrivesHome drivesHome;
  private final PartsUsed parts;
  private final PartsWanted wanted;
  private final RoundDates rounds;
  private final UnpricedParts unpriced;
  private final EquipmentService equipment;
  private final BooksStore books;
  private final CompanyStore companies;
  private final PeopleStore people;
  private final RepeatableRequests repeats;

  CheckService(
      VisitStore visits,
      TimeEntries times,
      DaysTime daysTime,
      DrivesHome drivesHome,
      PartsUsed parts,
      PartsWanted wanted,
      RoundDates rounds,
      UnpricedParts unpriced,
      EquipmentService equipment,
      BooksStore books,
      CompanyStore companies,
      PeopleStore people,
      RepeatableRequests repeats) {
    this.visits = visits;
    this.times = times;
    this.daysTime = daysTime;
    this.drivesHome = drivesHome;
    this.parts = parts;
    this.wanted = wanted;
    this.rounds = rounds;
    this.unpriced = unpriced;
    this.equipment = equipment;
    this.books = books;
    this.companies = companies;
    this.people = people;
    this.repeats = repeats;
  }

  public void correctTime(Act act, long entryId, TimeForm form) {
    Clock read = times.get(entryId);
    if (read.visitId() == null) {
      daysTime.correct(act, entryId, form);
      return;
    }
    long personId = Objects.requireNonNullElse(form.personId(), read.personId());
    if (personId != read.personId()) {
      people.requireTechnician(personId);
    }
    List<PersonDay> days =
        Stream.concat(
                drivesHome.daysOf(List.of(read.visitId())).stream(),
                Stream.of(new PersonDay(personId, read.day())))
            .distinct()
            .toList();
    drivesHome.lock(days, List.of(read.visitId()));
    LockedVisit visit = lockCorrectable(read.visitId());
    Clock entry = times.get(entryId);
    Versions.require(form.version(), entry.version());
    WrittenTime time = read(act, visit, form, entry.kind());
    takeLateTimeBack(act, visit, entry);
    times.correct(act, entry, visit, personId, time);
    finishRecording(act, visit, visit.state(), days);
  }

  /** Nobody is on a visit while on a break. */
  static void refuseBreak(TimeEntry.Kind kind) {
    if (kind == TimeEntry.Kind.BREAK) {
      var reading = new Reading();
      reading.fault("kind", Rule.WRONG_KIND, "A break is of no visit. Write it down on the day.");
      reading.refuseIfFaulty();
    }
  }

  /** Time that nobody clocked; gives the id of the entry. */
  public long addTime(Act act, @Nullable String key, long visitId, TimeForm form) {
    return repeats.once(
        act,
        key,
        "add time",
        visitId + " " + form,
        () -> {
          List<PersonDay> days = lockDays(visitId);
          LockedVisit visit = lockRecordable(act, visitId);
          TimeEntry.Kind kind = form.kind() == null ? TimeEntry.Kind.LABOUR : form.kind();
          refuseBreak(kind);
          WrittenTime time = read(act, visit, form, kind);
          return add(act, visit, worker(visit, form.personId()), kind, time, days);
        });
  }

  /** The same within an act of its own, of somebody who works in the field. */
  void addTime(Act act, long visitId, long personId, TimeEntry.Kind kind, WrittenTime time) {
    people.requireTechnician(personId);
    List<PersonDay> days = lockDays(visitId);
    add(act, lockRecordable(act, visitId), personId, kind, time, days);
  }

  private long add(
      Act act,
      LockedVisit visit,
      long personId,
      TimeEntry.Kind kind,
      WrittenTime time,
      List<PersonDay> days) {
    long id = times.add(act, visit, personId, kind, time);
    finishRecording(act, visit, recorded(act, visit), days);
    return id;
  }

  /** Time that comes after the closing document needs no check: it is cost at once. */
  private void finishRecording(Act act, LockedVisit visit, VisitState state, List<PersonDay> days) {
    if (visit.isBilled()) {
      books.post(
          act,
          times.approve(act, List.of(visit)).getFirst(),
          VisitStore.source(RecordKind.VISIT, visit.id(), "late time", visit.job()));
    }
    visits.touch(act, visit, state);
    drivesHome.follow(act, days);
  }

  private void takeLateTimeBack(Act act, LockedVisit visit, Clock entry) {
    if (visit.isBilled()) {
      books.post(
          act,
          new BooksEvent.TimeTakenBack(times.disapprove(act, visit, entry)),
          VisitStore.source(RecordKind.VISIT, visit.id(), "time taken back", visit.job()));
    }
  }

  /** Whose added time it is; anybody who works in the field may have helped. */
  private long worker(LockedVisit locked, @Nullable Long personId) {
    if (personId == null) {
      return Objects.requireNonNull(locked.technicianId());
    }
    people.requireTechnician(personId);
    return personId;
  }

  public void removeTime(Act act, long entryId, int version, @Nullable String reason) {
    String why = readReason(reason);
    Clock read = times.get(entryId);
    if (read.visitId() == null) {
      daysTime.remove(act, entryId, version, why);
      return;
    }
    List<PersonDay> days = lockDays(read.visitId());
    LockedVisit visit = lockCorrectable(read.visitId());
    Clock entry = times.get(entryId);
    Versions.require(version, entry.version());
    takeLateTimeBack(act, visit, entry);
    times.remove(act, entry, visit, why);
    finishRecording(act, visit, visit.state(), days);
  }

  public void correctQuantity(Act act, long visitPartId, QuantityForm form) {
    var reading = new Reading();
    BigDecimal quantity = reading.required("quantity", form.quantity(), Reading::quantity);
    String why = reading.text("reason", form.reason(), LONGEST_REASON);
    reading.refuseIfFaulty();
    LockedVisit locked = lockCorrectable(parts.get(visitPartId).visitId());
    PartsUsed.Use use = parts.get(visitPartId);
    Versions.require(form.version(), use.version());
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
          return addPart(act, visitId, Objects.requireNonNull(form.partId()), quantity);
        });
  }

  /** The same within an act of its own. */
  long addPart(Act act, long visitId, long partId, BigDecimal quantity) {
    LockedVisit locked = lockCorrectable(visitId);
    long id = parts.add(act, JobEvent.PART_ADDED, locked, partId, quantity);
    wanted.noteUse(act, locked.job(), partId, quantity, id);
    visits.touch(act, locked, locked.state());
    return id;
  }

  public void removePart(Act act, long visitPartId, int version, @Nullable String reason) {
    String why = readReason(reason);
    LockedVisit locked = lockCorrectable(parts.get(visitPartId).visitId());
    PartsUsed.Use use = parts.get(visitPartId);
    Versions.require(version, use.version());
    parts.remove(act, locked, use, why);
    wanted.noteRemoval(act, locked.job(), visitPartId);
    visits.touch(act, locked, locked.state());
  }

  /**
   * Takes a visit's labour or drive out of the equipment's warranty, or back under it when the
   * reason is empty.
   */
  public void excludeFromWarranty(Act act, long visitId, WarrantyForm form) {
    var reading = new Reading();
    String why = reading.optionalText("reason", form.reason(), LONGEST_REASON);
    if (form.kind() == null || form.kind() == TimeEntry.Kind.BREAK) {
      reading.fault("kind", Rule.MISSING, "Say whether it is about the labour or the drive.");
    }
    reading.refuseIfFaulty();
    LockedVisit locked = visits.lock(visitId);
    Versions.require(form.version(), locked.version());
    locked.job().requireUnbilled();
    locked.excludeFromWarranty(Objects.requireNonNull(form.kind()), why.isEmpty() ? null : why);
    visits.store(act, JobEvent.VISIT_WARRANTY_CHANGED, locked, locked.state(), why);
  }

  /** Takes a part out of the equipment's warranty, or back under it when the reason is empty. */
  public void excludeFromWarranty(Act act, long visitPartId, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.optionalText("reason", reason, LONGEST_REASON);
    reading.refuseIfFaulty();
    LockedVisit locked = visits.lock(parts.get(visitPartId).visitId());
    locked.job().requireUnbilled();
    PartsUsed.Use use = parts.get(visitPartId);
    Versions.require(version, use.version());
    parts.excludeFromWarranty(act, locked, use, why);
    visits.follow(act, locked.job());
  }

  /**
   * Puts a part that a visit fitted on record as equipment, with the warranty that comes with the
   * part; gives its id.
   */
  public long putOnRecord(
      Act act, @Nullable String key, long visitPartId, @Nullable String serialNumber) {
    return repeats.once(
        act,
        key,
        "part on record",
        visitPartId + " " + serialNumber,
        () -> equipment.putOnRecord(act, parts.lockFitted(visitPartId), serialNumber));
  }

  /** A visit as it was shown to whoever checks it. */
  public record Shown(long visitId, int version) {}

  /** The office says: correct. The visit's time goes to work in progress at the rates in force. */
  public void check(Act act, long visitId, int version) {
    checkAll(act, List.of(new Shown(visitId, version)));
  }

  /** The same for a list as it was sent, all or none; gives them as they are then. */
  public List<Shown> checkList(Act act, @Nullable String key, @Nullable List<Shown> asked) {
    List<Shown> shown = AskedSet.read("visits", asked, Shown::visitId, "visit", "check");
    repeats.once(
        act, key, "check visits", shown, shown.getFirst().visitId(), () -> checkAll(act, shown));
    return asTheyAre(shown);
  }

  /** Takes the checks of a list back, all or none; gives the visits as they are then. */
  public List<Shown> reopenList(Act act, @Nullable String key, @Nullable List<Shown> asked) {
    List<Shown> shown = AskedSet.read("visits", asked, Shown::visitId, "visit", "take back");
    repeats.once(
        act,
        key,
        "take checks back",
        shown,
        shown.getFirst().visitId(),
        () -> reopenAll(act, shown));
    return asTheyAre(shown);
  }

  private List<Shown> asTheyAre(List<Shown> shown) {
    Map<Long, Integer> versions = visits.versions(shown.stream().map(Shown::visitId).toList());
    return shown.stream()
        .map(visit -> new Shown(visit.visitId(), versions.get(visit.visitId())))
        .toList();
  }

  private void checkAll(Act act, List<Shown> shown) {
    List<Long> ids = shown.stream().map(Shown::visitId).toList();
    List<PersonDay> days = drivesHome.daysOf(ids);
    drivesHome.lock(days, ids);
    List<LockedVisit> locked = visits.lockAll(ids);
    unpriced.refuse(ids);
    for (int i = 0; i < locked.size(); i++) {
      requireToCheck(locked.get(i), shown.get(i).version());
    }
    approve(act, locked);
    for (LockedVisit visit : locked) {
      if (visit.state() instanceof VisitState.Finished finished) {
        visit.check(finished, act.at(), act.personId());
      }
    }
    visits.storeAll(act, JobEvent.VISIT_CHECKED, locked);
    drivesHome.follow(act, days);
  }

  private static void requireToCheck(LockedVisit visit, int version) {
    Versions.require(version, visit.version());
    visit.job().requireUnbilled();
    if (!(visit.state() instanceof VisitState.Finished)) {
      throw new Refused(
          Rule.VISIT_NOT_FINISHED,
          "Only a finished visit can be checked; this one of job %d is %s."
              .formatted(visit.job().number(), shownState(visit)));
    }
    VisitOutcome outcome = visit.outcome();
    if (outcome != null && !outcome.takesWork() && !visit.isWorked()) {
      throw new Refused(
          Rule.VISIT_NOT_DONE,
          "Nothing was done on this visit of job %d. Say that it was not this time, so that somebody goes again, or call it off."
              .formatted(visit.job().number()));
    }
  }

  /**
   * Takes a check back as long as the job is not billed: its entry is reversed, and the visit can
   * be corrected again.
   */
  public void reopen(Act act, long visitId, int version) {
    reopenAll(act, List.of(new Shown(visitId, version)));
  }

  private void reopenAll(Act act, List<Shown> shown) {
    List<Long> ids = shown.stream().map(Shown::visitId).toList();
    List<PersonDay> days = drivesHome.daysOf(ids);
    drivesHome.lock(days, ids);
    List<LockedVisit> locked = visits.lockAll(ids);
    for (int i = 0; i < locked.size(); i++) {
      Versions.require(shown.get(i).version(), locked.get(i).version());
      takeCheckBack(act, locked.get(i));
    }
    drivesHome.follow(act, days);
  }

  /** Takes the check of a visit back that is not billed, so that more is recorded on it. */
  void openAgain(Act act, long visitId) {
    List<PersonDay> days = lockDays(visitId);
    LockedVisit locked = visits.lock(visitId);
    if (locked.state() instanceof VisitState.Checked && !locked.isBilled()) {
      takeCheckBack(act, locked);
      drivesHome.follow(act, days);
    }
  }

  private void takeCheckBack(Act act, LockedVisit locked) {
    if (!(locked.state() instanceof VisitState.Checked checked)) {
      throw new Refused(
          Rule.VISIT_NOT_CHECKED,
          "Only a checked visit can be reopened; this one is " + shownState(locked) + ".");
    }
    if (locked.isBilled()) {
      throw new Refused(
          Rule.VISIT_BILLED,
          "An invoice has charged this visit. Take the work back by a credit note first.");
    }
    books.reverse(
        act,
        times.disapprove(act, locked),
        VisitStore.source(RecordKind.VISIT, locked.id(), "check taken back", locked.job()));
    locked.uncheck();
    visits.store(act, JobEvent.VISIT_REOPENED, locked, checked.reopen(), "");
  }

  /**
   * The visit did not happen; what it cost all the same is approved, and it makes no charge. A new
   * one is put in its place, but where nothing else was to happen for a day of a round: that one
   * goes on to its next day.
   *
   * @param parts where those are that were recorded on it; of no meaning where there are none
   */
  public void notThisTime(
      Act act, long visitId, int version, @Nullable String reason, @Nullable PartsNow parts) {
    String why = readReason(reason);
    List<PersonDay> days = lockDays(visitId);
    var locked = drop(act, visitId, version, why, parts);
    if (locked.state() instanceof VisitState.Droppable droppable) {
      visits.store(act, JobEvent.VISIT_NOT_THIS_TIME, locked, droppable.notThisTime(), why);
    }
    visits.follow(act, locked.job());
    if (!rounds.goOn(act, locked.job(), why)) {
      visits.wantAgain(act, locked);
      visits.follow(act, locked.job());
    }
    wanted.noteVisitOver(act, locked.job());
    drivesHome.follow(act, days);
  }

  /**
   * The visit will not happen; what it cost all the same is approved, and it makes no charge.
   *
   * @param others planned visits of the same job that go with it, each as it was shown; null for
   *     none
   * @param parts where those are that were recorded on any of them; of no meaning where there are
   *     none
   */
  public void callOff(
      Act act,
      long visitId,
      int version,
      @Nullable String reason,
      @Nullable List<Shown> others,
      @Nullable PartsNow parts) {
    String why = readReason(reason);
    List<Shown> further =
        others == null || others.isEmpty()
            ? List.of()
            : AskedSet.read("others", others, Shown::visitId, "visit", "call off");
    List<Long> ids =
        Stream.concat(Stream.of(visitId), further.stream().map(Shown::visitId)).distinct().toList();
    List<PersonDay> days = drivesHome.daysOf(ids);
    drivesHome.lock(days, ids);
    LockedVisit first = drop(act, visitId, version, why, parts);
    storeCalledOff(act, first, why);
    for (Shown other : further) {
      if (other.visitId() != visitId) {
        requirePlannedBeside(first, visits.lock(other.visitId()));
        storeCalledOff(act, drop(act, other.visitId(), other.version(), why, parts), why);
      }
    }
    drivesHome.follow(act, days);
  }

  private void storeCalledOff(Act act, LockedVisit visit, String why) {
    if (visit.state() instanceof VisitState.Droppable droppable) {
      visits.store(act, JobEvent.VISIT_CALLED_OFF, visit, droppable.callOff(), why);
    }
  }

  private static void requirePlannedBeside(LockedVisit first, LockedVisit other) {
    if (other.job().id() != first.job().id() || !(other.state() instanceof VisitState.Planned)) {
      throw new Refused(
          Rule.VISIT_NOT_TO_BE_DROPPED,
          "Only planned visits of the same job go with it. Reload the page and choose again.");
    }
  }

  private List<PersonDay> lockDays(long visitId) {
    List<PersonDay> days = drivesHome.daysOf(List.of(visitId));
    drivesHome.lock(days, List.of(visitId));
    return days;
  }

  private LockedVisit drop(
      Act act, long visitId, int version, String why, @Nullable PartsNow partsNow) {
    var locked = lockShown(visitId, version);
    if (!(locked.state() instanceof VisitState.Droppable)
        || locked.state() instanceof VisitState.Unplanned) {
      throw new Refused(
          Rule.VISIT_NOT_TO_BE_DROPPED,
          "This visit is " + shownState(locked) + " and cannot be dropped.");
    }
    leaveParts(act, locked, why, partsNow);
    approve(act, List.of(locked));
    locked.giveReason(why);
    return locked;
  }

  private void leaveParts(Act act, LockedVisit visit, String why, @Nullable PartsNow partsNow) {
    List<PartsUsed.Use> used = parts.listOn(visit);
    if (used.isEmpty()) {
      return;
    }
    if (partsNow == null) {
      throw new Refused(
          List.of(
              new Fault(
                  "parts",
                  Rule.PARTS_ON_VISIT,
                  "Parts are recorded on this visit. Say where they are: back in the van, or did they stay there?")));
    }
    if (partsNow == PartsNow.BACK_IN_THE_VAN) {
      for (PartsUsed.Use use : used) {
        parts.remove(act, visit, use, why);
        wanted.noteRemoval(act, visit.job(), use.id());
      }
    }
  }

  private void approve(Act act, List<LockedVisit> locked) {
    if (locked.stream().anyMatch(visit -> !visit.running().isEmpty())) {
      throw new Refused(
          Rule.CLOCK_RUNNING,
          "A clock still runs on this visit. The technician has to stop it first.");
    }
    List<BooksEvent.TimeApproved> approved = times.approve(act, locked);
    var entries = new ArrayList<BooksStore.Dated>();
    for (int i = 0; i < locked.size(); i++) {
      LockedVisit visit = locked.get(i);
      entries.add(
          new BooksStore.Dated(
              approved.get(i),
              VisitStore.source(RecordKind.VISIT, visit.id(), "time approved", visit.job()),
              act.today()));
    }
    books.post(act, entries);
  }

  private LockedVisit lockShown(long visitId, int version) {
    var locked = visits.lock(visitId);
    Versions.require(version, locked.version());
    locked.job().requireUnbilled();
    return locked;
  }

  /** Also a visit whose day has come and on which nobody tapped anything. */
  private LockedVisit lockRecordable(Act act, long visitId) {
    var locked = visits.lock(visitId);
    boolean takesRecords = locked.state().code().takesRecords(locked.day(), act.today());
    return takesRecords && !locked.isBilled() ? locked : requireCorrectable(locked);
  }

  /** What the office wrote down of a visit that nobody recorded makes it a finished one. */
  private static VisitState recorded(Act act, LockedVisit locked) {
    if (locked.state() instanceof VisitState.Planned planned) {
      locked.finish(act.at());
      return planned.writeDown();
    }
    return locked.state();
  }

  private LockedVisit lockCorrectable(long visitId) {
    return requireCorrectable(visits.lock(visitId));
  }

  /**
   * A visit that is not checked yet, or one that is billed and was somebody's: what it costs late
   * goes where the closing document brought the cost, or waits for the next bill.
   */
  private static LockedVisit requireCorrectable(LockedVisit locked) {
    if (locked.isBilled() && locked.technicianId() != null) {
      return locked;
    }
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

  private WrittenTime read(Act act, LockedVisit locked, TimeForm form, TimeEntry.Kind kind) {
    return TypedTime.read(
        act, form, kind, Objects.requireNonNull(locked.day()), companies.getCompany().calendar());
  }

  private static String readReason(@Nullable String typed) {
    var reading = new Reading();
    String reason = reading.text("reason", typed, LONGEST_REASON);
    reading.refuseIfFaulty();
    return Objects.requireNonNull(reason);
  }

  private static String shownState(LockedVisit locked) {
    return locked.state().code().code().replace('_', ' ');
  }
}
