package app.pragmata.server.rounds;

import static app.pragmata.server.generated.Tables.AGREEMENT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.ROUND;
import static app.pragmata.server.generated.Tables.ROUND_DATE;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.jobs.VisitLength;
import app.pragmata.core.money.Money;
import app.pragmata.core.rounds.Repeat;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.customers.Sites;
import app.pragmata.server.generated.tables.records.AgreementRecord;
import app.pragmata.server.generated.tables.records.RoundRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Writes down what was agreed with customers for work that comes again. */
@Service
@Transactional
public class Agreements {
  /**
   * What was agreed, as typed.
   *
   * @param version as it was shown; 0 for a new one
   * @param until empty for without end
   */
  public record AgreementForm(
      int version, @Nullable String name, @Nullable String from, @Nullable String until) {}

  /**
   * What comes again, as typed.
   *
   * @param version as it was shown; 0 for a new one
   * @param equipmentId null for no piece in particular
   * @param expected how long a visit takes, such as 1:30
   * @param price what the customer pays each time, without VAT; empty for by time and parts
   * @param withParts whether that pays for parts, too; of no meaning without a price
   * @param repeats such as “every 6 weeks on Tuesday”
   * @param from empty for as the agreement
   * @param until empty for as long as the agreement
   */
  public record RoundForm(
      int version,
      @Nullable Long siteId,
      @Nullable Long equipmentId,
      @Nullable Long kindOfJobId,
      @Nullable String title,
      @Nullable String expected,
      @Nullable String price,
      boolean withParts,
      @Nullable String repeats,
      @Nullable String from,
      @Nullable String until) {}

  private static final int LONGEST_NAME = 120;
  private static final int LONGEST_REPEATS = 200;
  private static final int MOST_YEARS = 60;

  private final DSLContext database;
  private final Sites sites;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final RepeatableRequests repeats;
  private final Events events;

  Agreements(
      DSLContext database,
      Sites sites,
      CompanyStore companies,
      NumberSeries numbers,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.sites = sites;
    this.companies = companies;
    this.numbers = numbers;
    this.repeats = repeats;
    this.events = events;
  }

  /** Makes an agreement with a customer; gives its id. */
  public long make(Act act, @Nullable String key, long customerId, AgreementForm form) {
    return repeats.once(
        act,
        key,
        "make agreement",
        customerId + " " + form,
        () -> {
          if (!database.fetchExists(
              CUSTOMER, CUSTOMER.ID.eq(customerId).and(CUSTOMER.MERGED_INTO.isNull()))) {
            throw new Refused(
                Rule.NOT_FOUND,
                "This customer does not exist. Find the right one with / and the name.");
          }
          AgreementRecord row = database.newRecord(AGREEMENT);
          row.setCustomerId(customerId);
          write(act, row, form);
          row.setNumber(numbers.next(NumberSeries.Series.AGREEMENT));
          events.store(act, RoundEvent.AGREEMENT_MADE, row);
          return row.getId();
        });
  }

  /** Writes down that something else was agreed. */
  void change(Act act, long id, AgreementForm form) {
    AgreementRecord row = lock(id);
    Versions.require(form.version(), row.getVersion());
    write(act, row, form);
    events.store(act, RoundEvent.AGREEMENT_CHANGED, row);
  }

