package app.pragmata.server.wages;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.WAGES_LINE;
import static app.pragmata.server.generated.Tables.WAGES_RUN;
import static java.time.temporal.TemporalAdjusters.previousOrSame;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Decimal;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.InForce;
import app.pragmata.core.company.PayClass;
import app.pragmata.core.company.PayTerms;
import app.pragmata.core.wages.PaidWeek.PaidTime;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.AskedSpan;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.wages.PaidWeeks.PersonsWages;
import app.pragmata.server.wages.WagesRuns.Due;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Paid hours over HTTP: on the screen, and as the file from which the wages are reckoned. */
@RestController
class WagesApi {
  /**
   * Paid hours of some days.
   *
   * @param notClosed how many people's are not certain yet; no run takes them
   * @param dueMinutes what a run would send out now
   * @param duePeople of how many
   * @param earlierDueMinutes what of it is of earlier days: checked late, or changed since it went
   *     out; below nothing where less stands now
   * @param runs that took hours of these days, the newest first
   */
  record Wages(
      LocalDate from,
      LocalDate to,
      List<PaidPerson> people,
      int notClosed,
      int dueMinutes,
      int duePeople,
      int earlierDueMinutes,
      List<WagesRun> runs) {}

  /**
   * Hours that went out.
   *
   * @param from of the days that were asked for; what was due of earlier ones came along
   * @param by who sent them
   * @param minutes all of it
   */
  record WagesRun(
      long id,
      LocalDate from,
      LocalDate to,
      LocalDateTime at,
      String by,
      int people,
      int minutes) {}

  /** Of which days hours are to go out, as people type days. */
  record WagesRunForm(@Nullable String from, @Nullable String to) {}

  /**
   * What a person is paid for.
   *
   * @param minutes all of it, with what rounding adds
   * @param roundingMinutes what of it rounding adds, or takes off below nothing
   * @param waitingForCheck minutes on visits that the office has not checked
   * @param running whether a clock runs
   * @param inDoubt of how many times it is to be said when they ended
   * @param cameInLate whether time of theirs came in late and waits for the office
   * @param closed whether none of that keeps it from going out
   * @param sentMinutes what of these days went out before
   * @param dueMinutes what of these days would go out now; below nothing where less stands
   * @param earlierDueMinutes the same of earlier days
   */
  record PaidPerson(
      long personId,
      String person,
      int minutes,
      List<ClassMinutes> classes,
      int roundingMinutes,
      int waitingForCheck,
      boolean running,
      int inDoubt,
      boolean cameInLate,
      boolean closed,
      int sentMinutes,
      int dueMinutes,
      int earlierDueMinutes) {
    static PaidPerson of(PersonsWages wages, List<PaidTime> sent, Due due) {
      Map<PayClass, Integer> classes = wages.minutesByClass();
      return new PaidPerson(
          wages.personId(),
          wages.person(),
          classes.values().stream().mapToInt(Integer::intValue).sum(),
          classes.entrySet().stream()
              .map(entry -> new ClassMinutes(entry.getKey(), entry.getValue()))
              .toList(),
          wages.times().stream()
              .filter(time -> time.kind() == null)
              .mapToInt(PaidTime::minutes)
              .sum(),
          wages.waitingForCheck(),
          wages.running(),
          wages.inDoubt(),
          wages.cameInLate(),
          wages.closed(),
          sent.stream().mapToInt(PaidTime::minutes).sum(),
          due.minutes(),
          due.earlierMinutes());
    }
  }

  /** Minutes of one class of pay. */
  record ClassMinutes(PayClass payClass, int minutes) {}

  /** A line of a file; the percentage is that of its class, of normal time. */
  private record Row(String person, PaidTime time, BigDecimal percent) {}

  private static final int MOST_DAYS = 62;
  private static final BigDecimal MINUTES_PER_HOUR = BigDecimal.valueOf(60);

  private final PaidWeeks weeks;
  private final WagesRuns runs;
  private final CompanyStore companies;
  private final VersionStore versions;
  private final DSLContext database;

  WagesApi(
      PaidWeeks weeks,
      WagesRuns runs,
      CompanyStore companies,
      VersionStore versions,
      DSLContext database) {
    this.weeks = weeks;
    this.runs = runs;
    this.companies = companies;
    this.versions = versions;
    this.database = database;
  }

  /**
   * Paid hours of everybody, by name, and what of them goes out next.
   *
   * @param from a day as people type it; the Monday of the last day when it is left out
   * @param to today when it is left out
   */
  @GetMapping("/api/wages")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public Wages getWages(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to) {
    AskedSpan days = days(act, from, to);
    List<PersonsWages> people = weeks.list(days.first(), days.last());
    Map<Long, List<PaidTime>> sent = runs.sent(days.first(), days.last());
    Map<Long, Due> due = runs.due(days, people);
    int earlier = due.values().stream().mapToInt(Due::earlierMinutes).sum();
    return new Wages(
        days.first(),
        days.last(),
        people.stream()
            .map(
                person ->
                    PaidPerson.of(
                        person,
                        sent.getOrDefault(person.personId(), List.of()),
                        due.getOrDefault(person.personId(), Due.NOTHING)))
            .toList(),
        (int) people.stream().filter(person -> !person.closed()).count(),
        due.values().stream().mapToInt(Due::minutes).sum() + earlier,
        due.size(),
        earlier,
        listRuns(act, days));
  }

