package app.pragmata.server.founding;

import static app.pragmata.server.generated.Tables.ACCOUNT;
import static app.pragmata.server.generated.Tables.CHARGE_TERMS;
import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.COST_CENTRE;
import static app.pragmata.server.generated.Tables.COST_TERMS;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.MARKUP_BAND;
import static app.pragmata.server.generated.Tables.NUMBER_RANGE;
import static app.pragmata.server.generated.Tables.NUMBER_SERIES;
import static app.pragmata.server.generated.Tables.PAY_TERMS;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.POSTING_ACCOUNT;
import static app.pragmata.server.generated.Tables.RATE_CLASS_TERMS;
import static app.pragmata.server.generated.Tables.RESPONSE_TERMS;
import static app.pragmata.server.generated.Tables.RESPONSE_TIME;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;
import static app.pragmata.server.generated.Tables.VAT_PERCENT;
import static app.pragmata.server.generated.Tables.VAT_TREATMENT;
import static app.pragmata.server.generated.Tables.VEHICLE_COST;
import static app.pragmata.server.generated.Tables.WORKING_HOURS;
import static java.util.Objects.requireNonNullElse;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.company.Wording;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatCategory;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.SettingsChanged;
import app.pragmata.server.people.Passwords;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries.Series;
import app.pragmata.server.staff.Hiring;
import app.pragmata.server.staff.Starter;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/**
 * Founds the company whose program this is: chart of accounts, number series, VAT treatments,
 * terms, kinds of job, promised times, and who works there.
 */
@Service
public class Founding {
  private static final List<String> TEMPLATES = List.of("GB", "FI", "EU", "XX");

  private final DSLContext database;
  private final JsonMapper json;
  private final Hiring hiring;
  private final Passwords passwords;
  private final ApplicationEventPublisher changes;
  private final CompanyStore companies;
  private final Events events;
  private final Clock clock;

  Founding(
      DSLContext database,
      JsonMapper json,
      Hiring hiring,
      Passwords passwords,
      ApplicationEventPublisher changes,
      CompanyStore companies,
      Events events,
      Clock clock) {
    this.database = database;
    this.json = json;
    this.hiring = hiring;
    this.passwords = passwords;
    this.changes = changes;
    this.companies = companies;
    this.events = events;
    this.clock = clock;
  }

  /** All or nothing of it; refused when there is a company, or no template of its country. */
  @Transactional
  public void found(NewCompany company, List<NewPerson> people) {
    make(company, people);
  }

