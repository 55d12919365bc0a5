package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_COMPANION;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.ForgottenClock;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.jobs.Clock;
import app.pragmata.server.jobs.ClockedWork;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.LinesDone;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.planning.PersonHours;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.LongPredicate;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * The clocks of technicians: one runs at a time for each, and starting one ends the one before. A
 * tap counts for whoever taps and for those of the crew who are named; one that was already taken
 * does nothing more, so a second tap is never an error.
 */
@Service
@Transactional
public class Clocks {
  /**
   * A clock on no visit.
   *
   * @param work of other paid time: what it is for, such as "Yard"
   */
  public record ClockForm(
      TimeEntry.@Nullable Kind kind,
      @Nullable String work,
      @Nullable List<Long> crewIds,
      @Nullable Instant tappedAt,
      @Nullable Instant sentAt,
      @Nullable PositionForm position) {
    StepForm step() {
      return new StepForm(null, null, null, crewIds, tappedAt, sentAt, position);
    }
  }

  /** What other paid time is for, at most. */
  static final int LONGEST_WORK = 40;

  private static final int LARGEST_CREW = 20;

  private final VisitStore visits;
  private final TimeEntries times;
  private final DrivesHome drivesHome;
  private final LinesDone lines;
  private final PersonHours hours;
  private final CompanyStore companies;
  private final TapPositions positions;
  private final RepeatableRequests repeats;
  private final DSLContext database;

  Clocks(
      VisitStore visits,
      TimeEntries times,
      DrivesHome drivesHome,
      LinesDone lines,
      PersonHours hours,
      CompanyStore companies,
      TapPositions positions,
      RepeatableRequests repeats,
      DSLContext database) {
    this.visits = visits;
    this.times = times;
    this.drivesHome = drivesHome;
    this.lines = lines;
    this.hours = hours;
    this.companies = companies;
    this.positions = positions;
    this.repeats = repeats;
    this.database = database;
  }

  /** Sets out to a visit. */
  public void drive(Act act, @Nullable String key, long visitId, StepForm form) {
    Instant moment = form.moment(act);
    onVisit(
        act,
        key,
        "drive",
        visitId,
        form,
        team -> {
          LockedVisit visit = team.visit(visitId);
          if (visit.state() instanceof VisitState.Planned planned) {
            startForAll(act, team, visit, ClockedWork.of(TimeEntry.Kind.DRIVE), moment);
            visit.begin(moment, act.zone());
            store(act, JobEvent.VISIT_UNDER_WAY, visit, planned.drive());
            return;
          }
          OwnVisit.requireBegun(visit);
          List<Long> setOut =
              team.people().stream().filter(person -> isToDrive(team, visit, person)).toList();
          setOut.forEach(
              person ->
                  start(act, team, visit, person, ClockedWork.of(TimeEntry.Kind.DRIVE), moment));
          if (!setOut.isEmpty()) {
            store(act, JobEvent.VISIT_UNDER_WAY, visit, visit.state());
          }
        });
  }

  /**
   * Whether somebody's drive to a visit that others have begun is still to come. Whoever is on site
   * by themselves, or has time on it, has driven already, and such a tap is late.
   */
  private static boolean isToDrive(Team team, LockedVisit visit, long personId) {
    if (team.clock(personId, visit.id()).isPresent()) {
      return false;
    }
    return visit.state() instanceof VisitState.Driving
        || !(visit.isResponsible(personId) || visit.isRecordedBy(personId));
  }

  /** Arrives, with or without a drive before. */
  public void arrive(Act act, @Nullable String key, long visitId, StepForm form) {
    BigDecimal miles = form.readMiles();
    Instant moment = form.moment(act);
    onVisit(
        act,
        key,
        "arrive",
        visitId,
        form,
        team -> {
          LockedVisit visit = team.visit(visitId);
          visit.job().noteResponse(moment);
          VisitState before = visit.state();
          switch (before) {
            case VisitState.Planned planned -> visit.begin(moment, act.zone());
            default -> OwnVisit.requireBegun(visit);
          }
          boolean ended =
              stop(act, team, form, miles, moment, clock -> isDriveTo(clock, visit, before));
          switch (before) {
            case VisitState.Planned planned ->
                store(act, JobEvent.VISIT_ARRIVED_AT, visit, planned.arrive());
            case VisitState.Driving driving ->
                store(act, JobEvent.VISIT_ARRIVED_AT, visit, driving.arrive());
            default -> {
              if (ended) {
                store(act, JobEvent.VISIT_ARRIVED_AT, visit, before);
              }
            }
          }
        });
  }

