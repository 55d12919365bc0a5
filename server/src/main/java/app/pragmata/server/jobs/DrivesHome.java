package app.pragmata.server.jobs;

import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.DriveHome;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.DriveHomeShareRecord;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.jobs.DriveHomeStore.DayVisit;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RecordKind;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/**
 * Shares the drives of a person's day that led to no visit over the visits of that day, once all of
 * them are checked, and takes the shares back when a check is.
 */
@Component
public class DrivesHome {
  private final DriveHomeStore drives;
  private final VisitStore visits;
  private final BooksStore books;
  private final CompanyStore companies;
  private final Events events;

  DrivesHome(
      DriveHomeStore drives,
      VisitStore visits,
      BooksStore books,
      CompanyStore companies,
      Events events) {
    this.drives = drives;
    this.visits = visits;
    this.books = books;
    this.companies = companies;
    this.events = events;
  }

  /** The days whose drives visits may bear a share of. */
  public List<PersonDay> daysOf(Collection<Long> visitIds) {
    return drives.listDays(visitIds);
  }

  /**
   * Locks the jobs that may bear a share, and those of the visits, all in one order; to be called
   * before any of them is locked by itself.
   */
  public void lock(Collection<PersonDay> days, Collection<Long> visitIds) {
    lock(drives.listDrives(days).keySet(), visits.jobsOfVisits(visitIds).values().stream());
  }

  /** The same also where there is no drive yet, but will be. */
  public void lockAll(Collection<PersonDay> days) {
    lock(days, Stream.of());
  }

  private void lock(Collection<PersonDay> days, Stream<Long> furtherJobs) {
    List<Long> jobIds =
        Stream.concat(
                drives.listVisits(days).values().stream()
                    .flatMap(List::stream)
                    .map(DayVisit::jobId),
                furtherJobs)
            .distinct()
            .toList();
    if (!jobIds.isEmpty()) {
      visits.lockJobs(jobIds);
    }
  }

  /** A drive whose shares are others than before. */
  private record Change(
      TimeEntryRecord drive,
      TimeEntry.Cost cost,
      List<DriveHomeShareRecord> standing,
      List<DriveHome.Share> due) {}

  /**
   * Brings the shares in line with what happened to the visits and drives of these days, in the
   * same few statements for any number. It comes last in a transaction, for it stores the jobs.
   */
  public void follow(Act act, Collection<PersonDay> days) {
    Map<PersonDay, List<TimeEntryRecord>> driven = drives.listDrives(days);
    if (driven.isEmpty()) {
      return;
    }
    Map<PersonDay, List<DayVisit>> visitsOf = drives.listVisits(driven.keySet());
    Map<Long, List<DriveHomeShareRecord>> standing =
        drives.listStanding(
            driven.values().stream().flatMap(List::stream).map(TimeEntryRecord::getId).toList());
    var changes = new ArrayList<Change>();
    var affected = new HashSet<Long>();
    driven.forEach(
        (day, ofPerson) -> {
          List<DayVisit> ofDay = visitsOf.getOrDefault(day, List.of());
          for (TimeEntryRecord drive : ofPerson) {
            Change change = change(drive, ofDay, standing.getOrDefault(drive.getId(), List.of()));
            if (!change.due().equals(change.standing().stream().map(DrivesHome::share).toList())) {
              changes.add(change);
              ofDay.forEach(visit -> affected.add(visit.visitId()));
              change.standing().forEach(share -> affected.add(share.getVisitId()));
            }
          }
        });
    if (!changes.isEmpty()) {
      store(act, changes, affected);
    }
  }

  private Change change(
      TimeEntryRecord drive, List<DayVisit> ofDay, List<DriveHomeShareRecord> standing) {
    TimeEntry fact = TimeEntries.fact(drive);
    TimeEntry.Cost cost = new Costing(companies.getCompany().terms()).cost(fact);
    List<DriveHome.Share> due =
        drive.getRemovedAt() == null && isDue(ofDay, !standing.isEmpty())
            ? DriveHome.share(fact, cost, stops(ofDay))
            : List.of();
    return new Change(drive, cost, standing, due);
  }

