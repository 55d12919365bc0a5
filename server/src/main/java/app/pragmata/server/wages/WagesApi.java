package app.pragmata.server.wages;

import static java.time.temporal.TemporalAdjusters.previousOrSame;

import app.pragmata.core.Decimal;
import app.pragmata.core.company.PayClass;
import app.pragmata.core.wages.PaidWeek.PaidTime;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.http.AskedSpan;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.records.Act;
import app.pragmata.server.wages.PaidWeeks.PersonsWages;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Paid hours over HTTP: on the screen, and as the file from which the wages are reckoned. */
@RestController
class WagesApi {
  /**
   * Paid hours of some days.
   *
   * @param notClosed how many people's are not certain yet; the file leaves them out
   */
  record Wages(LocalDate from, LocalDate to, List<PaidPerson> people, int notClosed) {}

  /**
   * What a person is paid for.
   *
   * @param minutes all of it, with what rounding adds
   * @param roundingMinutes what of it rounding adds, or takes off below nothing
   * @param waitingForCheck minutes on visits that the office has not checked
   * @param running whether a clock runs
   * @param inDoubt of how many times it is to be said when they ended
   * @param cameInLate whether something of theirs came in late and waits for the office
   * @param closed whether none of that keeps it from the file
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
      boolean closed) {
    static PaidPerson of(PersonsWages wages) {
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
          wages.closed());
    }
  }

  /** Minutes of one class of pay. */
  record ClassMinutes(PayClass payClass, int minutes) {}

  private record Row(String person, PaidTime time) {}

  private static final int MOST_DAYS = 62;
  private static final BigDecimal MINUTES_PER_HOUR = BigDecimal.valueOf(60);

  private final PaidWeeks weeks;
  private final CompanyStore companies;

  WagesApi(PaidWeeks weeks, CompanyStore companies) {
    this.weeks = weeks;
    this.companies = companies;
  }

  /**
   * Paid hours of everybody, by name.
   *
   * @param from a day as people type it; the Monday of the last day when it is left out
   * @param to today when it is left out
   */
  @GetMapping("/api/wages")
  Wages getWages(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to) {
    AskedSpan days = days(act, from, to);
    List<PersonsWages> people = weeks.list(days.first(), days.last());
    return new Wages(
        days.first(),
        days.last(),
        people.stream().map(PaidPerson::of).toList(),
        (int) people.stream().filter(person -> !person.closed()).count());
  }

  /**
   * The same by person, day, class and job, of those whose hours are certain: all their clocks have
   * ended and their visits are checked.
   */
  @GetMapping("/api/wages/file")
  ResponseEntity<byte[]> downloadWages(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    AskedSpan days = days(act, from, to);
    var pay = companies.getCompany().pay();
    return ListFile.named("wages-%s-%s".formatted(days.first(), days.last()), format)
        .head("Person", "Day", "Class", "Percent", "Minutes", "Hours", "Job", "What")
        .rows(
            weeks.list(days.first(), days.last()).stream()
                .filter(PersonsWages::closed)
                .flatMap(
                    person -> person.times().stream().map(time -> new Row(person.person(), time)))
                .toList(),
            row ->
                new @Nullable Object[] {
                  row.person(),
                  row.time().day(),
                  row.time().payClass().code(),
                  new BigDecimal(
                      Decimal.text(
                          pay.on(row.time().day())
                              .factor(row.time().payClass())
                              .movePointRight(2))),
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