  /**
   * Whoever comes from a drive to no visit, such as one for parts, has ended that by being here.
   */
  private static boolean isDriveTo(Clock clock, LockedVisit visit, VisitState before) {
    return clock.kind() == TimeEntry.Kind.DRIVE
        && (clock.visitId() == null
            ? before instanceof VisitState.Planned
            : clock.visitId() == visit.id());
  }

  /**
   * Starts or goes on working, on a line of the promise where one is named; whoever works already
   * and names none goes on as they are.
   */
  public void startWork(Act act, @Nullable String key, long visitId, StepForm form) {
    Instant moment = form.moment(act);
    onVisit(
        act,
        key,
        "start work",
        visitId,
        form,
        team -> {
          LockedVisit visit = team.visit(visitId);
          OwnVisit.requireOnSite(visit);
          ClockedWork work =
              form.lineId() == null ? ClockedWork.LABOUR : lines.work(visit, form.lineId());
          if (startForAll(act, team, visit, work, moment)) {
            store(act, JobEvent.VISIT_STARTED, visit, visit.state());
          }
        });
  }

  /** Stops working without finishing. */
  public void pause(Act act, @Nullable String key, long visitId, StepForm form) {
    Instant moment = form.moment(act);
    onVisit(
        act,
        key,
        "pause",
        visitId,
        form,
        team -> {
          LockedVisit visit = team.visit(visitId);
          OwnVisit.requireOnSite(visit);
          if (stop(
              act,
              team,
              form,
              BigDecimal.ZERO,
              moment,
              clock ->
                  clock.kind() == TimeEntry.Kind.LABOUR
                      && Objects.equals(clock.visitId(), visitId))) {
            store(act, JobEvent.VISIT_PAUSED, visit, visit.state());
          }
        });
  }

  /** Starts a clock on no visit: a break, the drive home or to anywhere else, other paid time. */
  public void start(Act act, @Nullable String key, ClockForm form) {
    var reading = new Reading();
    String work = "";
    if (form.kind() == null) {
      reading.fault("kind", Rule.MISSING, "Say whether it is a break, a drive or other work.");
    } else if (form.kind() == TimeEntry.Kind.LABOUR) {
      work = Objects.requireNonNullElse(reading.text("work", form.work(), LONGEST_WORK), "");
    }
    reading.refuseIfFaulty();
    TimeEntry.Kind kind = Objects.requireNonNull(form.kind());
    String forWhat = work;
    Instant moment = form.step().moment(act);
    repeats.once(
        act,
        key,
        "start clock",
        kind + " " + work + " " + form.crewIds(),
        act.personId(),
        () -> {
          List<Long> people = people(act, form.crewIds());
          requireCrewOfToday(act, people);
          Team team = lock(people, List.of());
          for (long person : people) {
            boolean runs =
                team.clock(person, null)
                    .filter(clock -> clock.kind() == kind && clock.description().equals(forWhat))
                    .isPresent();
            if (!runs) {
              start(act, team, null, person, new ClockedWork(kind, forWhat, null), moment);
            }
          }
          drivesHome.follow(act, team.days());
          positions.note(act, form.position(), moment);
        });
  }

  /** Stops one's clock, on whatever it runs. */
  public void stop(Act act, @Nullable String key, StepForm form) {
    BigDecimal miles = form.readMiles();
    Instant moment = form.moment(act);
    repeats.once(
        act,
        key,
        "stop clock",
        form.miles() + " " + form.endedAt() + " " + form.crewIds(),
        act.personId(),
        () -> {
          List<Long> people = people(act, form.crewIds());
          requireCrewOfToday(act, people);
          Team team = lock(people, List.of());
          stop(act, team, form, miles, moment, clock -> true);
          for (LockedVisit visit : team.visits().values()) {
            store(act, JobEvent.VISIT_PAUSED, visit, visit.state());
          }
          drivesHome.follow(act, team.days());
          positions.note(act, form.position(), moment);
        });
  }

