package app.pragmata.server.rounds;

import static app.pragmata.server.generated.Tables.AGREEMENT;
import static app.pragmata.server.generated.Tables.ROUND;
import static app.pragmata.server.generated.Tables.ROUND_DATE;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.rounds.Repeat;
import app.pragmata.core.rounds.Round;
import app.pragmata.core.rounds.RoundDateState;
import app.pragmata.server.records.Act;
import app.pragmata.server.rounds.RoundDates.DateOfRound;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** When rounds are due, and the jobs that are opened for them, over HTTP. */
@RestController
class RoundsApi {
  /**
   * A day on which a round is due.
   *
   * @param late nobody is to go yet, and the day has passed
   * @param equipment its model; null for no piece in particular
   * @param jobId that was opened for it; null for none yet, as is its number
   * @param bookedOn when somebody is to go; null while nobody is
   * @param notThisTime why the round went on without it; else empty
   */
  record DueDate(
      long roundId,
      LocalDate dueOn,
      RoundDateState state,
      boolean late,
      long agreementId,
      long agreementNumber,
      String agreement,
      long customerId,
      String customer,
      String site,
      @Nullable String equipment,
      String title,
      int expectedMinutes,
      @Nullable Long jobId,
      @Nullable Long jobNumber,
      @Nullable LocalDate bookedOn,
      String notThisTime) {}

  /**
   * What is due in a month.
   *
   * @param month such as 2026-12
   * @param dates in order; in the running month those of before that are late come first
   * @param toMake for how many of them no job was opened yet
   */
  record RoundsOfMonth(String month, List<DueDate> dates, int toMake) {}

  /** How many days have passed for which nobody is to go yet. */
  record RoundsCount(int late) {}

  /** The days for which jobs are to be opened. */
  record MakeDatesForm(@Nullable List<RoundDateForm> dates) {}

  /** A day on which a round is due. */
  record RoundDateForm(long roundId, @Nullable LocalDate dueOn) {}

  /** How many jobs were opened; the others had theirs already. */
  record MadeDates(int made) {}

  /**
   * How a repetition was understood.
   *
   * @param repeats in other words
   * @param days the next on which it comes
   */
  record RepeatsRead(String repeats, List<LocalDate> days) {}

  /**
   * For which day of a round a job was opened.
   *
   * @param priceMinor what the customer pays each time, without VAT; null for by time and parts
   * @param withParts whether that pays for parts, too
   * @param nextDueOn the next day after that one; null when the round has ended by then
   * @param onlyVisitId the visit after which nothing of the job is left, so that the round goes on
   *     if it does not happen; null while others count
   */
  record RoundOfJob(
      long agreementId,
      long agreementNumber,
      String agreement,
      String repeats,
      @Nullable Long priceMinor,
      boolean withParts,
      LocalDate dueOn,
      @Nullable LocalDate nextDueOn,
      @Nullable Long onlyVisitId,
      String notThisTime) {}

  private static final int MOST_MONTHS = 24;
  private static final int LATE_MONTHS = 12;
  private static final int DAYS_SHOWN = 4;

  private final RoundDates service;
  private final DueDates dates;
  private final RoundTerms terms;
  private final DSLContext database;

  RoundsApi(RoundDates service, DueDates dates, RoundTerms terms, DSLContext database) {
    this.service = service;
    this.dates = dates;
    this.terms = terms;
    this.database = database;
  }

  /**
   * What is due in a month.
   *
   * @param month such as 2026-12; the running one when it is left out
   */
  @GetMapping("/api/rounds/due")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public RoundsOfMonth listDueRounds(Act act, @RequestParam(defaultValue = "") String month) {
    var reading = new Reading();
    YearMonth running = YearMonth.from(act.today());
    YearMonth asked =
        Objects.requireNonNullElse(
            reading.optional("month", month, typed -> month(typed, running)), running);
    reading.refuseIfFaulty();
    var list = new ArrayList<DueDate>();
    if (asked.equals(running)) {
      dates
          .between(
              act, asked.minusMonths(LATE_MONTHS).atDay(1), asked.minusMonths(1).atEndOfMonth())
          .stream()
          .filter(DueDate::late)
          .forEach(list::add);
    }
    list.addAll(dates.between(act, asked.atDay(1), asked.atEndOfMonth()));
    return new RoundsOfMonth(
        asked.toString(),
        list,
        Math.toIntExact(list.stream().filter(date -> date.state() == RoundDateState.DUE).count()));
  }

