package app.pragmata.server.stores;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PRICE_LIST;
import static app.pragmata.server.generated.Tables.STOCK_LEVEL;
import static app.pragmata.server.generated.Tables.STOCK_MOVEMENT;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;
import static app.pragmata.server.generated.Tables.VAT_TREATMENT;

import app.pragmata.core.Decimal;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.stores.ChargeOutPrice;
import app.pragmata.core.stores.StockBalance;
import app.pragmata.core.stores.StockMovementKind;
import app.pragmata.core.stores.Unexplained;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.PartRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RecordKind;
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
 * Moves stock at cost, and posts what no job bears; a part's row is locked while it moves, so that
 * two issues never share one average.
 */
@Repository
public class StockStore {
  private final DSLContext database;
  private final CompanyStore companies;
  private final BooksStore books;
  private final Events events;

  StockStore(DSLContext database, CompanyStore companies, BooksStore books, Events events) {
    this.database = database;
    this.companies = companies;
    this.books = books;
    this.events = events;
  }

  /**
   * Takes a quantity out of a place and gives what it cost. The place may hold less, and is below
   * zero then; what all places together do not hold comes in at its last cost first, against stock
   * differences.
   */
  public Money issue(Act act, long partId, long placeId, BigDecimal quantity) {
    return takeOut(act, lock(partId), placeId, StockMovementKind.USED, quantity);
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

  /**
   * Takes a supplier's delivery into a place, and posts it; what it cost as a whole is the part's
   * last cost.
   */
  public void receive(Act act, long partId, long placeId, BigDecimal quantity, Money cost) {
    PartRecord part = lock(partId);
    part.setLastUnitCost(cost.major().divide(quantity, 8, RoundingMode.HALF_UP));
    books.post(act, new BooksEvent.PartReceived(cost), source(part, quantity));
    putIn(act, part, placeId, StockMovementKind.RECEIVED, quantity, cost);
    events.tell(act, StoresEvent.PART_DELIVERED, partId, About.NOTHING);
  }

  /** Puts into a place what was issued before, worth what it was then as a whole. */
  public void putBack(Act act, long partId, long placeId, BigDecimal quantity, Money cost) {
    putIn(act, lock(partId), placeId, StockMovementKind.PUT_BACK, quantity, cost);
  }

  /**
   * Moves stock between places, also what the first one does not hold in the books; what all of
   * them hold stays as it is.
   */
  public void transfer(
      Act act, long partId, long fromPlaceId, long toPlaceId, BigDecimal quantity) {
    PartRecord part = lock(partId);
    moveAtNoCost(act, part, fromPlaceId, quantity.negate());
    moveAtNoCost(act, part, toPlaceId, quantity);
    events.tell(act, StoresEvent.PART_MOVED, partId, About.NOTHING);
  }

  /**
   * Brings the books of a place in line with what was counted there, at average cost, and posts the
   * difference.
   */
  public void count(Act act, long partId, long placeId, BigDecimal counted, String why) {
    PartRecord part = lock(partId);
    BigDecimal difference = counted.subtract(held(partId, placeId));
    if (difference.signum() > 0) {
      Money cost =
          Money.rounded(
              StockedPart.balance(part).expectedCost(part.getLastUnitCost()).multiply(difference));
      books.post(act, new BooksEvent.CountedMore(cost), source(part, difference));
      putIn(act, part, placeId, StockMovementKind.COUNTED, difference, cost);
    } else if (difference.signum() < 0) {
      BigDecimal less = difference.negate();
      Money cost = takeOut(act, part, placeId, StockMovementKind.COUNTED, less);
      books.post(act, new BooksEvent.CountedLess(cost), source(part, less));
    }
    events.tell(
        act,
        StoresEvent.PART_COUNTED,
        partId,
        About.because(why)
            .with(Map.of("quantity", counted.subtract(difference)), Map.of("quantity", counted)));
  }

  /** What a place holds of a part in the books; below zero where more was taken than it held. */
  public BigDecimal held(long partId, long placeId) {
    return database
        .select(STOCK_LEVEL.QUANTITY)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.PART_ID.eq(partId).and(STOCK_LEVEL.PLACE_ID.eq(placeId)))
        .fetchOptional(STOCK_LEVEL.QUANTITY)
        .orElse(BigDecimal.ZERO);
  }

