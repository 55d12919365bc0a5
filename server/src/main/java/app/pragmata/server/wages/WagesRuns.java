package app.pragmata.server.wages;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.WAGES_LINE;
import static app.pragmata.server.generated.Tables.WAGES_RUN;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.mapping;
import static java.util.stream.Collectors.toList;
import static org.jooq.impl.DSL.min;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.InForce;
import app.pragmata.core.company.PayTerms;
import app.pragmata.core.wages.PaidWeek.PaidTime;
import app.pragmata.core.wages.WagesDue;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.WagesLineRecord;
import app.pragmata.server.generated.tables.records.WagesRunRecord;
import app.pragmata.server.http.AskedSpan;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.wages.PaidWeeks.PersonsWages;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Sends hours out for the wages and keeps them as they went. What is checked late, or put right
 * after it went out, goes out with a later run, as what it differs by: nobody has to remember it,
 * and no minute is paid twice.
 */
@Service
@Transactional
public class WagesRuns {
  /** How far back hours that never went out, or changed since, come along by themselves. */
  private static final int EARLIER_WEEKS = 8;

  /**
   * What of somebody's hours is to go out.
   *
   * @param times of the days asked for
   * @param earlier of days before
   */
  record Due(long personId, List<PaidTime> times, List<PaidTime> earlier) {
    static final Due NOTHING = new Due(0, List.of(), List.of());

    int minutes() {
      return sum(times);
    }

    int earlierMinutes() {
      return sum(earlier);
    }

    private static int sum(List<PaidTime> times) {
      return times.stream().mapToInt(PaidTime::minutes).sum();
    }
  }

  private final DSLContext database;
  private final PaidWeeks weeks;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;
  private final Events events;

  WagesRuns(
      DSLContext database,
      PaidWeeks weeks,
      CompanyStore companies,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.weeks = weeks;
    this.companies = companies;
    this.repeats = repeats;
    this.events = events;
  }

  /** Whether anything of these days, or of those before, is to go out. */
  public boolean isDue(AskedSpan days) {
    return !due(days, people(days)).isEmpty();
  }

  private List<PersonsWages> people(AskedSpan days) {
    return weeks.list(days.first(), days.last());
  }

  /**
   * Of whom something is to go out, by person; nobody whose hours are not certain.
   *
   * @param people with what they are paid for in these days
   */
  Map<Long, Due> due(AskedSpan days, List<PersonsWages> people) {
    LocalDate from = earliest(days.first());
    Map<Long, List<PaidTime>> sent = sent(from, days.last());
    Map<Long, List<PaidTime>> now = dueOf(people, days, sent);
    Map<Long, List<PaidTime>> earlier = new HashMap<>();
    for (LocalDate day = from; day.isBefore(days.first()); ) {
      LocalDate next = PaidWeeks.mondayOf(day).plusWeeks(1);
      LocalDate end = next.isBefore(days.first()) ? next : days.first();
      var week = new AskedSpan(day, end.minusDays(1));
      dueOf(people(week), week, sent)
          .forEach(
              (person, times) ->
                  earlier.computeIfAbsent(person, any -> new ArrayList<>()).addAll(times));
      day = end;
    }
    Map<Long, Due> due = new HashMap<>();
    now.forEach(
        (person, times) ->
            due.put(person, new Due(person, times, earlier.getOrDefault(person, List.of()))));
    earlier.forEach((person, times) -> due.putIfAbsent(person, new Due(person, List.of(), times)));
    return due;
  }

  /** Weeks before the first run were paid without this program's help. */
  private LocalDate earliest(LocalDate first) {
    LocalDate since =
        database.select(min(WAGES_RUN.FIRST_DAY)).from(WAGES_RUN).fetchSingle().value1();
    LocalDate back = first.minusWeeks(EARLIER_WEEKS);
    if (since == null || since.isAfter(first)) {
      return first;
    }
    return since.isAfter(back) ? since : back;
  }

  private static Map<Long, List<PaidTime>> dueOf(
      List<PersonsWages> people, AskedSpan days, Map<Long, List<PaidTime>> sent) {
    Map<Long, List<PaidTime>> due = new HashMap<>();
    for (PersonsWages person : people) {
      if (person.closed()) {
        List<PaidTime> before =
            sent.getOrDefault(person.personId(), List.of()).stream()
                .filter(time -> days.includes(time.day()))
                .toList();
        List<PaidTime> times = WagesDue.of(person.times(), before);
        if (!times.isEmpty()) {
          due.put(person.personId(), times);
        }
      }
    }
    return due;
  }

  /** All that went out of these days, in any run, by person. */
  Map<Long, List<PaidTime>> sent(LocalDate first, LocalDate last) {
    return database
        .selectFrom(WAGES_LINE)
        .where(WAGES_LINE.DAY.between(first, last))
        .fetch()
        .stream()
        .collect(groupingBy(WagesLineRecord::getPersonId, mapping(WagesRuns::paid, toList())));
  }

  private static PaidTime paid(WagesLineRecord line) {
    return new PaidTime(
        line.getDay(),
        line.getPayClass(),
        line.getKind(),
        line.getJobNumber(),
        line.getWhat(),
        line.getMinutes());
  }

  /** Sends out and keeps what is due of these days and before; gives the run's id. */
  public long send(Act act, @Nullable String key, AskedSpan days) {
    return repeats.once(
        act,
        key,
        "send wages",
        days,
        () -> {
          // Two at the same moment would both send the same.
          database.execute("lock table wages_run in share row exclusive mode");
          Map<Long, Due> due = due(days, people(days));
          if (due.isEmpty()) {
            throw new Refused(
                Rule.NOTHING_TO_SEND,
                "Nothing is to go out: all that is checked of these days went out before. Check what"
                    + " still waits, then send again.");
          }
          WagesRunRecord run = database.newRecord(WAGES_RUN);
          run.setFirstDay(days.first());
          run.setLastDay(days.last());
          run.setPeople(due.size());
          run.setMinutes(
              due.values().stream().mapToInt(one -> one.minutes() + one.earlierMinutes()).sum());
          run.setSentAt(act.at());
          run.setSentBy(act.personId());
          events.store(act, WagesEvent.WAGES_SENT, run);
          database.batchInsert(lines(run.getId(), due)).execute();
          return run.getId();
        });
  }

  private List<WagesLineRecord> lines(long runId, Map<Long, Due> due) {
    InForce<PayTerms> terms = companies.getCompany().pay();
    List<WagesLineRecord> lines = new ArrayList<>();
    database
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.ID.in(due.keySet()))
        .orderBy(PERSON.NAME, PERSON.ID)
        .fetch(PERSON.ID)
        .forEach(
            personId -> {
              Due ofPerson = due.getOrDefault(personId, Due.NOTHING);
              for (List<PaidTime> times : List.of(ofPerson.earlier(), ofPerson.times())) {
                times.forEach(time -> lines.add(line(runId, lines.size(), personId, time, terms)));
              }
            });
    return lines;
  }

  private WagesLineRecord line(
      long runId, int position, long personId, PaidTime time, InForce<PayTerms> terms) {
    WagesLineRecord line = database.newRecord(WAGES_LINE);
    line.setWagesRunId(runId);
    line.setPosition(position);
    line.setPersonId(personId);
    line.setDay(time.day());
    line.setPayClass(time.payClass());
    line.setPercent(terms.on(time.day()).percent(time.payClass()));
    line.setKind(time.kind());
    line.setJobNumber(time.jobNumber());
    line.setWhat(time.what());
    line.setMinutes(time.minutes());
    return line;
  }
}