  /** The same, noted as what its first person, the owner, did; gives who that is. */
  @Transactional
  long foundBy(NewCompany company, NewPerson owner) {
    make(company, List.of(owner));
    long id =
        database
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.USERNAME.eq(owner.username()))
            .fetchSingle(PERSON.ID);
    var act =
        new Act(
            id, owner.role(), clock.instant().truncatedTo(ChronoUnit.MILLIS), companies.getZone());
    events.tell(act, CompanyEvent.FOUNDED, 1, About.NOTHING);
    return id;
  }

  private void make(NewCompany company, List<NewPerson> people) {
    // Whoever comes second waits here, and finds a company.
    database.execute("lock table company in share row exclusive mode");
    if (database.fetchExists(COMPANY)) {
      throw new Refused(
          Rule.COMPANY_FOUNDED, "There is a company already. A program keeps the books of one.");
    }
    CountryTemplate template = read(requireTemplate(company.template()));
    insertCompany(company, template);
    insertVat(company, template);
    insertTerms(company.from(), template);
    insertNumberSeries(company);
    insertKindsOfJob(template);
    insertResponseTimes(company.from(), template);
    insertAccounts(template);
    changes.publishEvent(new SettingsChanged());
    insertPeople(company.from(), template, people);
  }

  /** The templates that there are, by their codes. */
  Map<String, CountryTemplate> templates() {
    var templates = new LinkedHashMap<String, CountryTemplate>();
    TEMPLATES.forEach(code -> templates.put(code, read(code)));
    return templates;
  }

  /** The code of a template that there is; unreadable when there is none. */
  String requireTemplate(String code) {
    if (!TEMPLATES.contains(code)) {
      throw new Unreadable(
          Rule.NOT_FOUND,
          "There is no template of this country. Choose another and change what differs.");
    }
    return code;
  }

  private CountryTemplate read(String code) {
    return json.treeToValue(tree(code), CountryTemplate.class);
  }

  /** A template may say only in what it differs from another one. */
  private ObjectNode tree(String code) {
    try (InputStream file =
        Founding.class.getResourceAsStream("/founding/%s.json".formatted(code))) {
      var tree = (ObjectNode) json.readTree(Objects.requireNonNull(file));
      JsonNode like = tree.remove("like");
      return like == null ? tree : tree(like.asString()).setAll(tree);
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
    row.setBank(company.bank().words());
    row.setIban(company.bank().iban());
    row.setBic(company.bank().bic());
    NewCompany.Differs differs = company.differs();
    row.setCurrency(requireNonNullElse(differs.currency(), template.currency()));
    row.setTimeZone(requireNonNullElse(differs.timeZone(), template.timeZone()));
    row.setLocale(requireNonNullElse(differs.locale(), template.locale()));
    row.setDiallingCode(requireNonNullElse(differs.diallingCode(), template.diallingCode()));
    row.setPostcodePattern(template.postcodePattern());
    row.setPostcodeExample(template.postcodeExample());
    row.setQuoteValidDays(template.quoteValidDays());
    row.setFloorMarginPercent(template.floorMarginPercent());
    row.setOtherWork(template.otherWork().toArray(String[]::new));
    row.insert();
  }

  private void insertVat(NewCompany company, CountryTemplate template) {
    BigDecimal said = company.differs().vatPercent();
    for (CountryTemplate.Vat vat : template.vat()) {
      database
          .insertInto(VAT_TREATMENT)
          .values(vat.code(), vat.category(), vat.reason(), vat.usual())
          .execute();
      BigDecimal percent = vat.usual() && said != null ? said : vat.percent();
      if (percent != null) {
        database.insertInto(VAT_PERCENT).values(vat.code(), company.from(), percent).execute();
      } else if (vat.category() == VatCategory.RATED) {
        throw new Refused(
            Rule.MISSING, "Say the usual rate of VAT: the template has none for this country.");
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
    CountryTemplate.PayTerms pay = template.payTerms();
    database
        .insertInto(PAY_TERMS)
        .values(
            from,
            pay.dailyMinutes(),
            pay.weeklyMinutes(),
            pay.weekend().toArray(Short[]::new),
            pay.breaksPaid(),
            pay.roundingMinutes(),
            pay.overtimeFactor(),
            pay.nightFactor(),
            pay.weekendFactor(),
            pay.holidayFactor())
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
      long first = company.firstNumbers().getOrDefault(series, 1L);
      database.insertInto(NUMBER_SERIES).values(series.code(), first).execute();
      database
          .insertInto(NUMBER_RANGE, NUMBER_RANGE.SERIES, NUMBER_RANGE.FROM_NUMBER)
          .values(series.code(), first)
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
      database
          .insertInto(
              POSTING_ACCOUNT, POSTING_ACCOUNT.POSTING_CATEGORY, POSTING_ACCOUNT.ACCOUNT_CODE)
          .values(account.postings(), account.code())
          .execute();
    }
  }

  private void insertPeople(LocalDate from, CountryTemplate template, List<NewPerson> people) {
    database.insertInto(STOCK_PLACE, STOCK_PLACE.NAME).values(template.store()).execute();
    Wording wording = companies.getCompany().wording();
    // Slow to compute on purpose: the same one once.
    Map<String, String> hashes = new HashMap<>();
    for (NewPerson person : people) {
      BigDecimal wage = person.wagePerHour();
      Starter.Pay pay = wage == null ? null : new Starter.Pay(wage, template.onCostShare());
      long id =
          hiring.hire(
              new Starter(person.name(), person.username(), person.role(), pay), from, wording);
      passwords.store(id, hashes.computeIfAbsent(person.password(), passwords::hash));
    }
  }
}
