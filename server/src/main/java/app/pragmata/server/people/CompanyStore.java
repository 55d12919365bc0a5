package app.pragmata.server.people;

import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.HOLIDAY;
import static app.pragmata.server.generated.Tables.RATE_CLASS_TERMS;
import static app.pragmata.server.generated.Tables.VAT_RATE;
import static app.pragmata.server.generated.Tables.VEHICLE_COST;
import static app.pragmata.server.generated.Tables.WAGE;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.billing.ChargeTerms;
import app.pragmata.core.customers.Postcode;
import app.pragmata.core.money.VatRate;
import app.pragmata.core.people.InForce;
import app.pragmata.core.people.RateClass;
import app.pragmata.core.people.Rates;
import app.pragmata.core.people.WorkingHours;
import app.pragmata.core.planning.WorkingCalendar;
import app.pragmata.core.quoting.DriveCharge;
import app.pragmata.server.generated.tables.records.CompanyRecord;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Repository;

/** Reads the settings and rates; they are few rows and are read where they are needed. */
@Repository
public class CompanyStore {
  private final DSLContext database;

  CompanyStore(DSLContext database) {
    this.database = database;
  }

  /** The company's zone, which turns moments into days. */
  public ZoneId getZone() {
    return ZoneId.of(
        database.select(COMPANY.TIME_ZONE).from(COMPANY).fetchSingle(COMPANY.TIME_ZONE));
  }

  /** Everything that costing and charging need, read by one statement. */
  public Company getCompany() {
    Field<List<VatRate>> vatRates = vatRates();
    Field<Map<Long, List<Rates.Wage>>> wages = wages();
    Field<Map<RateClass, List<Rates.ClassTerms>>> terms = terms();
    Field<List<Rates.VehicleCost>> vehicle = vehicleCosts();
    Field<List<LocalDate>> holidays = holidays();
    return database
        .select(COMPANY.fields())
        .select(vatRates, wages, terms, vehicle, holidays)
        .from(COMPANY)
        .fetchSingle(
            row -> {
              Map<String, VatRate> vatRateByCode =
                  row.get(vatRates).stream()
                      .collect(Collectors.toMap(VatRate::code, Function.identity()));
              return company(
                  row.into(COMPANY),
                  Set.copyOf(row.get(holidays)),
                  vatRateByCode,
                  new Rates(
                      inForce(row.get(wages), person -> "wage"),
                      inForce(row.get(terms), rateClass -> rateClass.label() + " rate"),
                      new InForce<>("vehicle cost", row.get(vehicle))));
            });
  }

  private static Company company(
      CompanyRecord row, Set<LocalDate> holidays, Map<String, VatRate> vatRates, Rates rates) {
    WorkingHours hours = workingHours(row);
    return new Company(
        row.getName(),
        row.getCurrency(),
        hours.zone(),
        hours,
        new WorkingCalendar(hours, holidays),
        new Postcode(Pattern.compile(row.getPostcodePattern()), row.getPostcodeExample()),
        row.getDiallingCode(),
        new ChargeTerms(
            row.getChargingStepMinutes(),
            row.getMinimumMinutes(),
            DriveCharge.of(row.getDriveCharge(), row.getDriveChargePrice()),
            row.getOtherMarkupShare(),
            vatRates.get("standard")),
        rates,
        row.getStandardCostPerHour(),
        row.getOverheadPerHour(),
        row.getQuoteValidDays(),
        row.getDepositDueDays(),
        row.getFollowUpDays(),
        row.getFloorMarginPercent(),
        new Company.LetterWords(row.getLetterOpening(), row.getLetterClosing()),
        vatRates);
  }

  private static <K, T extends InForce.Dated> Map<K, InForce<T>> inForce(
      Map<K, List<T>> terms, Function<K, String> what) {
    return terms.entrySet().stream()
        .collect(
            Collectors.toMap(
                Map.Entry::getKey,
                entry -> new InForce<>(what.apply(entry.getKey()), entry.getValue())));
  }

  private static Field<List<LocalDate>> holidays() {
    return multiset(select(HOLIDAY.DAY).from(HOLIDAY))
        .as("holidays")
        .convertFrom(rows -> rows.map(row -> row.value1()));
  }

  private static Field<List<VatRate>> vatRates() {
    return multiset(select(VAT_RATE.CODE, VAT_RATE.CATEGORY, VAT_RATE.PERCENT).from(VAT_RATE))
        .as("vat_rates")
        .convertFrom(rows -> rows.map(mapping(VatRate::new)));
  }

  private static Field<Map<Long, List<Rates.Wage>>> wages() {
    return multiset(
            select(WAGE.PERSON_ID, WAGE.FROM_DAY, WAGE.WAGE_PER_HOUR, WAGE.ON_COST_SHARE)
                .from(WAGE))
        .as("wages")
        .convertFrom(
            rows ->
                rows.intoGroups(
                    WAGE.PERSON_ID,
                    row -> new Rates.Wage(row.value2(), row.value3(), row.value4())));
  }

  private static Field<Map<RateClass, List<Rates.ClassTerms>>> terms() {
    return multiset(
            select(
                    RATE_CLASS_TERMS.RATE_CLASS,
                    RATE_CLASS_TERMS.FROM_DAY,
                    RATE_CLASS_TERMS.COST_FACTOR,
                    RATE_CLASS_TERMS.CHARGE_PER_HOUR)
                .from(RATE_CLASS_TERMS))
        .as("terms")
        .convertFrom(
            rows ->
                rows.intoGroups(
                    row -> RateClass.valueOf(row.value1().toUpperCase(Locale.ROOT)),
                    row -> new Rates.ClassTerms(row.value2(), row.value3(), row.value4())));
  }

  private static Field<List<Rates.VehicleCost>> vehicleCosts() {
    return multiset(select(VEHICLE_COST.FROM_DAY, VEHICLE_COST.COST_PER_MILE).from(VEHICLE_COST))
        .as("vehicle_costs")
        .convertFrom(rows -> rows.map(mapping(Rates.VehicleCost::new)));
  }

  private static WorkingHours workingHours(CompanyRecord row) {
    return new WorkingHours(
        ZoneId.of(row.getTimeZone()),
        Arrays.stream(row.getNormalDays())
            .map(day -> DayOfWeek.of(day))
            .collect(Collectors.toSet()),
        row.getNormalFrom(),
        row.getNormalTo(),
        row.getNightFrom(),
        row.getNightTo());
  }
}
