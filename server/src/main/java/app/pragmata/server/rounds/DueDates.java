package app.pragmata.server.rounds;

import static app.pragmata.server.generated.Tables.AGREEMENT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.ROUND;
import static app.pragmata.server.generated.Tables.ROUND_DATE;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.rounds.RoundDateState;
import app.pragmata.server.records.Act;
import app.pragmata.server.rounds.RoundDates.DateOfRound;
import app.pragmata.server.rounds.RoundTerms.Terms;
import app.pragmata.server.rounds.RoundsApi.DueDate;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads when rounds are due and what became of each day. */
@Repository
class DueDates {
  private static final Field<@Nullable LocalDate> BOOKED_ON =
      DSL.field(
          select(min(VISIT.DAY))
              .from(VISIT)
              .where(VISIT.JOB_ID.eq(JOB.ID))
              .and(
                  VISIT.STATE.in(
                      VisitState.Code.PLANNED, VisitState.Code.DRIVING, VisitState.Code.ON_SITE)));

  /** A day for which a job was opened. */
  private record Made(
      long jobId,
      long jobNumber,
      JobState.Code job,
      @Nullable LocalDate bookedOn,
      String notThisTime) {
    RoundDateState state() {
      return RoundDateState.of(!notThisTime.isEmpty(), job, bookedOn != null);
    }
  }

  /** What is said of each day of a round. */
  private record Told(
      long agreementId,
      long agreementNumber,
      String agreement,
      long customerId,
      String customer,
      String site,
      @Nullable String equipment,
      String title,
      int expectedMinutes) {}

  private final DSLContext database;
  private final RoundTerms terms;

  DueDates(DSLContext database, RoundTerms terms) {
    this.database = database;
    this.terms = terms;
  }

  /** All days between two, which both count, in order. */
  List<DueDate> between(Act act, LocalDate from, LocalDate until) {
    return list(act, terms.runningBetween(from, until), from, until, DSL.noCondition());
  }

  /** Those of the rounds of one agreement. */
  List<DueDate> of(Act act, long agreementId, LocalDate from, LocalDate until) {
    Set<Long> rounds =
        database
            .select(ROUND.ID)
            .from(ROUND)
            .where(ROUND.AGREEMENT_ID.eq(agreementId))
            .fetchSet(ROUND.ID);
    return list(act, terms.get(rounds), from, until, ROUND_DATE.ROUND_ID.in(rounds));
  }

  /** How many days between two, which both count, have passed and nobody is to go yet. */
  int countLate(Act act, LocalDate from, LocalDate until) {
    return Math.toIntExact(
        dates(terms.runningBetween(from, until), from, until, DSL.noCondition()).entrySet().stream()
            .filter(date -> isLate(act, date.getKey(), state(date.getValue())))
            .count());
  }

  private Map<DateOfRound, @Nullable Made> dates(
      Map<Long, Terms> rounds, LocalDate from, LocalDate until, Condition which) {
    var dates = new HashMap<DateOfRound, @Nullable Made>();
    for (Terms of : rounds.values()) {
      for (LocalDate dueOn : of.dueBetween(from, until)) {
        dates.put(new DateOfRound(of.roundId(), dueOn), null);
      }
    }
    // Also those on which a round that was changed since is not due any more.
    dates.putAll(made(which.and(ROUND_DATE.DUE_ON.between(from, until))));
    return dates;
  }

  private List<DueDate> list(
      Act act, Map<Long, Terms> rounds, LocalDate from, LocalDate until, Condition which) {
    Map<DateOfRound, @Nullable Made> dates = dates(rounds, from, until, which);
    Map<Long, Told> told =
        told(dates.keySet().stream().map(DateOfRound::roundId).collect(Collectors.toSet()));
    var list = new ArrayList<DueDate>();
    dates.forEach((date, made) -> list.add(shown(act, date, made, told.get(date.roundId()))));
    list.sort(
        Comparator.comparing(DueDate::dueOn)
            .thenComparing(DueDate::customer)
            .thenComparing(DueDate::roundId));
    return list;
  }

  private Map<DateOfRound, Made> made(Condition which) {
    return database
        .select(
            ROUND_DATE.ROUND_ID,
            ROUND_DATE.DUE_ON,
            row(JOB.ID, JOB.NUMBER, JOB.STATE, BOOKED_ON, ROUND_DATE.NOT_THIS_TIME)
                .mapping(Made::new))
        .from(ROUND_DATE)
        .join(JOB)
        .on(JOB.ID.eq(ROUND_DATE.JOB_ID))
        .where(which)
        .fetchMap(row -> new DateOfRound(row.value1(), row.value2()), row -> row.value3());
  }

  private Map<Long, Told> told(Set<Long> roundIds) {
    return database
        .select(
            ROUND.ID,
            row(
                    AGREEMENT.ID,
                    AGREEMENT.NUMBER,
                    AGREEMENT.NAME,
                    CUSTOMER.ID,
                    CUSTOMER.NAME,
                    SITE.NAME,
                    EQUIPMENT.MODEL,
                    ROUND.TITLE,
                    ROUND.EXPECTED_MINUTES)
                .mapping(Told::new))
        .from(ROUND)
        .join(AGREEMENT)
        .on(AGREEMENT.ID.eq(ROUND.AGREEMENT_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(AGREEMENT.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(ROUND.SITE_ID))
        .leftJoin(EQUIPMENT)
        .on(EQUIPMENT.ID.eq(ROUND.EQUIPMENT_ID))
        .where(ROUND.ID.in(roundIds))
        .fetchMap(row -> row.value1(), row -> row.value2());
  }

  private static RoundDateState state(@Nullable Made made) {
    return made == null ? RoundDateState.DUE : made.state();
  }

  private static boolean isLate(Act act, DateOfRound date, RoundDateState state) {
    return state.waits() && date.dueOn().isBefore(act.today());
  }

  private static DueDate shown(Act act, DateOfRound date, @Nullable Made made, Told of) {
    RoundDateState state = state(made);
    return new DueDate(
        date.roundId(),
        date.dueOn(),
        state,
        isLate(act, date, state),
        of.agreementId(),
        of.agreementNumber(),
        of.agreement(),
        of.customerId(),
        of.customer(),
        of.site(),
        of.equipment(),
        of.title(),
        of.expectedMinutes(),
        made == null ? null : made.jobId(),
        made == null ? null : made.jobNumber(),
        made == null ? null : made.bookedOn(),
        made == null ? "" : made.notThisTime());
  }
}
