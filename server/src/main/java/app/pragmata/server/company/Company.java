package app.pragmata.server.company;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.InForce;
import app.pragmata.core.company.OtherWork;
import app.pragmata.core.company.PayTerms;
import app.pragmata.core.company.Priority;
import app.pragmata.core.company.ResponseTime;
import app.pragmata.core.company.Terms;
import app.pragmata.core.company.Wording;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.customers.Postcode;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.server.records.NumberSeries.Series;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Locale;
import java.util.Map;
import java.util.NavigableMap;
import org.jspecify.annotations.Nullable;

/**
 * The company, its settings and all its terms, as one consistent reading.
 *
 * @param partWantedDays in so many working days somebody is to have seen to a part that is wanted
 * @param tapPositionDays for so many days it is kept where a clock was tapped; 0 for not at all
 * @param otherWork what people are paid for beside visits
 * @param deskSession how long after the sign-in those who work at a desk sign in again
 */
public record Company(
    Identity identity,
    ZoneId zone,
    Locale locale,
    String currency,
    Postcode postcode,
    String diallingCode,
    WorkingCalendar calendar,
    Terms terms,
    InForce<PayTerms> pay,
    Promises promises,
    QuoteSettings quoting,
    Patience patience,
    int partWantedDays,
    int tapPositionDays,
    OtherWork otherWork,
    Duration deskSession,
    Numbering numbering) {

  /** The words of its documents. */
  public Wording wording() {
    return Wording.of(locale);
  }

  /** Reads amounts as they are typed here. */
  public TypedMoney typed() {
    return TypedMoney.of(currency, locale);
  }

  /** As the company stands on every document; what it does not have is empty. */
  public record Identity(
      String name, String address, String phone, String email, String vatNumber, String bank) {}

  /**
   * How numbers are written.
   *
   * @param prefixes of each series by the first number that has it
   */
  public record Numbering(Map<Series, NavigableMap<Long, String>> prefixes) {
    /** A number as documents print it, such as "INV-4001". */
    public String text(Series series, long number) {
      NavigableMap<Long, String> ofSeries = prefixes.get(series);
      var prefix = ofSeries == null ? null : ofSeries.floorEntry(number);
      return (prefix == null ? "" : prefix.getValue()) + number;
    }

    /** The bare number of one that is typed as it is printed; anything else as it is. */
    public String bare(String typed) {
      String plain = typed.strip().toUpperCase(Locale.ROOT);
      return prefixes.values().stream()
          .flatMap(ofSeries -> ofSeries.values().stream())
          .filter(prefix -> !prefix.isEmpty() && plain.startsWith(prefix))
          .map(prefix -> plain.substring(prefix.length()))
          .filter(rest -> rest.matches("[0-9]+"))
          .findFirst()
          .orElse(typed);
    }
  }

  /** For how many days money may stand at a stage before it is marked. */
  public record Patience(int quotedDays, int wonDays, int workedDays, int checkedDays) {}

  /** What holds for every quote until somebody says otherwise on it. */
  public record QuoteSettings(
      int validDays,
      int depositDueDays,
      int followUpDays,
      BigDecimal floorMarginPercent,
      LetterWords letterWords) {}

  /** The office's own words around what a mail has to say; empty for none. */
  public record LetterWords(String opening, String closing) {}

  /**
   * How soon customers are promised somebody.
   *
   * @param usualTermsId of the terms of everybody who has none of their own
   */
  public record Promises(long usualTermsId, Map<Long, InForce<Promised>> byTerms) {
    /** What one set of terms promises from a day on. */
    public record Promised(LocalDate fromDay, Map<Priority, ResponseTime> times)
        implements InForce.Dated {}

    /** What is promised on a day to a customer of these terms, or of the usual ones. */
    public ResponseTime on(@Nullable Long termsId, Priority priority, LocalDate day) {
      InForce<Promised> promised = byTerms.get(termsId == null ? usualTermsId : termsId);
      ResponseTime time = promised == null ? null : promised.on(day).times().get(priority);
      if (time == null) {
        throw new Refused(
            Rule.NOTHING_IN_FORCE,
            "No time is promised for %s work. Enter it under Settings first."
                .formatted(priority.code()));
      }
      return time;
    }
  }
}
