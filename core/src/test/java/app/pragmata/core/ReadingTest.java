package app.pragmata.core;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.money.TypedMoney;
import java.math.BigDecimal;
import java.util.Locale;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.BigRange;
import net.jqwik.api.constraints.Scale;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ReadingTest {
  private static final TypedMoney TYPED = TypedMoney.of("GBP", Locale.UK);

  private final Reading reading = new Reading();

  @Test
  void signs_that_turn_the_direction_of_a_name_are_lost() {
    assertThat(reading.text("name", "Ferrow\u202E etaG\u200F \u2066& Co\u2069", 120))
        .isEqualTo("Ferrow etaG & Co");
  }

  @Test
  void control_characters_are_lost_and_a_name_is_one_line() {
    assertThat(reading.text("name", "Tern\u0007 Lane\r\n Garage\u001b", 120))
        .isEqualTo("Tern Lane Garage");
  }

  @Test
  void a_longer_text_keeps_its_lines() {
    assertThat(reading.text("notes", "Key safe.\r\nCode at the office.", 500))
        .isEqualTo("Key safe.\nCode at the office.");
  }

  @Test
  void what_cannot_be_seen_alone_is_nothing() {
    assertThat(reading.text("name", " \u200E\u2066 ", 120)).isNull();
    assertThat(reading.faults()).extracting(Fault::rule).containsExactly(Rule.MISSING);
  }

  @ParameterizedTest
  @CsvSource({"2,2", "1.5,1.5", "0.125,0.125", "'1,200',1200", "12 000,12000", "2.000,2"})
  void quantities_are_read_the_way_people_type_them(String typed, BigDecimal quantity) {
    assertThat(Reading.quantity(typed)).isEqualByComparingTo(quantity);
  }

  @ParameterizedTest
  @CsvSource({
    "0,MISSING",
    "-1,NEGATIVE",
    "1.2345,UNREADABLE",
    "two,UNREADABLE",
    "100001,TOO_LARGE",
    "1e3,UNREADABLE",
    "'1,5',UNREADABLE"
  })
  void what_is_no_quantity_is_refused_by_its_rule(String typed, Rule rule) {
    refuses(() -> Reading.quantity(typed), rule);
  }

  @ParameterizedTest
  @CsvSource({"18.4,18.4", "0,0", "1000,1000", "'1,000',1000"})
  void miles_are_read_the_way_people_type_them(String typed, BigDecimal miles) {
    assertThat(Reading.miles(typed)).isEqualByComparingTo(miles);
  }

  @ParameterizedTest
  @CsvSource({
    "1000.1,TOO_LARGE",
    "-0.1,NEGATIVE",
    "18.45,UNREADABLE",
    "'18,4',UNREADABLE",
    "far,UNREADABLE"
  })
  void what_is_no_distance_is_refused_by_its_rule(String typed, Rule rule) {
    refuses(() -> Reading.miles(typed), rule);
  }

  @Property
  void a_quantity_that_is_written_reads_back_the_same(
      @ForAll @BigRange(min = "0.001", max = "100000") @Scale(3) BigDecimal quantity) {
    assertThat(Reading.quantity(quantity.toPlainString())).isEqualByComparingTo(quantity);
  }

  @Test
  void every_fault_is_kept_in_the_order_of_the_fields() {
    reading.required("price", "x", TYPED::money);
    reading.text("title", "  ", 10);
    reading.optional("cost", "-1", TYPED::money);
    assertThat(reading.faults())
        .extracting(Fault::field, Fault::rule)
        .containsExactly(
            org.assertj.core.groups.Tuple.tuple("price", Rule.UNREADABLE),
            org.assertj.core.groups.Tuple.tuple("title", Rule.MISSING),
            org.assertj.core.groups.Tuple.tuple("cost", Rule.NEGATIVE));
  }

  @Test
  void all_faults_are_thrown_together() {
    reading.required("price", null, TYPED::money);
    reading.required("quantity", "", Reading::quantity);
    assertThatThrownBy(reading::refuseIfFaulty)
        .isInstanceOfSatisfying(Refused.class, refused -> assertThat(refused.faults()).hasSize(2));
  }

  @Test
  void a_form_without_faults_passes() {
    reading.text("title", "Swing gate", 120);
    reading.refuseIfFaulty();
    assertThat(reading.faults()).isEmpty();
  }

  @Test
  void an_optional_entry_left_empty_is_no_fault_and_no_value() {
    assertThat(reading.optional("cost", " ", TYPED::money)).isNull();
    assertThat(reading.faults()).isEmpty();
  }

  @Test
  void text_loses_the_blanks_around_it_and_nothing_else() {
    assertThat(reading.text("title", "  O'Brien <b> 🚪 \n", 30)).isEqualTo("O'Brien <b> 🚪");
  }

  @Test
  void text_of_exactly_the_longest_length_is_taken() {
    assertThat(reading.text("title", "x".repeat(120), 120)).hasSize(120);
  }

  @Test
  void text_that_is_too_long_is_told_both_lengths() {
    reading.text("title", "x".repeat(121), 120);
    assertThat(reading.faults().getFirst().message()).contains("121").contains("120");
  }

  @Test
  void text_that_the_database_cannot_hold_is_refused_before_it_gets_there() {
    reading.text("title", "a\0b", 120);
    assertThat(reading.faults()).extracting(Fault::rule).containsExactly(Rule.UNREADABLE);
  }

  @Test
  void a_message_quotes_no_more_than_the_beginning_of_what_was_typed() {
    assertThat(Reading.abridged("x".repeat(31))).isEqualTo("x".repeat(30) + "…");
    assertThat(Reading.abridged("x".repeat(30))).isEqualTo("x".repeat(30));
  }

  private static void refuses(
      org.assertj.core.api.ThrowableAssert.ThrowingCallable act, Rule rule) {
    assertThatThrownBy(act)
        .isInstanceOfSatisfying(
            Unreadable.class, unreadable -> assertThat(unreadable.rule()).isEqualTo(rule));
  }
}
