package app.pragmata.server.stores;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PRICE_LIST;
import static app.pragmata.server.generated.Tables.STOCK_LEVEL;
import static app.pragmata.server.generated.Tables.STOCK_MOVEMENT;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;
import static app.pragmata.server.generated.Tables.VAT_TREATMENT;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.stores.ChargeOutPrice;
import app.pragmata.core.stores.StockBalance;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.PartRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.Collection;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Repository;

/**
 * Moves stock at cost; a part's row is locked while it moves, so that two issues never share one
 * average.
 */
@Repository
public class StockStore {
  private final DSLContext database;
  private final CompanyStore companies;
  private final Events events;

  StockStore(DSLContext database, CompanyStore companies, Events events) {
    this.database = database;
    this.companies = companies;
    this.events = events;
  }

  /**
   * Takes a quantity out of a place and gives what it cost; refused when all places together hold
   * less.
   */
  public Money issue(Act act, long partId, long placeId, BigDecimal quantity) {
    PartRecord part = lock(partId);
    return store(act, part, placeId, StockedPart.balance(part).issue(quantity));
  }

  /**
   * Puts a part on the price list, taxed as is usual; gives its id.
   *
   * @param price null where it follows from its cost
   * @throws Refused when its number is taken
   */
  public long list(Act act, String number, String name, String unit, @Nullable UnitPrice price) {
    if (database.fetchExists(PART, PART.NUMBER.eq(number))) {
      throw numberTaken();
    }
    PartRecord part = database.newRecord(PART);
    part.setNumber(number);
    part.setName(name);
    part.setUnit(unit);
    part.setPrice(price);
    part.setVatCode(
        database
            .select(VAT_TREATMENT.CODE)
            .from(VAT_TREATMENT)
            .where(VAT_TREATMENT.USUAL)
            .fetchSingle(VAT_TREATMENT.CODE));
    try {
      events.store(act, StoresEvent.PART_LISTED, part);
    } catch (DataIntegrityViolationException atTheSameMoment) {
      throw numberTaken();
    }
    return part.getId();
  }

  private static Refused numberTaken() {
    var reading = new Reading();
    reading.fault("number", Rule.REPEATED, "A part has this number. Choose another number.");
    return new Refused(reading.faults());
  }

  /** Takes a supplier's delivery into a place; what it cost as a whole is the part's last cost. */
  public void receive(Act act, long partId, long placeId, BigDecimal quantity, Money cost) {
    putBack(act, partId, placeId, quantity, cost);
    database
        .update(PART)
        .set(PART.LAST_UNIT_COST, cost.major().divide(quantity, 8, RoundingMode.HALF_UP))
        .where(PART.ID.eq(partId))
        .execute();
  }

  /** Puts into a place what was issued before, worth what it was then as a whole. */
  public void putBack(Act act, long partId, long placeId, BigDecimal quantity, Money cost) {
    PartRecord part = lock(partId);
    store(act, part, placeId, StockedPart.balance(part).receive(quantity, cost));
  }

  /** Moves stock between places; its value stays the same. */
  public void transfer(
      Act act, long partId, long fromPlaceId, long toPlaceId, BigDecimal quantity) {
    Money cost = issue(act, partId, fromPlaceId, quantity);
    putBack(act, partId, toPlaceId, quantity, cost);
  }

  /** The van of a technician, or the store for everybody who has none. */
  public long getPlaceOf(long personId) {
    return database
        .select(STOCK_PLACE.ID)
        .from(STOCK_PLACE)
        .where(STOCK_PLACE.PERSON_ID.eq(personId).or(STOCK_PLACE.PERSON_ID.isNull()))
        .orderBy(STOCK_PLACE.PERSON_ID.asc().nullsLast())
        .limit(1)
        .fetchSingle(STOCK_PLACE.ID);
  }

  /** What a part sells for to this customer on a day, per unit. */
  public UnitPrice getPrice(long partId, long customerId, LocalDate day) {
    return StockedPart.of(get(partId)).price(getPricing(customerId, day));
  }

  /** The pricing of a day with what the customer's price list takes off. */
  public ChargeOutPrice getPricing(long customerId, LocalDate day) {
    return database
        .select(PRICE_LIST.PARTS_DISCOUNT_SHARE)
        .from(CUSTOMER)
        .join(PRICE_LIST)
        .on(PRICE_LIST.ID.eq(CUSTOMER.PRICE_LIST_ID))
        .where(CUSTOMER.ID.eq(customerId))
        .fetchOptional(row -> getPricing(day).less(new Share(row.value1())))
        .orElseGet(() -> getPricing(day));
  }

  /** How parts without a price of their own are priced on a day. */
  public ChargeOutPrice getPricing(LocalDate day) {
    return new ChargeOutPrice(companies.getCompany().terms().markup().on(day));
  }

  /** The part of this id; refused when there is none. */
  private PartRecord get(long partId) {
    PartRecord part = database.selectFrom(PART).where(PART.ID.eq(partId)).fetchOne();
    if (part == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This part does not exist. Choose one from the price list.");
    }
    return part;
  }

  /** The parts of these ids that there are, read by one statement. */
  public Map<Long, StockedPart> list(Collection<Long> partIds) {
    return database.selectFrom(PART).where(PART.ID.in(partIds)).fetchMap(PART.ID, StockedPart::of);
  }

  private PartRecord lock(long partId) {
    PartRecord part = database.selectFrom(PART).where(PART.ID.eq(partId)).forUpdate().fetchOne();
    if (part == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This part does not exist. Choose one from the price list.");
    }
    return part;
  }

  private Money store(Act act, PartRecord part, long placeId, StockBalance.Movement movement) {
    long signedCost =
        movement.quantity().signum() < 0 ? -movement.cost().minor() : movement.cost().minor();
    database
        .update(PART)
        .set(PART.QUANTITY, movement.after().quantity())
        .set(PART.VALUE_MINOR, movement.after().value().minor())
        .where(PART.ID.eq(part.getId()))
        .execute();
    database
        .insertInto(STOCK_MOVEMENT)
        .set(STOCK_MOVEMENT.PART_ID, part.getId())
        .set(STOCK_MOVEMENT.PLACE_ID, placeId)
        .set(STOCK_MOVEMENT.QUANTITY, movement.quantity())
        .set(STOCK_MOVEMENT.COST_MINOR, signedCost)
        .set(STOCK_MOVEMENT.MOVED_AT, act.at())
        .execute();
    database
        .insertInto(STOCK_LEVEL, STOCK_LEVEL.PLACE_ID, STOCK_LEVEL.PART_ID, STOCK_LEVEL.QUANTITY)
        .values(placeId, part.getId(), movement.quantity())
        .onConflict(STOCK_LEVEL.PLACE_ID, STOCK_LEVEL.PART_ID)
        .doUpdate()
        .set(STOCK_LEVEL.QUANTITY, STOCK_LEVEL.QUANTITY.plus(movement.quantity()))
        .execute();
    return movement.cost();
  }
}