  private List<WagesRun> listRuns(Act act, AskedSpan days) {
    return database
        .select(
            WAGES_RUN.ID,
            WAGES_RUN.FIRST_DAY,
            WAGES_RUN.LAST_DAY,
            WAGES_RUN.SENT_AT.convertFrom(at -> LocalDateTime.ofInstant(at, act.zone())),
            PERSON.NAME,
            WAGES_RUN.PEOPLE,
            WAGES_RUN.MINUTES)
        .from(WAGES_RUN)
        .join(PERSON)
        .on(PERSON.ID.eq(WAGES_RUN.SENT_BY))
        .where(
            exists(
                selectOne()
                    .from(WAGES_LINE)
                    .where(WAGES_LINE.WAGES_RUN_ID.eq(WAGES_RUN.ID))
                    .and(WAGES_LINE.DAY.between(days.first(), days.last()))))
        .or(WAGES_RUN.FIRST_DAY.le(days.last()).and(WAGES_RUN.LAST_DAY.ge(days.first())))
        .orderBy(WAGES_RUN.ID.desc())
        .fetch(Records.mapping(WagesRun::new));
  }

  /**
   * Sends out what is due of some days and, since the first run, of the eight weeks before them: of
   * those whose hours are certain what stands now, less what went out before. It is kept as it
   * went.
   */
  @PostMapping("/api/wages/runs")
  @Transactional
  public Changed sendWages(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody WagesRunForm form) {
    AskedSpan days =
        days(
            act,
            Objects.requireNonNullElse(form.from(), ""),
            Objects.requireNonNullElse(form.to(), ""));
    return versions.changed(WAGES_RUN.ID, runs.send(act, key, days));
  }

  /** The file of a run, by person, day, class and job, as it went out. */
  @GetMapping("/api/wages/runs/{id}/file")
  ResponseEntity<byte[]> downloadWagesRun(
      @PathVariable long id, @RequestParam(defaultValue = "csv") ListFile.Format format) {
    List<Row> rows =
        database
            .select(
                PERSON.NAME,
                WAGES_LINE.DAY,
                WAGES_LINE.PAY_CLASS,
                WAGES_LINE.KIND,
                WAGES_LINE.JOB_NUMBER,
                WAGES_LINE.WHAT,
                WAGES_LINE.MINUTES,
                WAGES_LINE.PERCENT)
            .from(WAGES_LINE)
            .join(PERSON)
            .on(PERSON.ID.eq(WAGES_LINE.PERSON_ID))
            .where(WAGES_LINE.WAGES_RUN_ID.eq(id))
            .orderBy(WAGES_LINE.POSITION)
            .fetch(
                line ->
                    new Row(
                        line.value1(),
                        new PaidTime(
                            line.value2(),
                            line.value3(),
                            line.value4(),
                            line.value5(),
                            line.value6(),
                            line.value7()),
                        new BigDecimal(Decimal.text(line.value8()))));
    if (rows.isEmpty()) {
      throw new Refused(Rule.NOT_FOUND, "No hours went out as this. Reload the page.");
    }
    return file("wages-run-" + id, format, rows);
  }

  /**
   * The hours as they stand now, by person, day, class and job, of those whose are certain: all
   * their clocks have ended and their visits are checked. It counts as sent out only as a run.
   */
  @GetMapping("/api/wages/file")
  ResponseEntity<byte[]> downloadWages(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    AskedSpan days = days(act, from, to);
    InForce<PayTerms> pay = companies.getCompany().pay();
    return file(
        "wages-%s-%s".formatted(days.first(), days.last()),
        format,
        weeks.list(days.first(), days.last()).stream()
            .filter(PersonsWages::closed)
            .flatMap(
                person ->
                    person.times().stream()
                        .map(
                            time ->
                                new Row(
                                    person.person(),
                                    time,
                                    pay.on(time.day()).percent(time.payClass()))))
            .toList());
  }

  private static ResponseEntity<byte[]> file(String name, ListFile.Format format, List<Row> rows) {
    return ListFile.named(name, format)
        .head("Person", "Day", "Class", "Percent", "Minutes", "Hours", "Job", "What")
        .rows(
            rows,
            row ->
                new @Nullable Object[] {
                  row.person(),
                  row.time().day(),
                  row.time().payClass().code(),
                  row.percent(),
                  row.time().minutes(),
                  BigDecimal.valueOf(row.time().minutes())
                      .divide(MINUTES_PER_HOUR, 2, RoundingMode.HALF_UP),
                  row.time().jobNumber(),
                  what(row.time())
                })
        .answer();
  }

  private static String what(PaidTime time) {
    if (time.kind() == null) {
      return "rounding of the day";
    }
    return time.what().isEmpty() ? time.kind().name().toLowerCase(Locale.ROOT) : time.what();
  }

  private static AskedSpan days(Act act, String from, String to) {
    return AskedSpan.read(
        act, from, to, last -> last.with(previousOrSame(DayOfWeek.MONDAY)), MOST_DAYS);
  }
}
