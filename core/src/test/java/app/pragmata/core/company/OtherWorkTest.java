package app.pragmata.core.company;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class OtherWorkTest {
  @Test
  void names_stand_between_commas_each_once() {
    assertThat(OtherWork.parse(" Yard,Training , ,Yard").names())
        .containsExactly("Yard", "Training");
  }

  @Test
  void what_is_shown_reads_back_as_the_same() {
    var work = OtherWork.parse("Yard, Training");
    assertThat(OtherWork.parse(work.text())).isEqualTo(work);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"1,2,3,4,5,6,7,8,9", "A kind of work whose name is far too long to be on a phone"})
  void more_than_a_phone_shows_is_refused(String typed) {
    assertThatThrownBy(() -> OtherWork.parse(typed))
        .isInstanceOfSatisfying(
            Unreadable.class, refused -> assertThat(refused.rule()).isEqualTo(Rule.TOO_LONG));
  }
}