  private void onVisit(
      Act act,
      @Nullable String key,
      String step,
      long visitId,
      StepForm form,
      Consumer<Team> take) {
    repeats.once(
        act,
        key,
        step,
        visitId
            + " "
            + form.miles()
            + " "
            + form.endedAt()
            + " "
            + form.crewIds()
            + (form.lineId() == null ? "" : " line " + form.lineId()),
        visitId,
        () -> {
          List<Long> people = people(act, form.crewIds());
          Team team = lock(people, List.of(visitId));
          LockedVisit visit = OwnVisit.require(team.visit(visitId), act.personId());
          requireCrew(people, visit::isOfCrew);
          take.accept(team);
          drivesHome.follow(act, team.days());
          positions.note(act, form.position(), form.moment(act));
        });
  }

  private static List<Long> people(Act act, @Nullable List<Long> crewIds) {
    List<Long> others = crewIds == null ? List.of() : crewIds;
    if (others.size() > LARGEST_CREW || others.stream().anyMatch(Objects::isNull)) {
      throw notOfCrew();
    }
    // In one order, so that two taps at once wait for each other and not in a ring.
    return Stream.concat(Stream.of(act.personId()), others.stream()).distinct().sorted().toList();
  }

  private static void requireCrew(List<Long> people, LongPredicate isOfCrew) {
    if (!people.stream().allMatch(isOfCrew::test)) {
      throw notOfCrew();
    }
  }

  /** On no visit one taps for those with whom one shares a visit of the day. */
  private void requireCrewOfToday(Act act, List<Long> people) {
    if (people.size() > 1) {
      Set<Long> crew = crewOfDay(act.personId(), act.today());
      requireCrew(people, person -> person == act.personId() || crew.contains(person));
    }
  }

  /** With whom somebody shares a visit of a day. */
  Set<Long> crewOfDay(long personId, LocalDate day) {
    var own =
        select(VISIT.ID)
            .from(VISIT)
            .leftJoin(VISIT_COMPANION)
            .on(VISIT_COMPANION.VISIT_ID.eq(VISIT.ID))
            .where(VISIT.DAY.eq(day))
            .and(VISIT.TECHNICIAN_ID.eq(personId).or(VISIT_COMPANION.PERSON_ID.eq(personId)))
            .and(VISIT.STATE.notIn(VisitState.Code.DROPPED));
    return new HashSet<>(
        database
            .select(VISIT.TECHNICIAN_ID)
            .from(VISIT)
            .where(VISIT.ID.in(own).and(VISIT.TECHNICIAN_ID.ne(personId)))
            .union(
                select(VISIT_COMPANION.PERSON_ID)
                    .from(VISIT_COMPANION)
                    .where(VISIT_COMPANION.VISIT_ID.in(own))
                    .and(VISIT_COMPANION.PERSON_ID.ne(personId)))
            .fetch(0, Long.class));
  }

  private static Refused notOfCrew() {
    var reading = new Reading();
    reading.fault(
        "crewIds", Rule.WRONG_KIND, "Tap only for those who come along. Untick whoever does not.");
    return new Refused(reading.faults());
  }

  /** Locks visits and those on which a clock of these people runs, in one order. */
  private Team lock(List<Long> people, List<Long> visitIds) {
    Map<Long, Clock> read = times.listRunning(people);
    List<PersonDay> days =
        read.values().stream()
            .filter(clock -> clock.visitId() == null && clock.kind() == TimeEntry.Kind.DRIVE)
            .map(clock -> new PersonDay(clock.personId(), clock.day()))
            .distinct()
            .toList();
    List<Long> touched =
        Stream.concat(
                visitIds.stream(),
                read.values().stream().map(Clock::visitId).filter(Objects::nonNull))
            .distinct()
            .sorted()
            .toList();
    if (!days.isEmpty()) {
      drivesHome.lock(days, touched);
    }
    Map<Long, LockedVisit> locked =
        touched.isEmpty()
            ? Map.of()
            : visits.lockAll(touched).stream()
                .collect(Collectors.toMap(LockedVisit::id, Function.identity()));
    Map<Long, Clock> running = new HashMap<>();
    locked.values().stream()
        .flatMap(visit -> visit.running().stream())
        .filter(clock -> people.contains(clock.personId()))
        .forEach(clock -> running.put(clock.personId(), clock));
    if (read.values().stream().anyMatch(clock -> clock.visitId() == null)) {
      times.listRunning(people).forEach(running::putIfAbsent);
    }
    if (!ids(running).equals(ids(read))) {
      throw new Refused(
          Rule.OVERLAPPING_CLOCKS,
          "A clock was started or stopped at the same moment. Look which one runs, then tap again.");
    }
    return new Team(people, running, locked, days);
  }

