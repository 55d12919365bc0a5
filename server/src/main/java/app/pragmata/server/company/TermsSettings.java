package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.CHARGE_TERMS;
import static app.pragmata.server.generated.Tables.COST_TERMS;
import static app.pragmata.server.generated.Tables.MARKUP_BAND;
import static app.pragmata.server.generated.Tables.PAY_TERMS;
import static app.pragmata.server.generated.Tables.RATE_CLASS_TERMS;
import static app.pragmata.server.generated.Tables.VEHICLE_COST;
import static app.pragmata.server.generated.Tables.WORKING_HOURS;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.server.company.EnteredTerms.Charges;
import app.pragmata.server.company.EnteredTerms.ClassRate;
import app.pragmata.server.company.EnteredTerms.Costs;
import app.pragmata.server.company.EnteredTerms.Hours;
import app.pragmata.server.company.EnteredTerms.MarkupBand;
import app.pragmata.server.company.EnteredTerms.MarkupBands;
import app.pragmata.server.company.EnteredTerms.Pay;
import app.pragmata.server.company.EnteredTerms.RatesOfDay;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Table;
import org.jooq.TableField;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Terms that hold from a day on, as the office enters them. What holds from a day that has come is
 * never taken back: later terms follow it.
 */
@Service
class TermsSettings {
  /** What is entered, and withdrawn, as one. */
  enum Kind implements Coded {
    WORKING_HOURS,
    PAY,
    RATES,
    CHARGES,
    COSTS,
    MARKUP
  }

  private static final Map<Kind, List<TableField<?, LocalDate>>> FROM_DAYS =
      Map.of(
          Kind.WORKING_HOURS, List.of(WORKING_HOURS.FROM_DAY),
          Kind.PAY, List.of(PAY_TERMS.FROM_DAY),
          Kind.RATES, List.of(RATE_CLASS_TERMS.FROM_DAY),
          Kind.CHARGES, List.of(CHARGE_TERMS.FROM_DAY),
          Kind.COSTS, List.of(COST_TERMS.FROM_DAY, VEHICLE_COST.FROM_DAY),
          Kind.MARKUP, List.of(MARKUP_BAND.FROM_DAY));

  private final DSLContext database;
  private final SettingsChanges settings;
  private final JsonMapper json;

  TermsSettings(DSLContext database, SettingsChanges settings, JsonMapper json) {
    this.database = database;
    this.settings = settings;
    this.json = json;
  }

  @Transactional
  public void saveHours(Act act, int version, Hours before, Hours hours) {
    change(act, CompanyEvent.WORKING_HOURS_CHANGED, version, before, hours);
    clear(Kind.WORKING_HOURS, hours.fromDay());
    database
        .insertInto(WORKING_HOURS)
        .values(
            hours.fromDay(),
            hours.normalDays().stream().map(Integer::shortValue).toArray(Short[]::new),
            hours.normalFrom(),
            hours.normalTo(),
            hours.nightFrom(),
            hours.nightTo(),
            hours.onHolidays())
        .execute();
  }

  @Transactional
  public void savePay(Act act, int version, Pay before, Pay pay) {
    change(act, CompanyEvent.PAY_CHANGED, version, before, pay);
    clear(Kind.PAY, pay.fromDay());
    database
        .insertInto(PAY_TERMS)
        .values(
            pay.fromDay(),
            pay.dailyMinutes() == null ? null : pay.dailyMinutes().shortValue(),
            pay.weeklyMinutes() == null ? null : pay.weeklyMinutes().shortValue(),
            pay.weekend().stream().map(Integer::shortValue).toArray(Short[]::new),
            pay.breaksPaid(),
            (short) pay.roundingMinutes(),
            pay.overtimePercent().movePointLeft(2),
            pay.nightPercent().movePointLeft(2),
            pay.weekendPercent().movePointLeft(2),
            pay.holidayPercent().movePointLeft(2))
        .execute();
  }

