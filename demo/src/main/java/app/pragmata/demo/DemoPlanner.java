package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.ABSENCE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.PERSON_DISTRICT;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.company.Priority;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.people.Role;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.Districts;
import app.pragmata.core.planning.TellBy;
import app.pragmata.server.generated.tables.records.VisitRecord;
import app.pragmata.server.planning.PlanningService;
import app.pragmata.server.planning.PlanningService.PlanForm;
import app.pragmata.server.records.Act;
import java.time.Duration;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record1;
import org.jooq.Select;
import org.jooq.SortField;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * What the planner of the demo still has before them: visits that wait, two of them late and one
 * for two people, a job that two people do on two days, and a technician who does not go
 * everywhere.
 */
@Component
class DemoPlanner {
  private static final int WAITING = 8;
  private static final List<Duration> LATE_BY = List.of(Duration.ofHours(2), Duration.ofHours(26));
  private static final List<Clash> ANYTHING = List.of(Clash.values());

  private final DSLContext database;
  private final PlanningService planning;

  DemoPlanner(DSLContext database, PlanningService planning) {
    this.database = database;
    this.planning = planning;
  }

  void leaveWork(Act act) {
    VisitRecord large = nextOf(act, VISIT.EXPECTED_MINUTES.desc());
    if (large != null) {
      sendTwo(act, large);
    }
    while (database.fetchCount(VISIT, VISIT.STATE.eq(VisitState.Code.UNPLANNED)) < WAITING) {
      VisitRecord last = nextOf(act, VISIT.DAY.desc());
      if (last == null) {
        break;
      }
      planning.unplan(act, last.getId(), last.getVersion());
    }
    makeLate(act);
    wantTwo();
    stayNear(act);
  }

  /** Those who wait for a time are told of it; only from now on, not of all that was planned. */
  void tellCustomers() {
    database
        .update(CUSTOMER)
        .set(CUSTOMER.PLAN_TOLD_BY, TellBy.MAIL)
        .set(CUSTOMER.COMING_TOLD_BY, TellBy.TEXT)
        .where(CUSTOMER.EMAIL.ne("").and(CUSTOMER.PHONE.ne("")))
        .and(
            CUSTOMER.ID.in(
                select(JOB.CUSTOMER_ID)
                    .from(VISIT)
                    .join(JOB)
                    .on(JOB.ID.eq(VISIT.JOB_ID))
                    .where(VISIT.STATE.eq(VisitState.Code.UNPLANNED))))
        .execute();
  }

  /**
   * A visit of one person from the day after tomorrow on, the first in this order; null for none.
   */
  private @Nullable VisitRecord nextOf(Act act, SortField<?> order) {
    return database
        .selectFrom(VISIT)
        .where(VISIT.STATE.eq(VisitState.Code.PLANNED))
        .and(VISIT.DAY.gt(act.today().plusDays(1)))
        .and(VISIT.JOB_ID.notIn(jobsOfSeveralVisits()))
        .orderBy(order, VISIT.ID.desc())
        .limit(1)
        .fetchOne();
  }

  private Select<Record1<Long>> jobsOfSeveralVisits() {
    return database.select(VISIT.JOB_ID).from(VISIT).groupBy(VISIT.JOB_ID).having(count().gt(1));
  }

  /** Two people come, and again on the next working day to finish. */
  private void sendTwo(Act act, VisitRecord visit) {
    Long along =
        database
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.ROLE.eq(Role.TECHNICIAN).and(PERSON.ID.ne(visit.getTechnicianId())))
            .and(
                PERSON.ID.notIn(
                    select(ABSENCE.PERSON_ID)
                        .from(ABSENCE)
                        .where(ABSENCE.LAST_DAY.ge(visit.getDay()))))
            .orderBy(
                database
                    .selectCount()
                    .from(VISIT)
                    .where(VISIT.TECHNICIAN_ID.eq(PERSON.ID).and(VISIT.DAY.eq(visit.getDay())))
                    .asField(),
                PERSON.ID)
            .limit(1)
            .fetchSingle(PERSON.ID);
    needTwo(visit.getJobId());
    planning.plan(act, visit.getId(), form(visit.getVersion(), visit, along, visit.getDay()));
    LocalDate next = visit.getDay().plusDays(1);
    while (next.getDayOfWeek().getValue() > 5) {
      next = next.plusDays(1);
    }
    planning.add(act, "demo-second-day", visit.getJobId(), form(0, visit, along, next));
  }

  private void needTwo(long jobId) {
    database.update(JOB).set(JOB.CREW_SIZE, (short) 2).where(JOB.ID.eq(jobId)).execute();
  }

  /** The longest of those that wait takes two. */
  private void wantTwo() {
    database
        .select(VISIT.JOB_ID)
        .from(VISIT)
        .where(VISIT.STATE.eq(VisitState.Code.UNPLANNED))
        .orderBy(VISIT.EXPECTED_MINUTES.desc(), VISIT.ID)
        .limit(1)
        .forEach(visit -> needTwo(visit.value1()));
  }

  /** Whoever is sent to the fewest districts goes to no others. */
  private void stayNear(Act act) {
    Map<Long, List<String>> postcodes =
        database
            .select(VISIT.TECHNICIAN_ID, SITE.POSTCODE)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .where(VISIT.DAY.ge(act.today()))
            .and(VISIT.TECHNICIAN_ID.isNotNull())
            .fetchGroups(VISIT.TECHNICIAN_ID, SITE.POSTCODE);
    postcodes.entrySet().stream()
        .map(sent -> Map.entry(sent.getKey(), districts(sent.getValue())))
        .min(
            Comparator.comparingInt((Map.Entry<Long, Set<String>> sent) -> sent.getValue().size())
                .thenComparing(Map.Entry::getKey))
        .ifPresent(
            near ->
                near.getValue()
                    .forEach(
                        district ->
                            database
                                .insertInto(PERSON_DISTRICT)
                                .values(near.getKey(), district)
                                .execute()));
  }

  private static Set<String> districts(List<String> postcodes) {
    return postcodes.stream()
        .map(Districts::of)
        .filter(district -> !district.isEmpty())
        .collect(Collectors.toCollection(TreeSet::new));
  }

  private static PlanForm form(int version, VisitRecord visit, long along, LocalDate day) {
    return new PlanForm(
        version,
        visit.getTechnicianId(),
        List.of(along),
        day.toString(),
        visit.getStartTime().toString(),
        "5:00",
        ANYTHING,
        null);
  }

  private void makeLate(Act act) {
    List<Long> jobs =
        database
            .selectDistinct(VISIT.JOB_ID)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .where(VISIT.STATE.eq(VisitState.Code.UNPLANNED))
            .and(JOB.RESPONDED_AT.isNull().and(JOB.RESPOND_BY.isNull()))
            .orderBy(VISIT.JOB_ID)
            .limit(LATE_BY.size())
            .fetch(VISIT.JOB_ID);
    for (int i = 0; i < jobs.size(); i++) {
      database
          .update(JOB)
          .set(JOB.PRIORITY, Priority.URGENT)
          .set(JOB.RESPOND_BY, act.at().minus(LATE_BY.get(i)))
          .where(JOB.ID.eq(jobs.get(i)))
          .execute();
    }
  }
}