  /** The store, from which the vans are loaded. */
  public long getStore() {
    return database
        .select(STOCK_PLACE.ID)
        .from(STOCK_PLACE)
        .where(STOCK_PLACE.PERSON_ID.isNull())
        .orderBy(STOCK_PLACE.ID)
        .limit(1)
        .fetchSingle(STOCK_PLACE.ID);
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

  private Money takeOut(
      Act act, PartRecord part, long placeId, StockMovementKind kind, BigDecimal quantity) {
    StockBalance held = StockedPart.balance(part);
    StockBalance.Movement missing = held.missing(quantity, part.getLastUnitCost());
    if (missing.quantity().signum() > 0) {
      keep(act, part, null, StockMovementKind.BEYOND_STOCK, missing);
      setUnexplained(part, StockedPart.unexplained(part).plus(missing));
      books.post(
          act, new BooksEvent.UsedBeyondStock(missing.cost()), source(part, missing.quantity()));
    }
    StockBalance.Movement out = missing.after().issue(quantity);
    keep(act, part, placeId, kind, out);
    part.update();
    return out.cost();
  }

  private void putIn(
      Act act,
      PartRecord part,
      long placeId,
      StockMovementKind kind,
      BigDecimal quantity,
      Money cost) {
    StockBalance.Movement in = StockedPart.balance(part).receive(quantity, cost);
    keep(act, part, placeId, kind, in);
    Unexplained.Explanation explanation = StockedPart.unexplained(part).by(quantity, in.after());
    StockBalance.Movement explained = explanation.movement();
    if (explained.quantity().signum() < 0) {
      keep(act, part, null, StockMovementKind.EXPLAINED, explained);
      setUnexplained(part, explanation.left());
      books.post(
          act,
          new BooksEvent.StockExplained(explained.cost()),
          source(part, explained.quantity().negate()));
    }
    part.update();
  }

  private void moveAtNoCost(Act act, PartRecord part, long placeId, BigDecimal quantity) {
    keep(
        act,
        part,
        placeId,
        StockMovementKind.MOVED,
        new StockBalance.Movement(StockedPart.balance(part), quantity, Money.ZERO));
  }

  private static void setUnexplained(PartRecord part, Unexplained unexplained) {
    part.setUnexplainedQuantity(unexplained.quantity());
    part.setUnexplainedMinor(unexplained.value().minor());
  }

  private static BooksStore.Source source(PartRecord part, BigDecimal quantity) {
    return new BooksStore.Source(
        RecordKind.PART, part.getId(), null, Decimal.text(quantity) + " " + part.getName());
  }

  /** Writes a movement down; what the part then is stands in its row, which is stored later. */
  private void keep(
      Act act,
      PartRecord part,
      @Nullable Long placeId,
      StockMovementKind kind,
      StockBalance.Movement movement) {
    BigDecimal quantity = movement.quantity();
    part.setQuantity(movement.after().quantity());
    part.setValueMinor(movement.after().value().minor());
    database
        .insertInto(STOCK_MOVEMENT)
        .set(STOCK_MOVEMENT.PART_ID, part.getId())
        .set(STOCK_MOVEMENT.KIND, kind)
        .set(STOCK_MOVEMENT.PLACE_ID, placeId)
        .set(STOCK_MOVEMENT.QUANTITY, quantity)
        .set(STOCK_MOVEMENT.COST_MINOR, movement.cost().minor() * quantity.signum())
        .set(STOCK_MOVEMENT.MOVED_AT, act.at())
        .set(STOCK_MOVEMENT.MOVED_BY, act.personId())
        .execute();
    if (placeId != null) {
      database
          .insertInto(STOCK_LEVEL, STOCK_LEVEL.PLACE_ID, STOCK_LEVEL.PART_ID, STOCK_LEVEL.QUANTITY)
          .values(placeId, part.getId(), quantity)
          .onConflict(STOCK_LEVEL.PLACE_ID, STOCK_LEVEL.PART_ID)
          .doUpdate()
          .set(STOCK_LEVEL.QUANTITY, STOCK_LEVEL.QUANTITY.plus(quantity))
          .execute();
    }
  }
}
