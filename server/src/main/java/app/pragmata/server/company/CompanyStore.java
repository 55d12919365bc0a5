package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.CHARGE_TERMS;
import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.COST_TERMS;
import static app.pragmata.server.generated.Tables.HOLIDAY;
import static app.pragmata.server.generated.Tables.MARKUP_BAND;
import static app.pragmata.server.generated.Tables.NUMBER_RANGE;
import static app.pragmata.server.generated.Tables.PAY_TERMS;
import static app.pragmata.server.generated.Tables.RATE_CLASS_TERMS;
import static app.pragmata.server.generated.Tables.RESPONSE_TERMS;
import static app.pragmata.server.generated.Tables.RESPONSE_TIME;
import static app.pragmata.server.generated.Tables.SETTINGS_VERSION;
import static app.pragmata.server.generated.Tables.VAT_PERCENT;
import static app.pragmata.server.generated.Tables.VAT_TREATMENT;
import static app.pragmata.server.generated.Tables.VEHICLE_COST;
import static app.pragmata.server.generated.Tables.WAGE;
import static app.pragmata.server.generated.Tables.WORKING_HOURS;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.toMap;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.BankAccount;
import app.pragmata.core.company.ChargeTerms;
import app.pragmata.core.company.CostTerms;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.InForce;
import app.pragmata.core.company.Markup;
import app.pragmata.core.company.OtherWork;
import app.pragmata.core.company.PayClass;
import app.pragmata.core.company.PayTerms;
import app.pragmata.core.company.Rates;
import app.pragmata.core.company.ResponseTime;
import app.pragmata.core.company.Terms;
import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.company.WorkingHours;
import app.pragmata.core.customers.Postcode;
import app.pragmata.core.money.Money;
import app.pragmata.server.generated.tables.records.CompanyRecord;
import app.pragmata.server.generated.tables.records.ResponseTimeRecord;
import app.pragmata.server.records.NumberSeries.Series;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Reads the company and its terms once and keeps the reading: they are asked for in every request
 * and change a few times a year. Whether another server changed them is looked up once a second at
 * most; a change of this one's is seen at once.
 */
@Repository
public class CompanyStore {
  private static final long LOOK_UP_EVERY = Duration.ofSeconds(1).toNanos();

  /** A reading and the version of the settings that it is of; looked up by the machine's ticks. */
  private record Kept(Company company, long version, long lookedUpAt) {}

  private final DSLContext database;
  private volatile @Nullable Kept kept;

  CompanyStore(DSLContext database) {
    this.database = database;
  }

  /** The company's zone, which turns moments into days. */
  public ZoneId getZone() {
    return getCompany().zone();
  }

  /** The company with everything that costing and charging need. */
  public Company getCompany() {
    Kept now = kept;
    long ticks = System.nanoTime();
    if (now != null && ticks - now.lookedUpAt() < LOOK_UP_EVERY) {
      return now.company();
    }
    long version =
        database.select(SETTINGS_VERSION.VERSION).from(SETTINGS_VERSION).fetchSingle().value1();
    Company company = now != null && now.version() == version ? now.company() : read();
    kept = new Kept(company, version, ticks);
    return company;
  }

  /**
   * Settings were changed here: what is kept is old, now and once the transaction has committed.
   */
  @EventListener
  public void forget(SettingsChanged changed) {
    kept = null;
    if (TransactionSynchronizationManager.isSynchronizationActive()) {
      TransactionSynchronizationManager.registerSynchronization(
          new TransactionSynchronization() {
            @Override
            public void afterCompletion(int status) {
              kept = null;
            }
          });
    }
  }

