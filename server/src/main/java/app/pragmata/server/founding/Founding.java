package app.pragmata.server.founding;

import static app.pragmata.server.generated.Tables.ACCOUNT;
import static app.pragmata.server.generated.Tables.CHARGE_TERMS;
import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.COST_CENTRE;
import static app.pragmata.server.generated.Tables.COST_TERMS;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.MARKUP_BAND;
import static app.pragmata.server.generated.Tables.NUMBER_SERIES;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.POSTING_ACCOUNT;
import static app.pragmata.server.generated.Tables.RATE_CLASS_TERMS;
import static app.pragmata.server.generated.Tables.RESPONSE_TERMS;
import static app.pragmata.server.generated.Tables.RESPONSE_TIME;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;
import static app.pragmata.server.generated.Tables.VAT_PERCENT;
import static app.pragmata.server.generated.Tables.VAT_TREATMENT;
import static app.pragmata.server.generated.Tables.VEHICLE_COST;
import static app.pragmata.server.generated.Tables.WAGE;
import static app.pragmata.server.generated.Tables.WORKING_HOURS;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.people.Role;
import app.pragmata.server.company.SettingsChanged;
import app.pragmata.server.records.NumberSeries.Series;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * Founds the company whose program this is: chart of accounts, number series, VAT treatments,
 * terms, kinds of job, promised times, and who works there.
 */
@Service
public class Founding {
  private final DSLContext database;
  private final JsonMapper json;
  private final PasswordEncoder passwords;
  private final ApplicationEventPublisher changes;

  Founding(
      DSLContext database,
      JsonMapper json,
      PasswordEncoder passwords,
      ApplicationEventPublisher changes) {
    this.database = database;
    this.json = json;
    this.passwords = passwords;
    this.changes = changes;
  }

  /** All or nothing of it; refused when there is a company, or no template of its country. */
  @Transactional
  public void found(NewCompany company, List<NewPerson> people) {
    if (database.fetchExists(COMPANY)) {
      throw new Refused(
          Rule.COMPANY_FOUNDED, "There is a company already. A program keeps the books of one.");
    }
    CountryTemplate template = read(company.country());
    insertCompany(company, template);
    insertVat(company.from(), template);
    insertTerms(company.from(), template);
    insertNumberSeries(company);
    insertKindsOfJob(template);
    insertResponseTimes(company.from(), template);
    insertAccounts(template);
    insertPeople(company.from(), template, people);
    changes.publishEvent(new SettingsChanged());
  }

  private CountryTemplate read(String country) {
    String file = "/founding/%s.json".formatted(country);
    try (InputStream template =
        country.matches("[A-Z]{2}") ? Founding.class.getResourceAsStream(file) : null) {
      if (template == null) {
        throw new Refused(
            Rule.NOT_FOUND,
            "There is no template of this country. Choose another and change what differs.");
      }
      return json.readValue(template, CountryTemplate.class);
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    }
  }

  private void insertCompany(NewCompany company, CountryTemplate template) {
    var row = database.newRecord(COMPANY);
    row.setName(company.name());
    row.setAddress(company.address());
    row.setPhone(company.phone());
    row.setEmail(company.email());
    row.setVatNumber(company.vatNumber());
    row.setBank(company.bank());
    row.setCurrency(template.currency());
    row.setTimeZone(template.timeZone());
    row.setLocale(template.locale());
    row.setDiallingCode(template.diallingCode());
    row.setPostcodePattern(template.postcodePattern());
    row.setPostcodeExample(template.postcodeExample());
    row.setQuoteValidDays(template.quoteValidDays());
    row.setFloorMarginPercent(template.floorMarginPercent());
    row.insert();
  }

  private void insertVat(LocalDate from, CountryTemplate template) {
    for (CountryTemplate.Vat vat : template.vat()) {
      database
          .insertInto(VAT_TREATMENT)
          .values(vat.code(), vat.category(), vat.reason(), vat.usual())
          .execute();
      if (vat.percent() != null) {
        database.insertInto(VAT_PERCENT).values(vat.code(), from, vat.percent()).execute();
      }
    }
  }