  private static Set<Long> ids(Map<Long, Clock> clocks) {
    return clocks.values().stream().map(Clock::id).collect(Collectors.toSet());
  }

  /** Starts a clock on the visit for whoever has none for this on it; gives whether any was. */
  private boolean startForAll(
      Act act, Team team, LockedVisit visit, ClockedWork work, Instant moment) {
    List<Long> idle =
        team.people().stream()
            .filter(person -> team.clock(person, visit.id()).filter(work::isOn).isEmpty())
            .toList();
    idle.forEach(person -> start(act, team, visit, person, work, moment));
    return !idle.isEmpty();
  }

  /** Starts a clock and ends the one before it at the same moment. */
  private void start(
      Act act,
      Team team,
      @Nullable LockedVisit visit,
      long personId,
      ClockedWork work,
      Instant moment) {
    team.clock(personId)
        .ifPresent(
            before -> {
              ForgottenClock clock = ofEarlierDay(act, before, moment);
              requireSaid(act, clock, personId, moment);
              boolean inDoubt = clock.isInDoubt(work.kind(), visit == null ? null : visit.id());
              times.stop(
                  act,
                  before,
                  team.visitOf(before),
                  inDoubt ? TimeEntries.End.inDoubtAt(moment) : TimeEntries.End.at(moment),
                  BigDecimal.ZERO);
              LockedVisit left = team.visitOf(before);
              if (left != null && left != visit) {
                visits.touch(act, left, left.state());
              }
            });
    times.start(act, visit, personId, work, moment);
  }

  /** Stops those clocks of the team that match; gives whether any was. The miles are one's own. */
  private boolean stop(
      Act act, Team team, StepForm form, BigDecimal miles, Instant moment, Predicate<Clock> which) {
    List<Clock> clocks =
        team.people().stream()
            .flatMap(person -> team.clock(person).stream())
            .filter(which)
            .toList();
    for (Clock clock : clocks) {
      boolean driven = clock.personId() == act.personId() && clock.kind() == TimeEntry.Kind.DRIVE;
      times.stop(
          act,
          clock,
          team.visitOf(clock),
          endOf(act, clock, form.endedAt(), moment),
          driven ? miles : BigDecimal.ZERO);
    }
    return !clocks.isEmpty();
  }

  /**
   * When a clock ended: as it is typed, or when it was tapped.
   *
   * @throws Refused when it was forgotten on an earlier day and nobody says when it ended
   */
  TimeEntries.End endOf(Act act, Clock clock, @Nullable String endedAt, Instant moment) {
    var reading = new Reading();
    Instant typed =
        reading.optional("endedAt", endedAt, time -> TypedTime.moment(act, clock.day(), time));
    reading.refuseIfFaulty();
    if (typed == null) {
      requireSaid(act, ofEarlierDay(act, clock, moment), clock.personId(), moment);
      return TimeEntries.End.at(moment);
    }
    return new TimeEntries.End(typed, TimeEntries.second(moment), false);
  }

  /** A clock with the hours of its person, which are looked up only for one of an earlier day. */
  private ForgottenClock ofEarlierDay(Act act, Clock clock, Instant moment) {
    return clock.day().isBefore(act.dayOf(moment))
        ? forgotten(clock)
        : new ForgottenClock(clock.kind(), clock.visitId(), clock.startedAt(), null);
  }

  /** A clock with the hours of its person on the day on which it was started. */
  ForgottenClock forgotten(Clock clock) {
    return new ForgottenClock(
        clock.kind(),
        clock.visitId(),
        clock.startedAt(),
        hours.endOf(clock.personId(), clock.day()));
  }

  private void requireSaid(Act act, ForgottenClock clock, long personId, Instant moment) {
    if (clock.mustBeSaid(moment, companies.getZone())) {
      throw new Refused(
          Rule.CLOCK_FORGOTTEN,
          personId == act.personId()
              ? "Your clock has run since %s. Say first when you stopped."
                  .formatted(startOf(act, clock))
              : "A clock of your crew has run since %s. Untick whose it is: they say when they stopped."
                  .formatted(startOf(act, clock)));
    }
  }

  private static String startOf(Act act, ForgottenClock clock) {
    var local = clock.startedAt().atZone(act.zone());
    return "%s, %s".formatted(local.toLocalTime().withSecond(0), local.toLocalDate());
  }

  private void store(Act act, JobEvent event, LockedVisit visit, VisitState state) {
    visits.store(act, event, visit, state, "");
  }
}
