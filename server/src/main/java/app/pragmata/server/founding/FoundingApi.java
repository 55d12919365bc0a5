package app.pragmata.server.founding;

import static app.pragmata.server.generated.Tables.COMPANY;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.company.BankAccount;
import app.pragmata.core.company.Wording;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.people.Role;
import app.pragmata.core.people.Username;
import app.pragmata.server.people.Passwords;
import app.pragmata.server.records.Made;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.ZoneId;
import java.util.Currency;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/**
 * Founds the company from a page, once. Whoever does it shows that the program is theirs with a
 * word that was printed where it was started.
 */
@RestController
class FoundingApi {
  /**
   * What the page offers.
   *
   * @param founded whether there is a company already
   * @param languages of documents, by the locale that they are written in
   */
  record FoundingOffer(
      boolean founded,
      List<Template> templates,
      List<Language> languages,
      List<String> timeZones) {}

  /**
   * What is usual in a country.
   *
   * @param vatPercent of the usual treatment; null where the template does not know it
   */
  record Template(
      String code,
      String name,
      String currency,
      String timeZone,
      String language,
      String diallingCode,
      @Nullable BigDecimal vatPercent) {}

  record Language(String locale, String name) {}

  /** The company and its first person as typed. */
  record FoundingForm(
      @Nullable String word,
      @Nullable String template,
      @Nullable String name,
      @Nullable String address,
      @Nullable String phone,
      @Nullable String email,
      @Nullable String vatNumber,
      @Nullable String bank,
      @Nullable String iban,
      @Nullable String currency,
      @Nullable String timeZone,
      @Nullable String language,
      @Nullable String diallingCode,
      @Nullable String vatPercent,
      @Nullable String ownerName,
      @Nullable String username,
      @Nullable String password) {}

  /** English as it is written where there is a template, then every language that has words. */
  private static final List<String> LOCALES =
      Stream.concat(
              Stream.of("en-GB", "en-IE", "en-MT"),
              Wording.languagesBesideEnglish().stream().flatMap(FoundingApi::localesOf))
          .toList();

  private final Founding founding;
  private final DSLContext database;
  private final Clock clock;
  private final String word;

  FoundingApi(
      Founding founding,
      DSLContext database,
      Clock clock,
      @Value("${pragmata.founding-word:}") String word) {
    this.founding = founding;
    this.database = database;
    this.clock = clock;
    this.word = word;
  }

  @GetMapping("/api/founding")
  FoundingOffer getFoundingOffer() {
    return new FoundingOffer(
        database.fetchExists(COMPANY),
        founding.templates().entrySet().stream().map(FoundingApi::template).toList(),
        LOCALES.stream().map(FoundingApi::language).toList(),
        new TreeSet<>(ZoneId.getAvailableZoneIds())
            .stream()
                .filter(
                    zone ->
                        zone.matches(
                            "(Africa|America|Asia|Atlantic|Australia|Europe|Indian|Pacific)/.+|UTC"))
                .toList());
  }

  private static Template template(Map.Entry<String, CountryTemplate> entry) {
    CountryTemplate template = entry.getValue();
    return new Template(
        entry.getKey(),
        template.name(),
        template.currency(),
        template.timeZone(),
        template.locale(),
        template.diallingCode(),
        template.vat().stream()
            .filter(CountryTemplate.Vat::usual)
            .findFirst()
            .map(CountryTemplate.Vat::percent)
            .orElse(null));
  }

  private static Stream<String> localesOf(String language) {
    return Locale.availableLocales()
        .filter(locale -> locale.getLanguage().equals(language))
        .map(Locale::toLanguageTag)
        .filter(tag -> tag.matches("[a-z]{2}-[A-Z]{2}"))
        .sorted();
  }

  private static Language language(String tag) {
    Locale locale = Locale.forLanguageTag(tag);
    return new Language(
        tag,
        "%s, as in %s"
            .formatted(
                locale.getDisplayLanguage(Locale.ENGLISH),
                locale.getDisplayCountry(Locale.ENGLISH)));
  }

