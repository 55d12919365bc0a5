package app.pragmata.server.founding;

import app.pragmata.core.company.BankAccount;
import app.pragmata.server.records.NumberSeries.Series;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A company that is to be founded.
 *
 * @param template of its country, as ISO 3166 writes it, such as "GB", or of countries like it
 * @param vatNumber may be empty, and so may be phone, email and bank
 * @param from the day from which its terms hold: the first on which it works
 * @param firstNumbers where series go on that were begun elsewhere; the others begin with 1
 * @param differs from the template
 */
public record NewCompany(
    String template,
    String name,
    String address,
    String phone,
    String email,
    String vatNumber,
    BankAccount bank,
    LocalDate from,
    Map<Series, Long> firstNumbers,
    Differs differs) {

  /**
   * What is other than in the template; null where nothing is.
   *
   * @param currency ISO 4217
   * @param timeZone of the IANA database
   * @param locale how numbers, days and words are written (BCP 47)
   * @param diallingCode without a plus
   * @param vatPercent of the usual treatment
   */
  public record Differs(
      @Nullable String currency,
      @Nullable String timeZone,
      @Nullable String locale,
      @Nullable String diallingCode,
      @Nullable BigDecimal vatPercent) {
    public static final Differs NOTHING = new Differs(null, null, null, null, null);
  }
}
