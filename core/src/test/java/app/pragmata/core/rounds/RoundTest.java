package app.pragmata.core.rounds;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Unreadable;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.Month;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RoundTest {
  private static final LocalDate NEW_YEAR = LocalDate.of(2027, 1, 1);
  private static final LocalDate NEXT_NEW_YEAR = LocalDate.of(2027, 12, 31);

  private static String inYear(String typed) {
    return inYear(typed, NEW_YEAR);
  }

  private static String inYear(String typed, LocalDate first) {
    return String.join(
        " ",
        new Round(Repeat.parse(typed), first, null)
            .dueBetween(NEW_YEAR, NEXT_NEW_YEAR).stream()
                .map(day -> day.getMonthValue() + "/" + day.getDayOfMonth())
                .toList());
  }

  @Test
  void a_weekday_of_chosen_months() {
    assertThat(inYear("the second Monday of March and September")).isEqualTo("3/8 9/13");
  }

  @Test
  void several_days_a_month() {
    assertThat(inYear("first and third Monday in May")).isEqualTo("5/3 5/17");
    assertThat(inYear("on the 1st and 15th of every 6th month")).isEqualTo("1/1 1/15 7/1 7/15");
  }

  @Test
  void every_so_many_weeks_from_the_first_day_on() {
    assertThat(inYear("every 12 weeks on Tue", LocalDate.of(2027, 1, 6)))
        .as("the Tuesday of the week with the first day has passed by then")
        .isEqualTo("3/30 6/22 9/14 12/7");
  }

  @Test
  void every_so_many_months_are_counted_from_the_first_one() {
    assertThat(inYear("quarterly on the last Friday", LocalDate.of(2026, 11, 5)))
        .isEqualTo("2/26 5/28 8/27 11/26");
  }

  @Test
  void once_a_year() {
    assertThat(inYear("every year on 1 May")).isEqualTo("5/1");
    assertThat(inYear("yearly on the 20th", LocalDate.of(2026, 6, 1))).isEqualTo("6/20");
  }

  @Test
  void a_day_that_a_month_does_not_have_is_its_last() {
    assertThat(inYear("the 31st of February, April and May")).isEqualTo("2/28 4/30 5/31");
    assertThat(inYear("the 29th, 30th and 31st of February")).isEqualTo("2/28");
    assertThat(inYear("last day of every 6 months")).isEqualTo("1/31 7/31");
  }

  @Test
  void nothing_is_due_before_the_first_day_or_after_the_last() {
    var round =
        new Round(
            Repeat.parse("every month on the 10th"),
            LocalDate.of(2027, 2, 11),
            LocalDate.of(2027, 5, 9));
    assertThat(round.dueBetween(NEW_YEAR, NEXT_NEW_YEAR))
        .containsExactly(LocalDate.of(2027, 3, 10), LocalDate.of(2027, 4, 10));
    assertThat(round.nextAfter(LocalDate.of(2026, 1, 1))).isEqualTo(LocalDate.of(2027, 3, 10));
    assertThat(round.nextAfter(LocalDate.of(2027, 3, 10))).isEqualTo(LocalDate.of(2027, 4, 10));
    assertThat(round.nextAfter(LocalDate.of(2027, 4, 10))).isNull();
  }

  @Test
  void the_next_day_of_the_longest_repetition_is_found() {
    var round =
        new Round(Repeat.parse("every 5 years on the 31st"), LocalDate.of(2027, 1, 31), null);
    assertThat(round.nextAfter(LocalDate.of(2027, 1, 31))).isEqualTo(LocalDate.of(2032, 1, 31));
  }

  @Test
  void a_round_that_ends_before_it_begins_cannot_be() {
    assertThatThrownBy(
            () -> new Round(Repeat.parse("monthly on the 1st"), NEW_YEAR, NEW_YEAR.minusDays(1)))
        .isInstanceOf(IllegalArgumentException.class);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "every week on mondays, thursdays|every week on Monday and Thursday",
        "Fortnightly on Wed|every 2 weeks on Wednesday",
        "every other month on the last Friday|every 2 months on the last Friday",
        "every second week on Tues|every 2 weeks on Tuesday",
        "2nd Monday of Mar & Sept|the second Monday of March and September",
        "15 June|the 15th of June",
        "every other year on the 3rd|every 2 years on the 3rd",
        "the last day of March|the last day of March",
      })
  void what_people_say_is_understood(String typed, String meant) {
    assertThat(Repeat.parse(typed).text()).isEqualTo(meant);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "soon|“soon” is no word for this",
        "every Monday|Of which weeks or months?",
        "every 2 weeks|On which weekday?",
        "every month|On which day of the month?",
        "every month on Monday|Which of the month’s weekdays",
        "the first of March|Name the weekday",
        "every 3 weeks on Monday in May|Weeks have weekdays",
        "the 45th of May|No month has a day 45",
        "every 0 weeks on Monday|Every 1 to 104 weeks",
        "every 200 weeks on Monday|Every 1 to 104 weeks",
        "every 61 months on the 1st|Every 1 to 60 months",
        "every 3 months on the 1st of May|Name the months, or say every how many",
        "the 3rd and the last Friday of May|not both",
      })
  void what_cannot_be_meant_is_told_with_an_example(String typed, String told) {
    assertThatThrownBy(() -> Repeat.parse(typed))
        .isInstanceOf(Unreadable.class)
        .hasMessageContaining(told)
        .hasMessageContaining("every 6 weeks on Tuesday");
  }

  @Provide
  Arbitrary<Repeat> repeats() {
    Arbitrary<Set<DayOfWeek>> weekdays =
        Arbitraries.of(DayOfWeek.class).set().ofMinSize(1).ofMaxSize(3);
    Arbitrary<DaysOfMonth> days =
        Arbitraries.oneOf(
            Arbitraries.integers()
                .between(1, 31)
                .list()
                .uniqueElements()
                .ofMinSize(1)
                .ofMaxSize(3)
                .map(DaysOfMonth.OnDates::new),
            Combinators.combine(
                    Arbitraries.of(DaysOfMonth.Which.class).set().ofMinSize(1).ofMaxSize(2),
                    weekdays)
                .as(DaysOfMonth.OnWeekdays::new));
    return Arbitraries.oneOf(
        Combinators.combine(Arbitraries.integers().between(1, 104), weekdays)
            .as(Repeat.EveryWeeks::new),
        Combinators.combine(Arbitraries.integers().between(1, 60), days)
            .as(Repeat.EveryMonths::new),
        Combinators.combine(Arbitraries.of(Month.class).set().ofMinSize(1).ofMaxSize(4), days)
            .as(Repeat.InMonths::new));
  }

  @Property
  void its_words_are_read_back_as_the_same(@ForAll("repeats") Repeat repeat) {
    assertThat(Repeat.parse(repeat.text())).isEqualTo(repeat);
  }

  @Property
  void a_span_cut_anywhere_has_the_same_days(
      @ForAll("repeats") Repeat repeat,
      @ForAll @IntRange(max = 900) int first,
      @ForAll @IntRange(max = 1500) int cut) {
    var round = new Round(repeat, NEW_YEAR.plusDays(first), null);
    LocalDate until = NEW_YEAR.plusDays(1500);
    List<LocalDate> whole = round.dueBetween(NEW_YEAR, until);
    var cutUp = new ArrayList<>(round.dueBetween(NEW_YEAR, NEW_YEAR.plusDays(cut)));
    cutUp.addAll(round.dueBetween(NEW_YEAR.plusDays(cut + 1L), until));
    assertThat(cutUp).isEqualTo(whole).isSorted();
    assertThat(new HashSet<>(whole)).hasSameSizeAs(whole);
  }

  @Property
  void the_next_day_is_the_one_after_in_the_list(
      @ForAll("repeats") Repeat repeat, @ForAll @IntRange(max = 1500) int day) {
    var round = new Round(repeat, NEW_YEAR, null);
    LocalDate next = round.nextAfter(NEW_YEAR.plusDays(day));
    assertThat(next).isNotNull();
    assertThat(round.dueBetween(NEW_YEAR.plusDays(day + 1L), next)).containsExactly(next);
  }
}
