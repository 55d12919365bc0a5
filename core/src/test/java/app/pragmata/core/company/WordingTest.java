package app.pragmata.core.company;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatCategory;
import app.pragmata.core.money.VatGroup;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Reader;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Properties;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class WordingTest {
  private static final Locale FINNISH = Locale.forLanguageTag("fi-FI");
  private static final LocalDate DAY = LocalDate.of(2026, 11, 24);

  @ParameterizedTest
  @ValueSource(strings = {"words.properties", "words_fi.properties"})
  void every_language_has_words_for_every_phrase_and_for_no_other(String file) throws IOException {
    List<String> phrases = Arrays.stream(Phrase.values()).map(Phrase::key).toList();
    assertThat(words(file).stringPropertyNames()).containsExactlyInAnyOrderElementsOf(phrases);
  }

  @Test
  void a_language_fills_in_the_same_values_as_english() throws IOException {
    Properties english = words("words.properties");
    Properties finnish = words("words_fi.properties");
    for (Phrase phrase : Phrase.values()) {
      assertThat(values(finnish.getProperty(phrase.key())))
          .as(phrase.key())
          .isEqualTo(values(english.getProperty(phrase.key())));
    }
  }

  @Test
  void a_language_is_offered_when_it_has_a_file_of_words() {
    assertThat(Wording.languagesBesideEnglish()).containsExactly("fi");
  }

  @Test
  void days_and_prices_are_written_as_the_language_has_them() {
    Wording english = Wording.of(Locale.UK);
    Wording finnish = Wording.of(FINNISH);
    assertThat(english.day(DAY)).isEqualTo("24 November 2026");
    assertThat(english.shortDay(DAY)).isEqualTo("24 Nov");
    assertThat(english.price(UnitPrice.of("2.565"))).isEqualTo("2.565");
    assertThat(finnish.day(DAY)).isEqualTo("24. marraskuuta 2026");
    assertThat(finnish.shortDay(DAY)).isEqualTo("24.11.");
    assertThat(finnish.price(UnitPrice.of("58"))).isEqualTo("58,00");
  }

  @Test
  void what_is_taxed_alike_is_named_in_the_language() {
    var rated = new VatGroup(VatCategory.RATED, new BigDecimal("25.5"), "");
    var reverse = new VatGroup(VatCategory.REVERSE_CHARGE, BigDecimal.ZERO, "Rakennustyö");
    assertThat(Wording.of(Locale.UK).vat(rated)).isEqualTo("VAT 25.5 %");
    assertThat(Wording.of(FINNISH).vat(rated)).isEqualTo("ALV 25,5 %");
    assertThat(Wording.of(FINNISH).vat(reverse)).isEqualTo("Käännetty arvonlisävero: Rakennustyö");
  }

  @Test
  void a_language_without_words_gets_english_ones_with_its_own_numbers() {
    Wording german = Wording.of(Locale.GERMANY);
    assertThat(german.say(Phrase.LABOUR_AT_RATE, "2:30", german.price(UnitPrice.of("58"))))
        .isEqualTo("Labour 2:30 at 58,00");
  }

  @Test
  void a_number_of_a_document_is_written_without_grouping() {
    assertThat(Wording.of(Locale.UK).say(Phrase.QUOTE, 1391L)).isEqualTo("Quote 1391");
  }

  private static Set<String> values(String pattern) {
    var found = new TreeSet<String>();
    Pattern.compile("\\{\\d}").matcher(pattern).results().forEach(each -> found.add(each.group()));
    return found;
  }

  private static Properties words(String file) throws IOException {
    var words = new Properties();
    try (Reader reader =
        new InputStreamReader(
            Objects.requireNonNull(Wording.class.getResourceAsStream(file)),
            StandardCharsets.UTF_8)) {
      words.load(reader);
    }
    return words;
  }
}