  private void insertTerms(LocalDate from, CountryTemplate template) {
    CountryTemplate.WorkingHours hours = template.workingHours();
    database
        .insertInto(WORKING_HOURS)
        .values(
            from,
            hours.normalDays().toArray(Short[]::new),
            hours.normalFrom(),
            hours.normalTo(),
            hours.nightFrom(),
            hours.nightTo(),
            hours.onHolidays())
        .execute();
    CountryTemplate.ChargeTerms charge = template.chargeTerms();
    database
        .insertInto(CHARGE_TERMS)
        .values(
            from,
            charge.stepMinutes(),
            charge.minimumMinutes(),
            charge.driveCharge(),
            new UnitPrice(charge.driveChargePrice()),
            charge.otherMarkupShare(),
            charge.paymentDays())
        .execute();
    database
        .insertInto(COST_TERMS)
        .values(
            from,
            template.costTerms().standardCostPerHour(),
            template.costTerms().overheadPerHour())
        .execute();
    for (CountryTemplate.MarkupBand band : template.markupBands()) {
      database
          .insertInto(MARKUP_BAND)
          .values(from, Money.of(band.upToCost().toPlainString()).minor(), band.markupShare())
          .execute();
    }
    for (CountryTemplate.Rate rate : template.rates()) {
      database
          .insertInto(RATE_CLASS_TERMS)
          .values(rate.rateClass(), from, rate.costFactor(), new UnitPrice(rate.chargePerHour()))
          .execute();
    }
    database.insertInto(VEHICLE_COST).values(from, template.vehicleCostPerMile()).execute();
  }

  private void insertNumberSeries(NewCompany company) {
    for (Series series : Series.values()) {
      database
          .insertInto(NUMBER_SERIES)
          .values(
              series.name().toLowerCase(Locale.ROOT),
              company.firstNumbers().getOrDefault(series, 1L))
          .execute();
    }
  }

  private void insertKindsOfJob(CountryTemplate template) {
    for (CountryTemplate.CostCentre centre : template.costCentres()) {
      database.insertInto(COST_CENTRE).values(centre.code(), centre.name()).execute();
    }
    CountryTemplate.KindOfJob usual = template.kindsOfJob().getFirst();
    for (CountryTemplate.KindOfJob kind : template.kindsOfJob()) {
      database
          .insertInto(KIND_OF_JOB)
          .set(KIND_OF_JOB.NAME, kind.name())
          .set(KIND_OF_JOB.PROMISE, kind.promise())
          .set(KIND_OF_JOB.DEFAULT_MINUTES, kind.defaultMinutes())
          .set(KIND_OF_JOB.COST_CENTRE, kind.costCentre())
          .set(KIND_OF_JOB.USUAL_FOR_CALLS, kind.equals(usual))
          .execute();
    }
  }

  private void insertResponseTimes(LocalDate from, CountryTemplate template) {
    long terms =
        database
            .insertInto(RESPONSE_TERMS, RESPONSE_TERMS.NAME)
            .values(template.responseTerms())
            .returning(RESPONSE_TERMS.ID)
            .fetchSingle(RESPONSE_TERMS.ID);
    for (CountryTemplate.ResponseTime time : template.responseTimes()) {
      database
          .insertInto(RESPONSE_TIME)
          .values(terms, from, time.priority(), time.minutes(), time.aroundTheClock())
          .execute();
    }
  }

  private void insertAccounts(CountryTemplate template) {
    for (CountryTemplate.Account account : template.accounts()) {
      database.insertInto(ACCOUNT).values(account.code(), account.name(), account.kind()).execute();
      database.insertInto(POSTING_ACCOUNT).values(account.postings(), account.code()).execute();
    }
  }

  private void insertPeople(LocalDate from, CountryTemplate template, List<NewPerson> people) {
    database.insertInto(STOCK_PLACE, STOCK_PLACE.NAME).values(template.store()).execute();
    // Slow to compute on purpose: the same one once.
    Map<String, String> hashes = new HashMap<>();
    for (NewPerson person : people) {
      long id =
          database
              .insertInto(PERSON, PERSON.NAME, PERSON.USERNAME, PERSON.PASSWORD_HASH, PERSON.ROLE)
              .values(
                  person.name(),
                  person.username(),
                  hashes.computeIfAbsent(
                      person.password(),
                      password -> Objects.requireNonNull(passwords.encode(password))),
                  person.role())
              .returning(PERSON.ID)
              .fetchSingle(PERSON.ID);
      if (person.role() == Role.TECHNICIAN) {
        database
            .insertInto(WAGE)
            .values(id, from, Objects.requireNonNull(person.wagePerHour()), template.onCostShare())
            .execute();
        database
            .insertInto(STOCK_PLACE, STOCK_PLACE.NAME, STOCK_PLACE.PERSON_ID)
            .values(template.van().formatted(person.name()), id)
            .execute();
      }
    }
  }
}
