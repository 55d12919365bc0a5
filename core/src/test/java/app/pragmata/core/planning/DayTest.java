package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Unreadable;
import java.time.LocalDate;
import java.time.LocalTime;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class DayTest {
  private static final LocalDate TUESDAY = LocalDate.of(2026, 11, 24);

  @ParameterizedTest
  @CsvSource({
    "today,2026-11-24",
    "tomorrow,2026-11-25",
    "tue,2026-11-24",
    "monday,2026-11-30",
    "+3,2026-11-27",
    "24 nov,2026-11-24",
    "3 jan,2027-01-03",
    "24/11,2026-11-24",
    "1.12.26,2026-12-01",
    "2026-12-24,2026-12-24",
    "wed 25 nov,2026-11-25"
  })
  void days_are_read_the_way_people_type_them(String typed, LocalDate expected) {
    assertThat(Day.parse(typed, TUESDAY)).isEqualTo(expected);
  }

  @ParameterizedTest
  @ValueSource(strings = {"31 feb", "someday", "45", "2026-13-01"})
  void what_is_no_day_is_refused_with_examples(String typed) {
    assertThatThrownBy(() -> Day.parse(typed, TUESDAY))
        .isInstanceOf(Unreadable.class)
        .hasMessageContaining("24 nov");
  }

  @ParameterizedTest
  @CsvSource({"8,08:00", "8:30,08:30", "0830,08:30", "17.35,17:35", "2pm,14:00", "1430,14:30"})
  void times_of_day_are_read_the_way_people_type_them(String typed, LocalTime expected) {
    assertThat(Day.parseTime(typed)).isEqualTo(expected);
  }
}
