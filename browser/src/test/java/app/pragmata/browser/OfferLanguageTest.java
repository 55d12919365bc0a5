package app.pragmata.browser;

import static app.pragmata.server.generated.Tables.QUOTE_LINK;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.server.FoundedCompany;
import app.pragmata.server.RunningPragmata;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import java.util.Arrays;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** The customer's page of a Finnish company. */
class OfferLanguageTest {
  private static Set<String> words(String text) {
    return Stream.of(text.toLowerCase(Locale.ROOT).split("[^\\p{L}]+"))
        .filter(word -> word.length() > 1)
        .collect(Collectors.toSet());
  }

  private static Set<String> wordsOfBundle(Locale locale) {
    return Arrays.stream(Phrase.values())
        .filter(phrase -> phrase != Phrase.DAY && phrase != Phrase.SHORT_DAY)
        .flatMap(phrase -> words(Wording.of(locale).say(phrase, "", "", "", "", "")).stream())
        .collect(Collectors.toSet());
  }

  @Test
  void it_speaks_finnish_and_says_no_english_word_of_the_bundle() {
    Set<String> english = wordsOfBundle(Locale.UK);
    english.removeAll(wordsOfBundle(Locale.forLanguageTag("fi-FI")));
    try (var company = new FoundedCompany("language", "2026-11-24T06:00:00Z")) {
      long quote = company.sentQuote();
      String token =
          company
              .database()
              .select(QUOTE_LINK.TOKEN)
              .from(QUOTE_LINK)
              .where(QUOTE_LINK.QUOTE_ID.eq(quote))
              .fetchSingle(QUOTE_LINK.TOKEN);
      Page phone = Chromium.window(RunningPragmata.forTests(), 390, 844);
      phone.navigate(company.address() + "/offer/" + token);
      phone.getByText("Ei kiitos").click();
      phone.getByText("Hyväksy, yhteensä").click();
      PlaywrightAssertions.assertThat(phone.locator(".fault").first())
          .hasText("Kirjoittakaa tähän jotakin.");
      assertThat(words(phone.locator("main").innerText()))
          .contains("tarjous", "hyväksyminen", "yhteensä")
          .doesNotContainAnyElementsOf(english);
      phone.getByLabel("Nimenne").fill("Rouva Lehto");
      phone.getByText("Hyväksy, yhteensä").click();
      PlaywrightAssertions.assertThat(phone.locator("main [role=status]"))
          .containsText("Rouva Lehto hyväksyi tämän");
      assertThat(words(phone.locator("main").innerText())).doesNotContainAnyElementsOf(english);
      // What was accepted is told by a long sum; still nothing scrolls sideways.
      assertThat(phone.evaluate("document.documentElement.scrollWidth")).isEqualTo(390);
      phone.close();
    }
  }
}
