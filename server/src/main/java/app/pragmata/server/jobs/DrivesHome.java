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
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
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
    lock(drives.listDrives(days).keySet(), visits.jobIds(visitIds).stream());
  }

  /** The same also where there is no drive yet, but will be. */
  public void lockAll(Collection<PersonDay> days) {
    lock(days, Stream.of());
  }

  private void lock(Collection<PersonDay> days, Stream<Long> furtherJobs) {
    List<Long> jobIds =
        Stream.concat(
                days.stream().flatMap(day -> drives.listVisits(day).stream()).map(DayVisit::jobId),
                furtherJobs)
            .distinct()
            .toList();
    if (!jobIds.isEmpty()) {
      visits.lockJobs(jobIds);
    }
  }

  /**
   * Brings the shares in line with what happened to the visits and drives of these days. It comes
   * last in a transaction, for it stores the jobs.
   */
  public void follow(Act act, Collection<PersonDay> days) {
    drives
        .listDrives(days)
        .forEach(
            (day, driven) -> {
              List<DayVisit> ofDay = drives.listVisits(day);
              driven.forEach(drive -> follow(act, drive, ofDay));
            });
  }

  private void follow(Act act, TimeEntryRecord drive, List<DayVisit> ofDay) {
    List<DriveHomeShareRecord> standing = drives.listStanding(drive.getId());
    TimeEntry fact = TimeEntries.fact(drive);
    TimeEntry.Cost cost = new Costing(companies.getCompany().terms()).cost(fact);
    List<DriveHome.Share> due = List.of();
    if (drive.getRemovedAt() == null && isDue(ofDay, !standing.isEmpty())) {
      due = DriveHome.share(fact, cost, stops(ofDay));
    }
    if (due.equals(standing.stream().map(DrivesHome::share).toList())) {
      return;
    }
    Map<Long, Long> jobIds =
        Stream.concat(
                ofDay.stream().map(visit -> Map.entry(visit.visitId(), visit.jobId())),
                standing.stream().map(share -> Map.entry(share.getVisitId(), jobOf(share))))
            .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue, (one, same) -> one));
    Map<Long, LockedJob> jobs = visits.lockJobs(jobIds.values());
    for (DriveHomeShareRecord share : standing) {
      takeBack(act, share, jobs.get(jobIds.get(share.getVisitId())));
    }
    for (DriveHome.Share share : due) {
      bear(act, drive, share, jobs.get(jobIds.get(share.visitId())));
    }
    if (drive.getRemovedAt() == null) {
      drive.setTimeCostMinor(due.isEmpty() ? null : cost.time().minor());
      drive.setDistanceCostMinor(due.isEmpty() ? null : cost.distance().minor());
      events.store(act, JobEvent.TIME_COSTED, drive);
    }
    jobs.values().forEach(job -> visits.touchJob(act, job));
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

  private long jobOf(DriveHomeShareRecord share) {
    return visits.getJobId(share.getVisitId());
  }

  private void bear(Act act, TimeEntryRecord drive, DriveHome.Share share, LockedJob job) {
    var row = new DriveHomeShareRecord();
    row.setTimeEntryId(drive.getId());
    row.setVisitId(share.visitId());
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
    insert(act, JobEvent.DRIVE_HOME_SHARED, row, job);
  }

  private void takeBack(Act act, DriveHomeShareRecord share, LockedJob job) {
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
    insert(act, JobEvent.DRIVE_HOME_TAKEN_BACK, row, job);
  }

  private void post(Act act, BooksEvent event, long driveId, String what, LockedJob job) {
    books.post(act, event, VisitStore.source(RecordKind.TIME_ENTRY, driveId, what, job));
  }

  private void insert(Act act, JobEvent event, DriveHomeShareRecord share, LockedJob job) {
    share.setSharedAt(act.at());
    share.setCostReleaseId(job.costReleaseId());
    drives.insert(share);
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
  }
}