  /** Founds the company with its owner, who can sign in then; refused when there is one. */
  @PostMapping("/api/founding")
  Made foundCompany(@RequestBody FoundingForm form) {
    requireWord(form.word());
    var reading = new Reading();
    String template = reading.required("template", form.template(), founding::requireTemplate);
    String name = reading.text("name", form.name(), 120);
    String address = reading.text("address", form.address(), 300);
    String phone = reading.optionalText("phone", form.phone(), 40);
    String email = reading.optional("email", form.email(), MailAddress::parse);
    String vatNumber = reading.optionalText("vatNumber", form.vatNumber(), 30);
    String bank = reading.optionalText("bank", form.bank(), 200);
    String iban = reading.optional("iban", form.iban(), BankAccount::parseIban);
    String currency = reading.required("currency", form.currency(), FoundingApi::currency);
    String timeZone = reading.required("timeZone", form.timeZone(), FoundingApi::timeZone);
    String language = reading.required("language", form.language(), FoundingApi::known);
    String diallingCode =
        reading.required("diallingCode", form.diallingCode(), FoundingApi::diallingCode);
    BigDecimal vatPercent =
        reading.required("vatPercent", form.vatPercent(), FoundingApi::vatPercent);
    String ownerName = reading.text("ownerName", form.ownerName(), 80);
    String username = reading.required("username", form.username(), Username::parse);
    String password =
        Passwords.read(reading, "password", form.password(), username == null ? "" : username);
    reading.refuseIfFaulty();
    return new Made(
        founding.foundBy(
            new NewCompany(
                Objects.requireNonNull(template),
                Objects.requireNonNull(name),
                Objects.requireNonNull(address),
                phone,
                email == null ? "" : email,
                vatNumber,
                new BankAccount(bank, iban == null ? "" : iban, ""),
                clock.instant().atZone(ZoneId.of(Objects.requireNonNull(timeZone))).toLocalDate(),
                Map.of(),
                new NewCompany.Differs(currency, timeZone, language, diallingCode, vatPercent)),
            new NewPerson(
                Objects.requireNonNull(ownerName),
                Objects.requireNonNull(username),
                Objects.requireNonNull(password),
                Role.OWNER,
                null)));
  }

  private void requireWord(@Nullable String typed) {
    boolean right =
        !word.isEmpty()
            && typed != null
            && MessageDigest.isEqual(
                word.getBytes(StandardCharsets.UTF_8),
                typed.strip().toLowerCase(Locale.ROOT).getBytes(StandardCharsets.UTF_8));
    if (!right) {
      var reading = new Reading();
      reading.fault(
          "word",
          Rule.WRONG_WORD,
          "This is not the word that ./pragmata start printed when it began. Copy it from there.");
      reading.refuseIfFaulty();
    }
  }

  private static String currency(String typed) {
    String code = typed.toUpperCase(Locale.ROOT);
    boolean known =
        Currency.getAvailableCurrencies().stream()
            .anyMatch(
                currency ->
                    currency.getCurrencyCode().equals(code)
                        && currency.getDefaultFractionDigits() == 2);
    if (!known) {
      throw new Unreadable(
          Rule.UNKNOWN_WORD,
          "Enter a currency of hundredths by its three letters, such as GBP or EUR.");
    }
    return code;
  }

  private static String timeZone(String typed) {
    if (!ZoneId.getAvailableZoneIds().contains(typed)) {
      throw new Unreadable(
          Rule.UNKNOWN_WORD, "Choose a zone from the list, such as Europe/London.");
    }
    return typed;
  }

  private static String known(String typed) {
    if (!LOCALES.contains(typed)) {
      throw new Unreadable(Rule.UNKNOWN_WORD, "Choose a language from the list.");
    }
    return typed;
  }

  private static String diallingCode(String typed) {
    String digits = typed.replaceAll("^(\\+|00)", "");
    if (!digits.matches("[1-9][0-9]{0,2}")) {
      throw new Unreadable(Rule.UNREADABLE, "Enter the dialling code of the country, such as 44.");
    }
    return digits;
  }

  private static BigDecimal vatPercent(String typed) {
    String number = typed.replace("%", "").strip().replace(',', '.');
    if (!number.matches("\\d{1,2}(\\.\\d{1,2})?") || new BigDecimal(number).signum() == 0) {
      throw new Unreadable(
          Rule.UNREADABLE, "Enter the usual rate of VAT as a percentage, such as 20 or 25.5.");
    }
    return new BigDecimal(number);
  }
}
