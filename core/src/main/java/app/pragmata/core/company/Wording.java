package app.pragmata.core.company;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatGroup;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.text.MessageFormat;
import java.text.NumberFormat;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.Currency;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.MissingResourceException;
import java.util.Objects;
import java.util.ResourceBundle;
import java.util.TreeMap;
import java.util.concurrent.ConcurrentHashMap;

/**
 * The words of documents in a company's language, and how it writes numbers and days. A language
 * without words of its own gets English ones with its own numbers.
 */
public final class Wording {
  private static final Map<Locale, Wording> KNOWN = new ConcurrentHashMap<>();

  private final Locale locale;

  // Read once and copied for each use: a format has room for one text at a time.
  private final Map<Phrase, MessageFormat> phrases = new EnumMap<>(Phrase.class);
  private final DecimalFormat priceFormat;
  private final DateTimeFormatter dayFormat;
  private final DateTimeFormatter shortDayFormat;

  private Wording(Locale locale) {
    this.locale = locale;
    ResourceBundle words = words(locale);
    for (Phrase phrase : Phrase.values()) {
      phrases.put(phrase, new MessageFormat(words.getString(phrase.key()), Locale.ROOT));
    }
    priceFormat = new DecimalFormat("0.00##", DecimalFormatSymbols.getInstance(locale));
    dayFormat = DateTimeFormatter.ofPattern(words.getString(Phrase.DAY.key()), locale);
    shortDayFormat = DateTimeFormatter.ofPattern(words.getString(Phrase.SHORT_DAY.key()), locale);
  }

  /**
   * The words of a locale's language.
   *
   * @throws MissingResourceException when a phrase has no words
   */
  public static Wording of(Locale locale) {
    return KNOWN.computeIfAbsent(locale, Wording::new);
  }

  /** The languages that have words of their own, by their codes (ISO 639), but for English. */
  public static List<String> languagesBesideEnglish() {
    return Arrays.stream(Locale.getISOLanguages())
        .filter(code -> words(Locale.of(code)).getLocale().getLanguage().equals(code))
        .toList();
  }

  private static ResourceBundle words(Locale locale) {
    return ResourceBundle.getBundle(
        Wording.class.getPackageName() + ".words",
        locale,
        ResourceBundle.Control.getNoFallbackControl(ResourceBundle.Control.FORMAT_PROPERTIES));
  }

  /** A phrase with its values filled in; numbers are passed as they are to be read. */
  public String say(Phrase phrase, Object... values) {
    var copy = (MessageFormat) Objects.requireNonNull(phrases.get(phrase)).clone();
    return copy.format(values);
  }

  /** Whether these are the English words, as those of the rules are. */
  public boolean isEnglish() {
    return words(locale).getLocale().getLanguage().isEmpty();
  }

  /** What a customer's page says, by its keys, the places for the values still in it: "{0}". */
  public Map<String, String> ofPage() {
    var words = new TreeMap<String, String>();
    for (Phrase phrase : Phrase.values()) {
      if (phrase.isOfPage()) {
        words.put(phrase.key(), say(phrase, "{0}", "{1}", "{2}", "{3}"));
      }
    }
    return words;
  }

  /** A whole number as it names a document, without any grouping. */
  public String say(Phrase phrase, long number) {
    return say(phrase, String.valueOf(number));
  }

  /** A day as it is written in a document, such as “24 November 2026”. */
  public String day(LocalDate day) {
    return dayFormat.format(day);
  }

  /** A day without its year, such as “24 Nov”. */
  public String shortDay(LocalDate day) {
    return shortDayFormat.format(day);
  }

  /** An amount with its currency's sign, such as “£1,250.00”. */
  public String money(Money amount, String currency) {
    NumberFormat format = NumberFormat.getCurrencyInstance(locale);
    format.setCurrency(Currency.getInstance(currency));
    return format.format(amount.major());
  }

  /** A price with two decimals, or up to four where they are needed. */
  public String price(UnitPrice price) {
    return ((DecimalFormat) priceFormat.clone()).format(price.major());
  }

  /** How a document names what is taxed alike, such as “VAT 20 %”. */
  public String vat(VatGroup group) {
    return switch (group.category()) {
      case RATED -> say(Phrase.VAT_RATED, decimal(group));
      case ZERO -> say(Phrase.VAT_ZERO);
      case EXEMPT -> say(Phrase.VAT_EXEMPT, group.reason());
      case REVERSE_CHARGE -> say(Phrase.VAT_REVERSE_CHARGE, group.reason());
      case OUTSIDE_SCOPE -> say(Phrase.VAT_OUTSIDE_SCOPE, group.reason());
    };
  }

  private String decimal(VatGroup group) {
    return new DecimalFormat("0.##", DecimalFormatSymbols.getInstance(locale))
        .format(group.percent());
  }
}