  private Company read() {
    CompanyRecord row =
        database
            .selectFrom(COMPANY)
            .fetchOptional()
            .orElseThrow(
                () ->
                    new Refused(
                        Rule.NO_COMPANY,
                        "There is no company yet. Open the page that ./pragmata start printed, and found it there."));
    ZoneId zone = ZoneId.of(row.getTimeZone());
    return new Company(
        new Company.Identity(
            row.getName(),
            row.getAddress(),
            row.getPhone(),
            row.getEmail(),
            row.getVatNumber(),
            new BankAccount(row.getBank(), row.getIban(), row.getBic()).printed()),
        zone,
        Locale.forLanguageTag(row.getLocale()),
        row.getCurrency(),
        new Postcode(Pattern.compile(row.getPostcodePattern()), row.getPostcodeExample()),
        row.getDiallingCode(),
        new WorkingCalendar(zone, workingHours(), holidays()),
        new Terms(rates(), chargeTerms(), costTerms(), markup(), vatTreatments()),
        payTerms(),
        promises(),
        new Company.QuoteSettings(
            row.getQuoteValidDays(),
            row.getDepositDueDays(),
            row.getFollowUpDays(),
            row.getFloorMarginPercent(),
            new Company.LetterWords(row.getLetterOpening(), row.getLetterClosing())),
        new Company.Patience(
            row.getPatienceQuotedDays(),
            row.getPatienceWonDays(),
            row.getPatienceWorkedDays(),
            row.getPatienceCheckedDays()),
        row.getPartWantedDays(),
        row.getTapPositionDays(),
        new OtherWork(List.of(row.getOtherWork())),
        Duration.ofHours(row.getDeskSessionHours()),
        numbering());
  }

  private Company.Numbering numbering() {
    var prefixes = new EnumMap<Series, NavigableMap<Long, String>>(Series.class);
    database
        .selectFrom(NUMBER_RANGE)
        .forEach(
            row ->
                prefixes
                    .computeIfAbsent(
                        Coded.get(Series.class, row.getSeries()), series -> new TreeMap<>())
                    .put(row.getFromNumber(), row.getPrefix()));
    return new Company.Numbering(prefixes);
  }

  private Set<LocalDate> holidays() {
    return new HashSet<>(database.select(HOLIDAY.DAY).from(HOLIDAY).fetch(HOLIDAY.DAY));
  }

  private InForce<WorkingHours> workingHours() {
    return new InForce<>(
        "working hours",
        database
            .selectFrom(WORKING_HOURS)
            .fetch(
                row ->
                    new WorkingHours(
                        row.getFromDay(),
                        daysOf(row.getNormalDays()),
                        row.getNormalFrom(),
                        row.getNormalTo(),
                        row.getNightFrom(),
                        row.getNightTo(),
                        row.getOnHolidays())));
  }

  private InForce<PayTerms> payTerms() {
    return new InForce<>(
        "pay",
        database
            .selectFrom(PAY_TERMS)
            .fetch(
                row ->
                    new PayTerms(
                        row.getFromDay(),
                        row.getDailyMinutes() == null
                            ? null
                            : Integer.valueOf(row.getDailyMinutes()),
                        row.getWeeklyMinutes() == null
                            ? null
                            : Integer.valueOf(row.getWeeklyMinutes()),
                        daysOf(row.getWeekend()),
                        row.getBreaksPaid(),
                        row.getRoundingMinutes(),
                        Map.of(
                            PayClass.NORMAL, BigDecimal.ONE,
                            PayClass.OVERTIME, row.getOvertimeFactor(),
                            PayClass.NIGHT, row.getNightFactor(),
                            PayClass.WEEKEND, row.getWeekendFactor(),
                            PayClass.HOLIDAY, row.getHolidayFactor()))));
  }

  private static Set<DayOfWeek> daysOf(Short[] days) {
    return Arrays.stream(days).map(day -> DayOfWeek.of(day)).collect(Collectors.toSet());
  }

  private InForce<ChargeTerms> chargeTerms() {
    return new InForce<>(
        "charge terms",
        database
            .selectFrom(CHARGE_TERMS)
            .fetch(
                row ->
                    new ChargeTerms(
                        row.getFromDay(),
                        row.getStepMinutes(),
                        row.getMinimumMinutes(),
                        DriveCharge.of(row.getDriveCharge(), row.getDriveChargePrice()),
                        row.getOtherMarkupShare(),
                        row.getPaymentDays())));
  }