  private void write(Act act, AgreementRecord row, AgreementForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), LONGEST_NAME);
    LocalDate from = reading.required("from", form.from(), typed -> day(typed, act.today()));
    LocalDate until = readEnd(reading, form.until(), from, act);
    if (from != null && row.getId() != null) {
      requireRoundsWithin(row.getId(), from, until, reading);
    }
    reading.refuseIfFaulty();
    row.setName(Objects.requireNonNull(name));
    row.setFromDay(Objects.requireNonNull(from));
    row.setUntilDay(until);
  }

  /** A day on which something that is agreed begins or ends: in this lifetime. */
  static LocalDate day(String typed, LocalDate today) {
    LocalDate day = Day.parse(typed, today);
    if (Math.abs(day.getYear() - today.getYear()) > MOST_YEARS) {
      throw new Unreadable(
          Rule.OUT_OF_LIMITS,
          "This day is more than %d years away. Check it.".formatted(MOST_YEARS));
    }
    return day;
  }

  private static @Nullable LocalDate readEnd(
      Reading reading, @Nullable String typed, @Nullable LocalDate from, Act act) {
    LocalDate until = reading.optional("until", typed, said -> day(said, act.today()));
    if (from != null && until != null && until.isBefore(from)) {
      reading.fault(
          "until", Rule.ENDS_BEFORE_START, "It ends before it begins. Change one of the days.");
    }
    return until;
  }

  private void requireRoundsWithin(
      long agreementId, LocalDate from, @Nullable LocalDate until, Reading reading) {
    for (RoundRecord round :
        database.selectFrom(ROUND).where(ROUND.AGREEMENT_ID.eq(agreementId)).fetch()) {
      if (round.getFromDay().isBefore(from)) {
        reading.fault(
            "from",
            Rule.OUT_OF_LIMITS,
            "%s is due from %s on. Change that round first."
                .formatted(round.getTitle(), round.getFromDay()));
      }
      if (until != null && round.getFromDay().isAfter(until)) {
        reading.fault(
            "until",
            Rule.OUT_OF_LIMITS,
            "%s begins on %s. Change that round first."
                .formatted(round.getTitle(), round.getFromDay()));
      }
    }
  }

  /** Adds a round to an agreement; gives its id. */
  public long add(Act act, @Nullable String key, long agreementId, RoundForm form) {
    return repeats.once(
        act,
        key,
        "add round",
        agreementId + " " + form,
        () -> {
          RoundRecord row = database.newRecord(ROUND);
          row.setAgreementId(agreementId);
          row.setEnteredOn(act.today());
          write(act, row, lock(agreementId), form);
          events.store(act, RoundEvent.ROUND_AGREED, row);
          return row.getId();
        });
  }

  /** Changes a round; what it has made already stays as it is. */
  void changeRound(Act act, long id, RoundForm form) {
    RoundRecord row = lockRound(id);
    AgreementRecord agreement = lock(row.getAgreementId());
    Versions.require(form.version(), row.getVersion());
    write(act, row, agreement, form);
    events.store(act, RoundEvent.ROUND_CHANGED, row);
  }

  /** Takes away a round that has made nothing yet. */
  void removeRound(Act act, long id, int version) {
    RoundRecord row = lockRound(id);
    Versions.require(version, row.getVersion());
    if (database.fetchExists(ROUND_DATE, ROUND_DATE.ROUND_ID.eq(id))) {
      throw new Refused(
          Rule.IN_USE, "This round has made jobs already. Give it a last day instead.");
    }
    events.delete(act, RoundEvent.ROUND_REMOVED, row);
  }

  private void write(Act act, RoundRecord row, AgreementRecord agreement, RoundForm form) {
    var reading = new Reading();
    Long siteId = readSite(reading, form.siteId(), agreement);
    sites.checkEquipment(reading, form.equipmentId(), siteId);
    if (form.kindOfJobId() == null
        || !database.fetchExists(KIND_OF_JOB, KIND_OF_JOB.ID.eq(form.kindOfJobId()))) {
      reading.fault("kindOfJobId", Rule.MISSING, "Choose the kind of job.");
    }
    String title = reading.text("title", form.title(), LONGEST_NAME);
    Integer minutes = reading.required("expected", form.expected(), VisitLength::parse);
    Money price = readPrice(reading, form.price());
    Repeat repeat =
        reading.required(
            "repeats",
            form.repeats(),
            typed -> Repeat.parse(Reading.withinLength(typed, LONGEST_REPEATS)));
    LocalDate from =
        Objects.requireNonNullElse(
            reading.optional("from", form.from(), typed -> day(typed, act.today())),
            agreement.getFromDay());
    LocalDate until = readEnd(reading, form.until(), from, act);
    requireWithin(agreement, from, reading);
    reading.refuseIfFaulty();
    row.setSiteId(Objects.requireNonNull(siteId));
    row.setEquipmentId(form.equipmentId());
    row.setKindOfJobId(Objects.requireNonNull(form.kindOfJobId()));
    row.setTitle(Objects.requireNonNull(title));
    row.setExpectedMinutes(Objects.requireNonNull(minutes));
    row.setPriceMinor(price == null ? null : price.minor());
    row.setWithParts(price != null && form.withParts());
    row.setRepeats(Objects.requireNonNull(repeat).text());
    row.setFromDay(from);
    row.setUntilDay(until);
  }

  private @Nullable Money readPrice(Reading reading, @Nullable String typed) {
    Money price = reading.optional("price", typed, companies.getCompany().typed()::money);
    if (price != null && !price.isPositive()) {
      reading.fault(
          "price", Rule.MISSING, "Enter a price above nothing, or none for by time and parts.");
      return null;
    }
    return price;
  }

  private static void requireWithin(AgreementRecord agreement, LocalDate from, Reading reading) {
    LocalDate until = agreement.getUntilDay();
    if (from.isBefore(agreement.getFromDay()) || (until != null && from.isAfter(until))) {
      reading.fault(
          "from",
          Rule.OUT_OF_LIMITS,
          until == null
              ? "The agreement begins on %s.".formatted(agreement.getFromDay())
              : "The agreement is from %s to %s.".formatted(agreement.getFromDay(), until));
    }
  }

  private @Nullable Long readSite(
      Reading reading, @Nullable Long siteId, AgreementRecord agreement) {
    if (siteId == null) {
      reading.fault("siteId", Rule.MISSING, "Choose the site where the work is.");
      return null;
    }
    if (!sites.isOf(agreement.getCustomerId(), siteId)) {
      reading.fault("siteId", Rule.NOT_FOUND, "This site is not the customer's. Choose another.");
    }
    return siteId;
  }

  private AgreementRecord lock(long id) {
    AgreementRecord row =
        database.selectFrom(AGREEMENT).where(AGREEMENT.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw unknown();
    }
    return row;
  }

  private RoundRecord lockRound(long id) {
    RoundRecord row = database.selectFrom(ROUND).where(ROUND.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw new Refused(Rule.NOT_FOUND, "There is no such round. Reload the page.");
    }
    return row;
  }

  /** What is said where an agreement is asked for that is not there. */
  static Refused unknown() {
    return new Refused(Rule.NOT_FOUND, "There is no such agreement. Reload the page.");
  }
}
