package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.LATE_ACT;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.when;

import app.pragmata.core.field.HoursWorked;
import app.pragmata.core.field.LateActState;
import app.pragmata.core.field.PocketStep;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.PocketVisit.Mate;
import app.pragmata.server.field.RunningClock.Clocked;
import app.pragmata.server.jobs.OwnHours;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.planning.PersonHours;
import app.pragmata.server.records.Act;
import app.pragmata.server.stores.Handovers;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** The technician's own day: no wage, cost, price or margin, and nobody else's visits. */
@RestController
class PocketApi {
  /**
   * The technician's day.
   *
   * @param clock the one that runs on no visit, or was forgotten on one; null for none
   * @param inDoubt times of whatever day of which it is to be said when they ended
   * @param offVisits what was done on no visit on this day, without what is on the clock
   * @param crew with whom a visit of the day is shared
   * @param otherWork what is paid for beside visits
   * @param later the stops of the next day that has any
   * @param lateActs what came in late and waits for the office, or was answered on this day
   * @param asked how many parts that others give or want wait for one's yes
   */
  record Day(
      LocalDate day,
      List<Stop> stops,
      List<Stop> later,
      @Nullable RunningClock clock,
      List<Weeks.WeekEntry> inDoubt,
      HoursWorked offVisits,
      List<Mate> crew,
      List<String> otherWork,
      List<OwnLateAct> lateActs,
      int asked) {}

  /**
   * What one tapped without a network and what the office could not take as it was.
   *
   * @param at when it was tapped, by the company's clock
   * @param customer whose visit; null for time on no visit
   * @param detail why it waits
   * @param reason why it does not count; empty for anything else
   */
  record OwnLateAct(
      long id,
      PocketStep step,
      LocalDateTime at,
      @Nullable String customer,
      LateActState state,
      String detail,
      String reason) {}

  /** What a phone carries along for when there is no network: visits of today and the next day. */
  record Carried(Day day, List<PocketVisit> visits) {}

  /**
   * A stop of the day, or one of an earlier day that is still running.
   *
   * @param running whether a clock of this person runs on it
   * @param unseenMessages how many messages of the office nobody on the job has seen
   */
  record Stop(
      long visitId,
      VisitState.Code state,
      LocalDate day,
      LocalTime start,
      int expectedMinutes,
      String customer,
      String site,
      String title,
      boolean running,
      int labourMinutes,
      int unseenMessages) {}

  private final DSLContext database;
  private final Clocks clocks;
  private final TimeEntries times;
  private final Weeks weeks;
  private final PersonHours hours;
  private final PocketVisits visits;
  private final CompanyStore companies;
  private final Handovers handovers;

  PocketApi(
      DSLContext database,
      Clocks clocks,
      TimeEntries times,
      Weeks weeks,
      PersonHours hours,
      PocketVisits visits,
      CompanyStore companies,
      Handovers handovers) {
    this.database = database;
    this.clocks = clocks;
    this.times = times;
    this.weeks = weeks;
    this.hours = hours;
    this.visits = visits;
    this.companies = companies;
    this.handovers = handovers;
  }

  @GetMapping("/api/pocket/day")
  Day getPocketDay(Act act) {
    Condition stillRunning =
        VISIT
            .STATE
            .in(VisitState.Code.DRIVING, VisitState.Code.ON_SITE)
            .and(VISIT.DAY.lt(act.today()));
    List<Weeks.WeekEntry> ofDay =
        weeks.list(act, List.of(act.personId()), act.today(), act.today()).stream()
            .filter(entry -> entry.visitId() == null)
            .toList();
    return new Day(
        act.today(),
        stops(act, VISIT.DAY.eq(act.today()).or(stillRunning)),
        stops(act, VISIT.DAY.eq(nextDay(act))),
        times.listRunning(List.of(act.personId())).values().stream()
            .map(
                clock ->
                    RunningClock.of(
                        act,
                        new Clocked(
                            clock.kind(),
                            clock.visitId(),
                            clock.description(),
                            clock.startedAt(),
                            clock.day()),
                        hours))
            .filter(clock -> clock.visitId() == null || clock.forgotten())
            .findFirst()
            .orElse(null),
        weeks.listOpen(act, act.personId()).stream().filter(Weeks.WeekEntry::inDoubt).toList(),
        Weeks.sum(ofDay).worked(),
        mates(clocks.crewOfDay(act.personId(), act.today())),
        companies.getCompany().otherWork().names(),
        lateActs(act),
        handovers.countAsked(act.personId()));
  }