  @Transactional
  public void saveRates(Act act, int version, RatesOfDay before, RatesOfDay rates) {
    change(act, CompanyEvent.RATES_CHANGED, version, before, rates);
    clear(Kind.RATES, rates.fromDay());
    for (ClassRate rate : rates.classes()) {
      database
          .insertInto(RATE_CLASS_TERMS)
          .values(
              rate.rateClass(),
              rates.fromDay(),
              rate.costPercent().movePointLeft(2),
              new UnitPrice(rate.chargePerHour()))
          .execute();
    }
  }

  @Transactional
  public void saveCharges(Act act, int version, Charges before, Charges charges) {
    change(act, CompanyEvent.CHARGES_CHANGED, version, before, charges);
    clear(Kind.CHARGES, charges.fromDay());
    database
        .insertInto(CHARGE_TERMS)
        .values(
            charges.fromDay(),
            (short) charges.stepMinutes(),
            (short) charges.minimumMinutes(),
            charges.driveCharge(),
            new UnitPrice(charges.driveChargePrice()),
            charges.otherMarkupPercent().movePointLeft(2),
            (short) charges.paymentDays())
        .execute();
  }

  @Transactional
  public void saveCosts(Act act, int version, Costs before, Costs costs) {
    change(act, CompanyEvent.COSTS_CHANGED, version, before, costs);
    clear(Kind.COSTS, costs.fromDay());
    database
        .insertInto(COST_TERMS)
        .values(costs.fromDay(), costs.standardCostPerHour(), costs.overheadPerHour())
        .execute();
    database.insertInto(VEHICLE_COST).values(costs.fromDay(), costs.costPerMile()).execute();
  }

  @Transactional
  public void saveMarkup(Act act, int version, MarkupBands before, MarkupBands markup) {
    change(act, CompanyEvent.MARKUP_CHANGED, version, before, markup);
    clear(Kind.MARKUP, markup.fromDay());
    for (MarkupBand band : markup.bands()) {
      database
          .insertInto(MARKUP_BAND)
          .values(
              markup.fromDay(),
              Money.of(band.upToCost().toPlainString()).minor(),
              band.markupPercent().movePointLeft(2))
          .execute();
    }
  }

  /** Takes back what was to hold from a day that has not come; what held before goes on. */
  @Transactional
  public void withdraw(Act act, Kind kind, int version, LocalDate from) {
    if (!from.isAfter(act.today())) {
      throw new Refused(
          Rule.DAY_PASSED,
          "These terms hold already. Enter others from a later day instead of taking them back.");
    }
    settings.change(
        act, CompanyEvent.TERMS_WITHDRAWN, version, Map.of(kind.code(), from), Map.of());
    if (clear(kind, from) == 0) {
      throw new Refused(Rule.NOT_FOUND, "Nothing was to change on that day. Reload the page.");
    }
  }

  private void change(Act act, CompanyEvent event, int version, Object before, Object after) {
    settings.change(act, event, version, values(before), values(after));
  }

  private int clear(Kind kind, LocalDate from) {
    return Objects.requireNonNull(FROM_DAYS.get(kind)).stream()
        .mapToInt(
            fromDay -> {
              Table<?> table = Objects.requireNonNull(fromDay.getTable());
              return database.deleteFrom(table).where(fromDay.eq(from)).execute();
            })
        .sum();
  }

  /** By the names in the API; those of a list, such as of the classes, by what they are of. */
  private Map<String, Object> values(Object terms) {
    var values = new LinkedHashMap<String, Object>();
    json.convertValue(terms, new TypeReference<Map<String, @Nullable Object>>() {})
        .forEach((name, value) -> values.put(name, String.valueOf(value)));
    if (terms instanceof RatesOfDay rates) {
      values.remove("classes");
      rates.classes().forEach(rate -> values.put(rate.rateClass().code(), told(rate)));
    }
    if (terms instanceof MarkupBands markup) {
      values.remove("bands");
      markup
          .bands()
          .forEach(band -> values.put("upTo " + band.upToCost(), band.markupPercent() + " %"));
    }
    return values;
  }

  private static String told(ClassRate rate) {
    return "%s an hour, cost %s %%".formatted(rate.chargePerHour(), rate.costPercent());
  }
}