  private static YearMonth month(String typed, YearMonth running) {
    try {
      YearMonth month = YearMonth.parse(typed);
      if (month.isBefore(running.minusMonths(MOST_MONTHS))
          || month.isAfter(running.plusMonths(MOST_MONTHS))) {
        throw new Unreadable(Rule.OUT_OF_LIMITS, "Ask for a month within two years of today.");
      }
      return month;
    } catch (DateTimeException none) {
      throw new Unreadable(Rule.UNREADABLE, "Enter a month such as 2026-12.");
    }
  }

  @GetMapping("/api/rounds/count")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public RoundsCount countDueRounds(Act act) {
    LocalDate first = YearMonth.from(act.today()).minusMonths(LATE_MONTHS).atDay(1);
    return new RoundsCount(dates.countLate(act, first, act.today()));
  }

  /** Opens a job for each of these days that has none yet; the same may be asked for again. */
  @PostMapping("/api/rounds/make")
  @Transactional
  public MadeDates makeRounds(Act act, @RequestBody MakeDatesForm form) {
    return new MadeDates(service.make(act, read(form)));
  }

  private static List<DateOfRound> read(MakeDatesForm form) {
    var reading = new Reading();
    var dates = new ArrayList<DateOfRound>();
    for (RoundDateForm date : form.dates() == null ? List.<RoundDateForm>of() : form.dates()) {
      if (date.dueOn() == null) {
        reading.fault(
            "dates/" + dates.size() + "/dueOn", Rule.MISSING, "Name the day on which it is due.");
        break;
      }
      dates.add(new DateOfRound(date.roundId(), date.dueOn()));
    }
    reading.refuseIfFaulty();
    return dates;
  }

  /**
   * How a repetition is understood, before it is agreed.
   *
   * @param repeats as typed
   * @param from its first day as typed; today when it is left out
   */
  @GetMapping("/api/rounds/reading")
  RepeatsRead readRepeats(
      Act act,
      @RequestParam(defaultValue = "") String repeats,
      @RequestParam(defaultValue = "") String from) {
    var reading = new Reading();
    Repeat repeat =
        reading.required(
            "repeats", repeats, typed -> Repeat.parse(Reading.withinLength(typed, 200)));
    LocalDate first = reading.optional("from", from, typed -> Agreements.day(typed, act.today()));
    reading.refuseIfFaulty();
    var round =
        new Round(
            Objects.requireNonNull(repeat), Objects.requireNonNullElse(first, act.today()), null);
    return new RepeatsRead(repeat.text(), round.firstAfter(act.today().minusDays(1), DAYS_SHOWN));
  }

  /** For which day of a round a job was opened; nothing for a job of none. */
  @GetMapping("/api/jobs/{id}/round")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public List<RoundOfJob> listRoundsOfJob(@PathVariable long id) {
    return database
        .select(
            AGREEMENT.ID,
            AGREEMENT.NUMBER,
            AGREEMENT.NAME,
            ROUND.ID,
            ROUND.REPEATS,
            ROUND.PRICE_MINOR,
            ROUND.WITH_PARTS,
            ROUND_DATE.DUE_ON,
            ROUND_DATE.NOT_THIS_TIME)
        .from(ROUND_DATE)
        .join(ROUND)
        .on(ROUND.ID.eq(ROUND_DATE.ROUND_ID))
        .join(AGREEMENT)
        .on(AGREEMENT.ID.eq(ROUND.AGREEMENT_ID))
        .where(ROUND_DATE.JOB_ID.eq(id))
        .fetch(
            row ->
                new RoundOfJob(
                    row.value1(),
                    row.value2(),
                    row.value3(),
                    row.value5(),
                    row.value6(),
                    row.value7(),
                    row.value8(),
                    Objects.requireNonNull(terms.get(List.of(row.value4())).get(row.value4()))
                        .nextAfter(row.value8()),
                    onlyVisit(id),
                    row.value9()));
  }

  private @Nullable Long onlyVisit(long jobId) {
    List<Long> counting =
        database
            .select(VISIT.ID)
            .from(VISIT)
            .where(VISIT.JOB_ID.eq(jobId).and(VISIT.STATE.notIn(VisitState.Code.DROPPED)))
            .limit(2)
            .fetch(VISIT.ID);
    return counting.size() == 1 ? counting.getFirst() : null;
  }
}
