package app.pragmata.server.people;

import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.RATE_CLASS_TERMS;
import static app.pragmata.server.generated.Tables.VAT_RATE;
import static app.pragmata.server.generated.Tables.VEHICLE_COST;
import static app.pragmata.server.generated.Tables.WAGE;

import app.pragmata.core.billing.ChargeTerms;
import app.pragmata.core.billing.ChargeTerms.DriveCharge;
import app.pragmata.core.field.WorkingHours;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatRate;
import app.pragmata.core.people.InForce;
import app.pragmata.core.people.RateClass;
import app.pragmata.core.people.Rates;
import app.pragmata.server.generated.tables.records.CompanyRecord;
import java.time.DayOfWeek;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
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

  /** Everything that costing and charging need. */
  public Company getCompany() {
    CompanyRecord row = database.selectFrom(COMPANY).fetchSingle();
    Map<String, VatRate> vatRates = vatRates();
    return new Company(
        row.getName(),
        row.getCurrency(),
        ZoneId.of(row.getTimeZone()),
        workingHours(row),
        new ChargeTerms(
            row.getChargingStepMinutes(),
            row.getMinimumMinutes(),
            driveCharge(row),
            row.getOtherMarkupShare(),
            vatRates.get("standard")),
        rates(),
        row.getStandardCostPerHour(),
        row.getOverheadPerHour(),
        row.getQuoteValidDays(),
        row.getFloorMarginPercent(),
        vatRates);
  }

  private Map<String, VatRate> vatRates() {
    return database
        .selectFrom(VAT_RATE)
        .fetch(row -> new VatRate(row.getCode(), row.getCategory(), row.getPercent()))
        .stream()
        .collect(Collectors.toMap(VatRate::code, Function.identity()));
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

  private static DriveCharge driveCharge(CompanyRecord row) {
    Money amount = Money.ofMinor(row.getDriveChargeMinor());
    return switch (row.getDriveCharge()) {
      case "per_call_out" -> new DriveCharge.PerCallOut(amount);
      case "per_hour" -> new DriveCharge.PerHour(amount);
      case "per_mile" -> new DriveCharge.PerMile(amount);
      default -> new DriveCharge.None();
    };
  }

  private Rates rates() {
    var wages =
        database
            .selectFrom(WAGE)
            .fetchGroups(
                WAGE.PERSON_ID,
                row ->
                    new Rates.Wage(row.getFromDay(), row.getWagePerHour(), row.getOnCostShare()));
    var terms =
        database
            .selectFrom(RATE_CLASS_TERMS)
            .fetchGroups(
                row -> RateClass.valueOf(row.getRateClass().toUpperCase(Locale.ROOT)),
                row ->
                    new Rates.ClassTerms(
                        row.getFromDay(),
                        row.getCostFactor(),
                        Money.ofMinor(row.getChargePerHourMinor())));
    var vehicle =
        database
            .selectFrom(VEHICLE_COST)
            .fetch(row -> new Rates.VehicleCost(row.getFromDay(), row.getCostPerMile()));
    return new Rates(
        wages.entrySet().stream()
            .collect(
                Collectors.toMap(
                    Map.Entry::getKey, entry -> new InForce<>("wage", entry.getValue()))),
        terms.entrySet().stream()
            .collect(
                Collectors.toMap(
                    Map.Entry::getKey,
                    entry -> new InForce<>(entry.getKey().label() + " rate", entry.getValue()))),
        new InForce<>("vehicle cost", vehicle));
  }
}