  private void store(Act act, List<Change> changes, Set<Long> visitIds) {
    Map<Long, Long> jobIds = visits.jobsOfVisits(visitIds);
    Map<Long, LockedJob> jobs = visits.lockJobs(jobIds.values());
    Function<Long, LockedJob> jobOf =
        visitId -> Objects.requireNonNull(jobs.get(jobIds.get(visitId)));
    var shares = new ArrayList<DriveHomeShareRecord>();
    for (Change change : changes) {
      for (DriveHomeShareRecord share : change.standing()) {
        shares.add(takeBack(act, share, jobOf.apply(share.getVisitId())));
      }
      for (DriveHome.Share share : change.due()) {
        shares.add(bear(act, change.drive(), share, jobOf.apply(share.visitId())));
      }
      if (change.drive().getRemovedAt() == null) {
        boolean borne = !change.due().isEmpty();
        change.drive().setTimeCostMinor(borne ? change.cost().time().minor() : null);
        change.drive().setDistanceCostMinor(borne ? change.cost().distance().minor() : null);
      }
    }
    drives.insert(shares);
    events.updateAll(
        act,
        JobEvent.TIME_COSTED,
        changes.stream().map(Change::drive).filter(drive -> drive.getRemovedAt() == null).toList());
    visits.touchJobs(act, jobs.values());
  }

  /** A visit that is still to come is waited for, but it undoes nothing. */
  private static boolean isDue(List<DayVisit> ofDay, boolean sharedBefore) {
    List<DayVisit> open = ofDay.stream().filter(visit -> !visit.over()).toList();
    boolean recorded = ofDay.stream().anyMatch(DayVisit::recorded);
    boolean recordedAndOpen = open.stream().anyMatch(DayVisit::recorded);
    return recorded && !recordedAndOpen && (open.isEmpty() || sharedBefore);
  }

  private static List<DriveHome.Stop> stops(List<DayVisit> ofDay) {
    return ofDay.stream()
        .filter(DayVisit::recorded)
        .map(visit -> new DriveHome.Stop(visit.visitId(), visit.minutesOnSite()))
        .toList();
  }

  private static DriveHome.Share share(DriveHomeShareRecord row) {
    return new DriveHome.Share(
        row.getVisitId(),
        row.getMinutes(),
        row.getMiles(),
        new TimeEntry.Cost(
            Money.ofMinor(row.getTimeCostMinor()), Money.ofMinor(row.getDistanceCostMinor())));
  }

  private DriveHomeShareRecord bear(
      Act act, TimeEntryRecord drive, DriveHome.Share share, LockedJob job) {
    var row = new DriveHomeShareRecord();
    row.setTimeEntryId(drive.getId());
    row.setVisitId(share.visitId());
    row.setTakesBackId(null);
    row.setMinutes(share.minutes());
    row.setMiles(share.miles());
    row.setTimeCostMinor(share.cost().time().minor());
    row.setDistanceCostMinor(share.cost().distance().minor());
    post(
        act,
        new BooksEvent.DriveHomeShared(
            job.costObject(), job.costPlace(), share.cost().time(), share.cost().distance()),
        drive.getId(),
        "drive home, its share",
        job);
    return told(act, JobEvent.DRIVE_HOME_SHARED, row, job);
  }

  private DriveHomeShareRecord takeBack(Act act, DriveHomeShareRecord share, LockedJob job) {
    var row = new DriveHomeShareRecord();
    row.setTimeEntryId(share.getTimeEntryId());
    row.setVisitId(share.getVisitId());
    row.setTakesBackId(share.getId());
    row.setMinutes(-share.getMinutes());
    row.setMiles(share.getMiles().negate());
    row.setTimeCostMinor(-share.getTimeCostMinor());
    row.setDistanceCostMinor(-share.getDistanceCostMinor());
    post(
        act,
        new BooksEvent.DriveHomeTakenBack(
            job.costObject(),
            job.costPlace(),
            Money.ofMinor(share.getTimeCostMinor()),
            Money.ofMinor(share.getDistanceCostMinor())),
        share.getTimeEntryId(),
        "drive home, its share taken back",
        job);
    return told(act, JobEvent.DRIVE_HOME_TAKEN_BACK, row, job);
  }

  private void post(Act act, BooksEvent event, long driveId, String what, LockedJob job) {
    books.post(act, event, VisitStore.source(RecordKind.TIME_ENTRY, driveId, what, job));
  }

  private DriveHomeShareRecord told(
      Act act, JobEvent event, DriveHomeShareRecord share, LockedJob job) {
    share.setSharedAt(act.at());
    share.setCostReleaseId(job.costReleaseId());
    events.tell(
        act,
        event,
        share.getTimeEntryId(),
        About.partOf(job.id())
            .with(
                Map.of(),
                Map.of(
                    "minutes", share.getMinutes(),
                    "miles", share.getMiles(),
                    "timeCostMinor", share.getTimeCostMinor(),
                    "distanceCostMinor", share.getDistanceCostMinor())));
    return share;
  }
}
