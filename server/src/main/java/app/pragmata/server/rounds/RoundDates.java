package app.pragmata.server.rounds;

import static app.pragmata.server.generated.Tables.AGREEMENT;
import static app.pragmata.server.generated.Tables.ROUND;
import static app.pragmata.server.generated.Tables.ROUND_DATE;
import static org.jooq.impl.DSL.row;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.money.Money;
import app.pragmata.server.customers.Sites;
import app.pragmata.server.generated.tables.records.RoundDateRecord;
import app.pragmata.server.generated.tables.records.RoundRecord;
import app.pragmata.server.jobs.JobCharges;
import app.pragmata.server.jobs.JobOpening;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.planning.PlanningService;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Opens the jobs of rounds that are due, each once, and lets a round go on when one is not done.
 */
@Service
@Transactional
public class RoundDates {
  /** A day on which a round is due. */
  public record DateOfRound(long roundId, LocalDate dueOn) {}

  private static final int MOST_AT_ONCE = 500;
  private static final int MOST_MONTHS_AHEAD = 13;

  /** From when on before its day a visit may be planned. */
  private static final int DAYS_AHEAD = 7;

  private final DSLContext database;
  private final RoundTerms terms;
  private final Sites sites;
  private final JobOpening jobs;
  private final QuoteService quotes;
  private final VisitStore visits;
  private final PlanningService planning;
  private final Events events;

  RoundDates(
      DSLContext database,
      RoundTerms terms,
      Sites sites,
      JobOpening jobs,
      QuoteService quotes,
      VisitStore visits,
      PlanningService planning,
      Events events) {
    this.database = database;
    this.terms = terms;
    this.sites = sites;
    this.jobs = jobs;
    this.quotes = quotes;
    this.visits = visits;
    this.planning = planning;
    this.events = events;
  }

  /**
   * Opens a job for each of these days that has none; gives how many it opened. Whoever asks for
   * the same meanwhile waits, and then finds them.
   */
  public int make(Act act, List<DateOfRound> asked) {
    Set<DateOfRound> dates = read(asked);
    List<RoundRecord> rounds =
        database
            .selectFrom(ROUND)
            .where(ROUND.ID.in(dates.stream().map(DateOfRound::roundId).toList()))
            .orderBy(ROUND.ID)
            .forUpdate()
            .fetch();
    dates.removeAll(made(dates));
    requireDue(act, dates);
    Map<Long, Long> customers = customers(rounds);
    var charges = new HashMap<Long, List<JobCharges.NewCharge>>();
    for (RoundRecord round : rounds) {
      for (LocalDate dueOn : daysOf(round, dates)) {
        long jobId =
            jobs.open(
                act,
                new JobOpening.NewJob(
                    customers.get(round.getId()),
                    round.getSiteId(),
                    sites.standing(round.getEquipmentId()),
                    null,
                    round.getKindOfJobId(),
                    round.getTitle(),
                    "",
                    null,
                    null,
                    round.getExpectedMinutes(),
                    dueOn.minusDays(DAYS_AHEAD),
                    price(round),
                    round.getPriceMinor() != null
                        ? List.of()
                        : charges.computeIfAbsent(
                            round.getKindOfJobId(), kind -> quotes.chargesOfKind(act, kind))));
        RoundDateRecord date = database.newRecord(ROUND_DATE);
        date.setRoundId(round.getId());
        date.setDueOn(dueOn);
        date.setJobId(jobId);
        date.store();
        tell(act, RoundEvent.ROUND_DATE_MADE, round, dueOn, "");
      }
    }
    return dates.size();
  }

  private static @Nullable Money price(RoundRecord round) {
    Long minor = round.getPriceMinor();
    return minor == null ? null : Money.ofMinor(minor);
  }

  private static Set<DateOfRound> read(List<DateOfRound> dates) {
    var reading = new Reading();
    if (dates.isEmpty()) {
      reading.fault("dates", Rule.MISSING, "Name a day of a round to open its job.");
    }
    if (dates.size() > MOST_AT_ONCE) {
      reading.fault(
          "dates",
          Rule.EXCEEDS_LIMIT,
          "At most %d at once. Send the rest afterwards.".formatted(MOST_AT_ONCE));
    }
    reading.refuseIfFaulty();
    return new HashSet<>(dates);
  }

  private Set<DateOfRound> made(Set<DateOfRound> dates) {
    return database
        .select(ROUND_DATE.ROUND_ID, ROUND_DATE.DUE_ON)
        .from(ROUND_DATE)
        .where(
            row(ROUND_DATE.ROUND_ID, ROUND_DATE.DUE_ON)
                .in(dates.stream().map(date -> row(date.roundId(), date.dueOn())).toList()))
        .fetchSet(row -> new DateOfRound(row.value1(), row.value2()));
  }

  private void requireDue(Act act, Set<DateOfRound> dates) {
    Map<Long, RoundTerms.Terms> known =
        terms.get(dates.stream().map(DateOfRound::roundId).distinct().toList());
    var reading = new Reading();
    for (DateOfRound date : dates) {
      RoundTerms.Terms of = known.get(date.roundId());
      if (of == null
          || date.dueOn().isAfter(act.today().plusMonths(MOST_MONTHS_AHEAD))
          || of.dueBetween(date.dueOn(), date.dueOn()).isEmpty()) {
        reading.fault(
            "dates",
            Rule.OUT_OF_LIMITS,
            "A round that is to be made is not due on %s any more. Reload the page."
                .formatted(date.dueOn()));
        break;
      }
    }
    reading.refuseIfFaulty();
  }

  private Map<Long, Long> customers(List<RoundRecord> rounds) {
    return database
        .select(ROUND.ID, AGREEMENT.CUSTOMER_ID)
        .from(ROUND)
        .join(AGREEMENT)
        .on(AGREEMENT.ID.eq(ROUND.AGREEMENT_ID))
        .where(ROUND.ID.in(rounds.stream().map(RoundRecord::getId).toList()))
        .fetchMap(ROUND.ID, AGREEMENT.CUSTOMER_ID);
  }

  private static Set<LocalDate> daysOf(RoundRecord round, Set<DateOfRound> dates) {
    var days = new TreeSet<LocalDate>();
    for (DateOfRound date : dates) {
      if (date.roundId() == round.getId()) {
        days.add(date.dueOn());
      }
    }
    return days;
  }

  /**
   * Where nothing of a job of a round happened, nor is to: the round goes on to its next day, and
   * the job is called off with what it has cost all the same. Gives whether it was such a job.
   */
  public boolean goOn(Act act, LockedJob job, String why) {
    RoundDateRecord date =
        database
            .selectFrom(ROUND_DATE)
            .where(ROUND_DATE.JOB_ID.eq(job.id()))
            .forUpdate()
            .fetchOne();
    if (date == null || !(job.state() instanceof JobState.Open open) || !visits.isDropped(job)) {
      return false;
    }
    date.setNotThisTime(why);
    date.store();
    planning.callOff(act, job, open, why);
    RoundRecord round =
        database.selectFrom(ROUND).where(ROUND.ID.eq(date.getRoundId())).fetchSingle();
    tell(act, RoundEvent.ROUND_WENT_ON, round, date.getDueOn(), why);
    return true;
  }

  private void tell(Act act, RoundEvent event, RoundRecord round, LocalDate dueOn, String why) {
    events.tell(
        act,
        event,
        round.getId(),
        About.partOf(round.getAgreementId())
            .why(why)
            .with(Map.of(), Map.of("dueOn", dueOn.toString())));
  }
}
