package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.LocalTime;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.IntRange;
import org.junit.jupiter.api.Test;

class StretchTest {
  @Test
  void midnight_at_its_end_is_the_end_of_the_day() {
    assertThat(Stretch.between(LocalTime.of(22, 0), LocalTime.MIDNIGHT).minutes()).isEqualTo(120);
  }

  @Test
  void work_that_begins_in_the_evening_may_end_after_midnight() {
    assertThat(Stretch.of(LocalTime.of(23, 0), 120)).isEqualTo(new Stretch(1380, 1500));
  }

  @Test
  void a_part_of_a_day_is_read_as_people_type_it() {
    for (String typed : List.of("8:00 to 17:30", "8-1730", " 8am – 5:30pm ", "8to17:30")) {
      assertThat(Stretch.parse(typed)).isEqualTo(new Stretch(480, 1050));
    }
    assertThat(Stretch.parse("22 to 0")).isEqualTo(new Stretch(1320, 1440));
  }

  @Test
  void what_ends_before_it_begins_and_what_has_one_end_are_refused() {
    assertThatThrownBy(() -> Stretch.parse("17 to 8")).hasMessageContaining("ends before");
    assertThatThrownBy(() -> Stretch.parse("8 to 8")).hasMessageContaining("ends before");
    assertThatThrownBy(() -> Stretch.parse("8:00")).hasMessageContaining("no part of a day");
  }

  @Test
  void what_ends_when_another_begins_does_not_overlap_it() {
    assertThat(new Stretch(480, 540).overlaps(new Stretch(540, 600))).isFalse();
    assertThat(new Stretch(480, 541).overlaps(new Stretch(540, 600))).isTrue();
  }

  @Test
  void nothing_takes_no_time() {
    assertThatThrownBy(() -> new Stretch(480, 480)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void what_lies_in_the_middle_leaves_two_parts() {
    assertThat(new Stretch(480, 1020).without(List.of(new Stretch(720, 780))))
        .containsExactly(new Stretch(480, 720), new Stretch(780, 1020));
  }

  @Property
  void what_is_left_is_each_minute_that_no_other_has(
      @ForAll @IntRange(max = 1000) int from,
      @ForAll @IntRange(min = 1, max = 400) int minutes,
      @ForAll @IntRange(max = 1000) int otherFrom,
      @ForAll @IntRange(min = 1, max = 400) int otherMinutes) {
    var whole = new Stretch(from, from + minutes);
    var other = new Stretch(otherFrom, otherFrom + otherMinutes);
    List<Stretch> left = whole.without(List.of(other));
    for (int minute = from; minute < from + minutes; minute++) {
      var one = new Stretch(minute, minute + 1);
      assertThat(left.stream().anyMatch(part -> part.holds(one))).isEqualTo(!other.holds(one));
    }
  }
}
