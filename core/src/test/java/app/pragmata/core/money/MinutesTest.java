package app.pragmata.core.money;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class MinutesTest {
  @ParameterizedTest
  @CsvSource({
    "2:35,155",
    "2h35,155",
    "2h,120",
    "45m,45",
    "2.5,150",
    "1,60",
    "90,90",
    "0:05,5",
    "2 h 15 min,135"
  })
  void lengths_of_time_are_read_the_way_people_type_them(String typed, int minutes) {
    assertThat(Minutes.parse(typed)).isEqualTo(minutes);
  }

  @ParameterizedTest
  @CsvSource({
    "-1:00,NEGATIVE",
    "1:75,UNREADABLE",
    "soon,UNREADABLE",
    "99999:00,UNREADABLE",
    "'2,5',UNREADABLE"
  })
  void what_is_no_length_of_time_is_refused_by_its_rule(String typed, Rule rule) {
    assertThatThrownBy(() -> Minutes.parse(typed))
        .isInstanceOfSatisfying(
            Unreadable.class, unreadable -> assertThat(unreadable.rule()).isEqualTo(rule));
  }

  @Property
  void what_is_written_reads_back_the_same(@ForAll @IntRange(max = 599_999) int minutes) {
    assertThat(Minutes.parse(Minutes.text(minutes))).isEqualTo(minutes);
  }

  @Property
  void rounding_up_gives_whole_steps_and_less_than_one_step_more(
      @ForAll @IntRange(max = 5_000) int minutes, @ForAll @IntRange(min = 1, max = 240) int step) {
    int rounded = Minutes.roundedUp(minutes, step);
    assertThat(rounded % step).isZero();
    assertThat(rounded - minutes).isBetween(0, step - 1);
  }
}
