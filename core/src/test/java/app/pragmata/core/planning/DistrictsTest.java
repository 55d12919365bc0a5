package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Unreadable;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class DistrictsTest {
  @Test
  void a_postcode_lies_in_what_stands_before_its_blank() {
    assertThat(Districts.of(" os5 2qt")).isEqualTo("OS5");
    assertThat(Districts.of("00100")).isEqualTo("00100");
    assertThat(Districts.of("")).isEmpty();
    assertThat(Districts.of("?? 1")).isEmpty();
  }

  @Test
  void a_postcode_without_its_blank_lies_in_the_same_district() {
    assertThat(Districts.of("OS52QT")).isEqualTo("OS5");
    assertThat(Districts.of("OS122QT")).isEqualTo("OS12");
    assertThat(Districts.of("OS12")).isEqualTo("OS12");
  }

  @Test
  void districts_are_read_each_once_however_they_are_parted() {
    assertThat(Districts.parse("os5, OS1;OS1  os12")).containsExactly("OS1", "OS12", "OS5");
  }

  @Test
  void what_is_no_district_is_refused_with_how_to_enter_it() {
    assertThatThrownBy(() -> Districts.parse("OS1, the harbour!"))
        .isInstanceOf(Unreadable.class)
        .hasMessage("“harbour!” is no postcode district. Enter them like OS1, OS2, OS5.");
    String many =
        IntStream.rangeClosed(1, 101).mapToObj(i -> "OS" + i).collect(Collectors.joining(" "));
    assertThatThrownBy(() -> Districts.parse(many)).isInstanceOf(Unreadable.class);
  }
}