  /** The next day on which one has a stop, by a statement of its own inside another. */
  private static Field<LocalDate> nextDay(Act act) {
    var next = VISIT.as("next");
    return field(
        select(min(next.DAY))
            .from(next)
            .where(next.DAY.gt(act.today()))
            .and(next.STATE.notIn(VisitState.Code.DROPPED))
            .and(OwnVisit.ofCrew(next, act.personId())));
  }

  private List<Stop> stops(Act act, Condition when) {
    return database
        .select(
            VISIT.ID,
            VISIT.STATE,
            VISIT.DAY,
            OwnHours.of(act.personId()),
            CUSTOMER.NAME,
            SITE.NAME.concat(", ").concat(SITE.ADDRESS),
            JOB.TITLE,
            OwnClocks.of(act),
            JobMessages.unseen())
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .where(OwnVisit.ofCrew(VISIT, act.personId()))
        .and(VISIT.STATE.notIn(VisitState.Code.DROPPED))
        .and(when)
        .orderBy(VISIT.DAY, VISIT.START_TIME, VISIT.ID)
        .fetch(
            row ->
                new Stop(
                    row.value1(),
                    row.value8().ownState(row.value2()),
                    row.value3(),
                    row.value4().start(),
                    row.value4().minutes(),
                    row.value5(),
                    row.value6(),
                    row.value7(),
                    row.value8().runningSince() != null,
                    row.value8().minutes(TimeEntry.Kind.LABOUR),
                    row.value9()));
  }

  private List<OwnLateAct> lateActs(Act act) {
    Instant midnight = act.today().atStartOfDay(act.zone()).toInstant();
    return database
        .select(
            LATE_ACT.ID,
            LATE_ACT.STEP,
            LATE_ACT.COUNTED_AT,
            CUSTOMER.NAME,
            LATE_ACT.STATE,
            LATE_ACT.DETAIL,
            LATE_ACT.REASON)
        .from(LATE_ACT)
        .leftJoin(VISIT)
        .on(VISIT.ID.eq(LATE_ACT.VISIT_ID))
        .leftJoin(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .leftJoin(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .where(LATE_ACT.PERSON_ID.eq(act.personId()))
        .and(LATE_ACT.STATE.eq(LateActState.WAITING).or(LATE_ACT.ANSWERED_AT.ge(midnight)))
        .orderBy(LATE_ACT.COUNTED_AT, LATE_ACT.ID)
        .fetch(
            row ->
                new OwnLateAct(
                    row.value1(),
                    row.value2(),
                    LocalDateTime.ofInstant(row.value3(), act.zone()),
                    row.value4(),
                    row.value5(),
                    row.value6(),
                    row.value7()));
  }

  /** All that a phone needs to go on without a network, today and on the next day of work. */
  @GetMapping("/api/pocket/carried")
  Carried getCarried(Act act) {
    Day day = getPocketDay(act);
    return new Carried(
        day,
        Stream.concat(day.stops().stream(), day.later().stream())
            .map(stop -> visits.get(act, stop.visitId()))
            .toList());
  }

  private List<Mate> mates(Set<Long> personIds) {
    return personIds.isEmpty()
        ? List.of()
        : database
            .select(PERSON.ID, PERSON.NAME)
            .from(PERSON)
            .where(PERSON.ID.in(personIds))
            .orderBy(PERSON.NAME)
            .fetch(row -> new Mate(row.value1(), row.value2(), null));
  }

  @GetMapping("/api/pocket/visits/{id}")
  PocketVisit getPocketVisit(Act act, @PathVariable long id) {
    return visits.get(act, id);
  }
}
