package app.pragmata.core.wages;

import static app.pragmata.core.company.PayClass.HOLIDAY;
import static app.pragmata.core.company.PayClass.NIGHT;
import static app.pragmata.core.company.PayClass.NORMAL;
import static app.pragmata.core.company.PayClass.OVERTIME;
import static app.pragmata.core.company.PayClass.WEEKEND;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import app.pragmata.core.company.InForce;
import app.pragmata.core.company.PayClass;
import app.pragmata.core.company.PayTerms;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.company.WorkingHours;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.wages.PaidWeek.PaidTime;
import app.pragmata.core.wages.PaidWeek.Worked;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** By hand, for somebody whose hours are 7:00 to 17:00 from Monday to Friday. */
class PaidWeekTest {
  private static final ZoneId ZONE = ZoneId.of("Europe/London");
  private static final LocalDate MONDAY = LocalDate.of(2026, 10, 19);
  private static final LocalDate HOLIDAY_ON = MONDAY.plusDays(3);
  private static final WorkingCalendar CALENDAR =
      new WorkingCalendar(
          ZONE,
          new InForce<>(
              "working hours",
              List.of(
                  new WorkingHours(
                      LocalDate.EPOCH,
                      EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY),
                      LocalTime.of(7, 0),
                      LocalTime.of(17, 0),
                      LocalTime.of(22, 0),
                      LocalTime.of(6, 0),
                      RateClass.OVERTIME))),
          Set.of(HOLIDAY_ON));

  private static PayTerms terms(
      LocalDate from, @Nullable Integer daily, @Nullable Integer weekly, boolean breaks, int step) {
    return new PayTerms(
        from,
        daily,
        weekly,
        Set.of(DayOfWeek.SATURDAY, DayOfWeek.SUNDAY),
        breaks,
        step,
        Arrays.stream(PayClass.values())
            .collect(Collectors.toMap(payClass -> payClass, payClass -> BigDecimal.ONE)));
  }

  private static InForce<PayTerms> terms(@Nullable Integer daily, @Nullable Integer weekly) {
    return new InForce<>("pay terms", List.of(terms(LocalDate.EPOCH, daily, weekly, false, 1)));
  }

  /** A clock from one local time to another, as it is stored: cut by the clock. */
  private static List<Worked> clock(Kind kind, long job, String from, String to) {
    var worked = new ArrayList<Worked>();
    for (WorkingCalendar.Span span :
        CALENDAR.split(
            LocalDateTime.parse(from).atZone(ZONE).toInstant(),
            LocalDateTime.parse(to).atZone(ZONE).toInstant())) {
      worked.add(
          new Worked(
              span.from().atZone(ZONE).toLocalDate(),
              span.from(),
              kind,
              span.rateClass(),
              false,
              job,
              "",
              TimeEntry.minutesBetween(span.from(), span.to())));
    }
    return worked;
  }

  private static List<Worked> worked(String... fromTo) {
    var all = new ArrayList<Worked>();
    for (int i = 0; i < fromTo.length; i += 2) {
      all.addAll(clock(Kind.LABOUR, i, fromTo[i], fromTo[i + 1]));
    }
    return all;
  }

  private static Map<PayClass, Integer> paid(InForce<PayTerms> terms, String... fromTo) {
    return PaidWeek.of(worked(fromTo), terms, Set.of(HOLIDAY_ON)).minutesByClass();
  }

  @Test
  void without_a_limit_a_long_day_within_the_hours_is_normal() {
    assertThat(paid(terms(null, null), "2026-10-19T07:00", "2026-10-19T17:00"))
        .containsExactly(Map.entry(NORMAL, 600));
  }

  @Test
  void past_eight_hours_of_a_day_it_is_overtime() {
    assertThat(
            paid(
                terms(480, null),
                "2026-10-19T07:00",
                "2026-10-19T12:00",
                "2026-10-19T12:30",
                "2026-10-19T16:30"))
        .containsExactlyInAnyOrderEntriesOf(Map.of(NORMAL, 480, OVERTIME, 60));
  }

  @Test
  void an_hour_before_the_working_hours_is_overtime_once_and_not_twice() {
    // 6:00 to 7:00 by the clock; of 7:00 to 16:00 the last hour by the day.
    assertThat(paid(terms(480, null), "2026-10-19T06:00", "2026-10-19T16:00"))
        .containsExactlyInAnyOrderEntriesOf(Map.of(NORMAL, 480, OVERTIME, 120));
  }

  @Test
  void past_forty_hours_of_a_week_the_last_of_it_is_overtime() {
    PaidWeek week =
        PaidWeek.of(
            worked(
                "2026-10-19T07:00", "2026-10-19T17:00",
                "2026-10-20T07:00", "2026-10-20T17:00",
                "2026-10-21T07:00", "2026-10-21T17:00",
                "2026-10-23T07:00", "2026-10-23T17:00"),
            terms(null, 38 * 60),
            Set.of());
    assertThat(week.minutesByClass())
        .containsExactlyInAnyOrderEntriesOf(Map.of(NORMAL, 38 * 60, OVERTIME, 120));
    assertThat(week.times())
        .filteredOn(time -> time.payClass() == OVERTIME)
        .extracting(PaidTime::day)
        .containsExactly(MONDAY.plusDays(4));
  }

  @Test
  void what_is_overtime_by_the_day_counts_no_more_for_the_week() {
    // Five days of nine hours: an hour a day is overtime, and forty are left.
    assertThat(
            paid(
                terms(480, 40 * 60),
                "2026-10-19T07:00",
                "2026-10-19T16:00",
                "2026-10-20T07:00",
                "2026-10-20T16:00",
                "2026-10-21T07:00",
                "2026-10-21T16:00",
                "2026-10-23T07:00",
                "2026-10-23T16:00"))
        .containsExactlyInAnyOrderEntriesOf(Map.of(NORMAL, 32 * 60, OVERTIME, 240));
  }

  @Test
  void work_over_midnight_is_cut_into_two_days_and_is_night() {
    PaidWeek week =
        PaidWeek.of(worked("2026-10-20T21:00", "2026-10-21T06:30"), terms(480, null), Set.of());
    assertThat(week.times())
        .extracting(PaidTime::day, PaidTime::payClass, PaidTime::minutes)
        .containsExactly(
            tuple(MONDAY.plusDays(1), OVERTIME, 60),
            tuple(MONDAY.plusDays(1), NIGHT, 120),
            tuple(MONDAY.plusDays(2), NIGHT, 360),
            tuple(MONDAY.plusDays(2), OVERTIME, 30));
  }

  @Test
  void the_night_in_which_summer_time_ends_is_an_hour_longer() {
    // 25 October 2026, a Sunday: from 22:00 to 6:00 are nine hours.
    assertThat(paid(terms(null, null), "2026-10-24T22:00", "2026-10-25T06:00"))
        .containsExactly(Map.entry(NIGHT, 540));
  }

  @Test
  void the_night_in_which_it_begins_is_an_hour_shorter() {
    assertThat(paid(terms(null, null), "2027-03-27T22:00", "2027-03-28T06:00"))
        .containsExactly(Map.entry(NIGHT, 420));
  }

  @Test
  void a_saturday_is_paid_as_weekend_and_its_night_as_night() {
    assertThat(paid(terms(480, null), "2026-10-24T09:00", "2026-10-24T23:00"))
        .containsExactlyInAnyOrderEntriesOf(Map.of(WEEKEND, 780, NIGHT, 60));
  }

  @Test
  void a_holiday_is_paid_as_such_whatever_the_hour() {
    assertThat(paid(terms(480, null), "2026-10-22T09:00", "2026-10-22T19:00"))
        .containsExactly(Map.entry(HOLIDAY, 600));
  }

  @Test
  void breaks_are_paid_where_the_rules_say_so() {
    List<Worked> day = new ArrayList<>(worked("2026-10-19T08:00", "2026-10-19T12:00"));
    day.addAll(clock(Kind.BREAK, 0, "2026-10-19T12:00", "2026-10-19T12:30"));
    assertThat(PaidWeek.of(day, terms(null, null), Set.of()).minutesByClass())
        .containsExactly(Map.entry(NORMAL, 240));
    var paid = new InForce<>("pay", List.of(terms(LocalDate.EPOCH, null, null, true, 1)));
    assertThat(PaidWeek.of(day, paid, Set.of()).minutesByClass())
        .containsExactly(Map.entry(NORMAL, 270));
  }

  @Test
  void the_paid_time_of_a_day_is_rounded_to_the_nearest_step_and_the_difference_stands_by_itself() {
    var quarters = new InForce<>("pay", List.of(terms(LocalDate.EPOCH, null, null, false, 15)));
    assertThat(
            PaidWeek.of(worked("2026-10-19T08:00", "2026-10-19T12:07"), quarters, Set.of()).times())
        .extracting(PaidTime::kind, PaidTime::minutes)
        .containsExactly(tuple(Kind.LABOUR, 247), tuple(null, -7));
    assertThat(
            PaidWeek.of(worked("2026-10-19T08:00", "2026-10-19T12:08"), quarters, Set.of())
                .minutesByClass())
        .containsExactly(Map.entry(NORMAL, 255));
  }

  @Test
  void other_rules_hold_from_their_day_on() {
    var changed =
        new InForce<>(
            "pay",
            List.of(
                terms(LocalDate.EPOCH, 480, null, false, 1),
                terms(MONDAY.plusDays(1), 360, null, false, 1)));
    assertThat(
            paid(
                changed,
                "2026-10-19T07:00",
                "2026-10-19T16:00",
                "2026-10-20T07:00",
                "2026-10-20T16:00"))
        .containsExactlyInAnyOrderEntriesOf(Map.of(NORMAL, 840, OVERTIME, 240));
  }

  @Test
  void a_class_that_was_overruled_is_paid_as_somebody_said() {
    Worked saturday = worked("2026-10-24T09:00", "2026-10-24T19:00").getFirst();
    var normal =
        new Worked(
            saturday.day(),
            saturday.from(),
            Kind.LABOUR,
            RateClass.NORMAL,
            true,
            saturday.jobNumber(),
            "",
            600);
    assertThat(PaidWeek.of(List.of(normal), terms(480, null), Set.of()).minutesByClass())
        .containsExactly(Map.entry(NORMAL, 600));
  }

  @Provide
  Arbitrary<List<Worked>> weeks() {
    Arbitrary<Worked> clocks =
        Combinators.combine(
                Arbitraries.integers().between(0, 6),
                Arbitraries.integers().between(0, 1_300),
                Arbitraries.integers().between(0, 900),
                Arbitraries.of(Kind.values()),
                Arbitraries.of(RateClass.values()),
                Arbitraries.of(true, false))
            .as(
                (day, from, minutes, kind, rateClass, overruled) ->
                    new Worked(
                        MONDAY.plusDays(day),
                        MONDAY.plusDays(day).atStartOfDay(ZONE).plusMinutes(from).toInstant(),
                        kind,
                        rateClass,
                        overruled,
                        from % 3 == 0 ? null : Long.valueOf(from % 5),
                        "",
                        minutes));
    return clocks.list().ofMaxSize(14);
  }

  @Property
  void as_many_minutes_come_out_as_went_in_whatever_the_rules(@ForAll("weeks") List<Worked> week) {
    for (Integer daily : Arrays.asList(null, 0, 450)) {
      for (Integer weekly : Arrays.asList(null, 0, 2_250)) {
        PaidWeek paid = PaidWeek.of(week, terms(daily, weekly), Set.of(HOLIDAY_ON));
        assertThat(paid.times().stream().mapToInt(PaidTime::minutes).sum())
            .isEqualTo(
                week.stream()
                    .filter(worked -> worked.kind() != Kind.BREAK)
                    .mapToInt(Worked::minutes)
                    .sum());
      }
    }
  }

  @Property
  void of_every_job_as_many_minutes_are_paid_as_were_clocked(@ForAll("weeks") List<Worked> week) {
    PaidWeek paid = PaidWeek.of(week, terms(450, 2_250), Set.of(HOLIDAY_ON));
    assertThat(
            paid.times().stream()
                .collect(
                    Collectors.groupingBy(
                        time -> time.day() + " " + time.kind() + " " + time.jobNumber(),
                        Collectors.summingInt(PaidTime::minutes))))
        .isEqualTo(
            week.stream()
                .filter(worked -> worked.kind() != Kind.BREAK && worked.minutes() > 0)
                .collect(
                    Collectors.groupingBy(
                        worked -> worked.day() + " " + worked.kind() + " " + worked.jobNumber(),
                        Collectors.summingInt(Worked::minutes))));
  }
}