  private InForce<CostTerms> costTerms() {
    return new InForce<>(
        "cost terms",
        database
            .selectFrom(COST_TERMS)
            .fetch(
                row ->
                    new CostTerms(
                        row.getFromDay(), row.getStandardCostPerHour(), row.getOverheadPerHour())));
  }

  private InForce<Markup> markup() {
    return new InForce<>(
        "markup",
        database
            .selectFrom(MARKUP_BAND)
            .fetchGroups(
                MARKUP_BAND.FROM_DAY,
                row -> new Markup.Band(Money.ofMinor(row.getUpToCostMinor()), row.getMarkupShare()))
            .entrySet()
            .stream()
            .map(bands -> new Markup(bands.getKey(), bands.getValue()))
            .toList());
  }

  private Rates rates() {
    return new Rates(
        inForce(
            database
                .selectFrom(WAGE)
                .fetchGroups(
                    WAGE.PERSON_ID,
                    row ->
                        new Rates.Wage(
                            row.getFromDay(), row.getWagePerHour(), row.getOnCostShare())),
            person -> "wage"),
        inForce(
            database
                .selectFrom(RATE_CLASS_TERMS)
                .fetchGroups(
                    row -> row.getRateClass(),
                    row ->
                        new Rates.ClassTerms(
                            row.getFromDay(), row.getCostFactor(), row.getChargePerHour())),
            rateClass -> rateClass.code() + " rate"),
        new InForce<>(
            "vehicle cost",
            database
                .selectFrom(VEHICLE_COST)
                .fetch(row -> new Rates.VehicleCost(row.getFromDay(), row.getCostPerMile()))));
  }

  private VatTreatments vatTreatments() {
    Map<String, List<VatTreatments.Percent>> percents =
        database
            .selectFrom(VAT_PERCENT)
            .fetchGroups(
                VAT_PERCENT.VAT_CODE,
                row -> new VatTreatments.Percent(row.getFromDay(), row.getPercent()));
    var rates = database.selectFrom(VAT_TREATMENT).fetch();
    return new VatTreatments(
        rates.stream().filter(row -> row.getUsual()).findFirst().orElseThrow().getCode(),
        rates.stream()
            .collect(
                toMap(
                    row -> row.getCode(),
                    row ->
                        new VatTreatments.Kind(
                            row.getCategory(),
                            row.getReason(),
                            new InForce<>(
                                "VAT percent", percents.getOrDefault(row.getCode(), List.of()))))));
  }

  private Company.Promises promises() {
    Map<Long, List<ResponseTimeRecord>> times =
        database.selectFrom(RESPONSE_TIME).fetchGroups(RESPONSE_TIME.RESPONSE_TERMS_ID, row -> row);
    Map<Long, InForce<Company.Promises.Promised>> byTerms =
        times.entrySet().stream()
            .collect(
                toMap(
                    Map.Entry::getKey,
                    entry -> new InForce<>("response time", promised(entry.getValue()))));
    // The first terms on record hold for everybody without terms of their own.
    Long usual =
        database.select(DSL.min(RESPONSE_TERMS.ID)).from(RESPONSE_TERMS).fetchSingle().value1();
    return new Company.Promises(usual == null ? 0 : usual, byTerms);
  }

  private static List<Company.Promises.Promised> promised(List<ResponseTimeRecord> times) {
    return times.stream().collect(groupingBy(ResponseTimeRecord::getFromDay)).entrySet().stream()
        .map(
            day ->
                new Company.Promises.Promised(
                    day.getKey(),
                    day.getValue().stream()
                        .collect(
                            toMap(
                                ResponseTimeRecord::getPriority,
                                row ->
                                    new ResponseTime(row.getMinutes(), row.getAroundTheClock())))))
        .toList();
  }

  private static <K, T extends InForce.Dated> Map<K, InForce<T>> inForce(
      Map<K, List<T>> terms, Function<K, String> what) {
    return terms.entrySet().stream()
        .collect(
            toMap(
                Map.Entry::getKey,
                entry -> new InForce<>(what.apply(entry.getKey()), entry.getValue())));
  }
}
