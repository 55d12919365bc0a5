package app.pragmata.core.checklists;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Fault;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import java.math.BigDecimal;
import java.util.Collections;
import java.util.List;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.Scale;
import org.junit.jupiter.api.Test;

class ChecklistTest {
  private static final Asks FORCE = new Asks.Measurement("N", null, new BigDecimal("400"));
  private static final Asks HINGES =
      new Asks.Choice(List.of("good", "worn", "broken"), Set.of("broken"));

  private static ChecklistItem item(String question, Asks asks) {
    return new ChecklistItem(question, asks, true, false);
  }

  private static List<Fault> faults(ChecklistItem... items) {
    var reading = new Reading();
    new Checklist(List.of(items)).check(reading);
    return reading.faults();
  }

  @Test
  void a_measurement_at_its_limit_is_within_it_and_one_beyond_is_not() {
    assertThat(FORCE.read("400")).isEqualTo(new Answer("400", false));
    assertThat(FORCE.read("400.001")).isEqualTo(new Answer("400.001", true));
    assertThat(new Asks.Measurement("", new BigDecimal("2"), null).read("1.999").outOfLimits())
        .isTrue();
  }

  @Test
  void a_measurement_is_kept_in_its_plain_form_without_its_unit() {
    assertThat(FORCE.read("380.50 N").text()).isEqualTo("380.5");
    assertThat(FORCE.read("1,200").text()).isEqualTo("1200");
    assertThat(new Asks.Measurement("°C", null, null).read("−4 °C").text()).isEqualTo("-4");
  }

  @Property
  void whatever_is_measured_reads_the_same_when_it_is_given_back(
      @ForAll @BigRange(min = "-999999999", max = "999999999") @Scale(3) BigDecimal measured) {
    Answer once = FORCE.read(measured.toPlainString());
    assertThat(new BigDecimal(once.text())).isEqualByComparingTo(measured);
    assertThat(FORCE.read(once.text())).isEqualTo(once);
  }

  @Test
  void what_is_no_number_or_has_too_many_digits_is_told() {
    assertThatThrownBy(() -> FORCE.read("about 400")).isInstanceOf(Unreadable.class);
    assertThatThrownBy(() -> FORCE.read("0.0001")).hasMessageContaining("decimals");
    assertThatThrownBy(() -> FORCE.read("1234567890")).isInstanceOf(Unreadable.class);
  }

  @Test
  void a_choice_takes_only_its_own_answers_and_tells_them() {
    assertThat(HINGES.read("worn")).isEqualTo(new Answer("worn", false));
    assertThat(HINGES.read("broken").outOfLimits()).isTrue();
    assertThatThrownBy(() -> HINGES.read("fine")).hasMessageContaining("good, worn, broken");
  }

  @Test
  void yes_and_no_are_read_in_any_case() {
    assertThat(new Asks.YesNo(Set.of("no")).read("No")).isEqualTo(new Answer("no", true));
  }

  @Test
  void a_photo_is_not_typed() {
    assertThatThrownBy(() -> new Asks.Photo().read("it looks fine")).hasMessageContaining("photo");
  }

  @Test
  void words_have_a_length_that_they_keep_to() {
    assertThatThrownBy(() -> new Asks.Text().read("x".repeat(Asks.LONGEST_TEXT + 1)))
        .hasMessageContaining("1001");
    assertThatThrownBy(() -> new Asks.Text().read("a\0b")).isInstanceOf(Unreadable.class);
  }

  @Test
  void a_list_without_faults_is_taken() {
    assertThat(
            faults(
                item("Closing force", FORCE),
                item("Hinges", HINGES),
                item("Photo of the rating plate", new Asks.Photo())))
        .isEmpty();
  }

  @Test
  void an_empty_list_a_question_asked_twice_and_limits_that_cross_are_told_at_their_fields() {
    assertThat(faults()).extracting(Fault::rule).containsExactly(Rule.NO_LINES);
    assertThat(faults(item("Hinges", HINGES), item("hinges", FORCE)))
        .extracting(Fault::field)
        .containsExactly("items/1/question");
    assertThat(
            faults(
                item(
                    "Pressure",
                    new Asks.Measurement("bar", new BigDecimal("8"), new BigDecimal("2")))))
        .extracting(Fault::field)
        .containsExactly("items/0/most");
  }

  @Test
  void a_choice_has_two_answers_that_differ_and_one_that_is_as_it_should_be() {
    assertThat(faults(item("Hinges", new Asks.Choice(List.of("good"), Set.of()))))
        .extracting(Fault::rule)
        .containsExactly(Rule.NO_LINES);
    assertThat(faults(item("Hinges", new Asks.Choice(Collections.nCopies(2, "good"), Set.of()))))
        .extracting(Fault::rule)
        .containsExactly(Rule.REPEATED);
    assertThat(faults(item("Seals", new Asks.YesNo(Set.of("yes", "no")))))
        .extracting(Fault::field)
        .containsExactly("items/0/wrong");
    assertThat(faults(item("Seals", new Asks.YesNo(Set.of("maybe")))))
        .extracting(Fault::rule)
        .containsExactly(Rule.NOT_FOUND);
  }

  @Test
  void the_office_hears_only_of_what_can_be_out_of_limits() {
    assertThat(faults(new ChecklistItem("Remarks", new Asks.Text(), false, true)))
        .extracting(Fault::field)
        .containsExactly("items/0/raisesToDo");
  }
}
