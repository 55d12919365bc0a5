package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.STOCK_LEVEL;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;

import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.stores.StockStore;
import java.math.BigDecimal;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Deliveries into the store and what is loaded into the vans, about as a small firm would hold. */
@Component
class DemoStores {
  /** How much of a part comes at once, and how much each van carries. */
  private record Lot(int delivered, int carried) {
    static Lot of(DemoCatalogue.PartOnList part) {
      if (part.unit().equals("m")) {
        return new Lot(100, 15);
      }
      boolean dear = Money.of(part.cost()).compareTo(Money.of("60.00")) > 0;
      return dear ? new Lot(2, 0) : new Lot(12, 2);
    }
  }

  private final DSLContext database;
  private final StockStore stock;
  private final BooksStore books;

  DemoStores(DSLContext database, StockStore stock, BooksStore books) {
    this.database = database;
    this.stock = stock;
    this.books = books;
  }

  /** The first delivery of everything on the list. */
  void open(Act act, List<Long> technicians) {
    for (DemoCatalogue.PartOnList part : DemoCatalogue.PARTS) {
      deliver(act, part, Lot.of(part).delivered());
      for (long technician : technicians) {
        if (Lot.of(part).carried() > 0) {
          load(act, technician, part, BigDecimal.valueOf(Lot.of(part).carried()));
        }
      }
    }
  }

  /** Sees to it that a technician's van holds what is about to be fitted. */
  void loadForUse(Act act, long technician, String number, BigDecimal quantity) {
    DemoCatalogue.PartOnList part =
        DemoCatalogue.PARTS.stream()
            .filter(candidate -> candidate.number().equals(number))
            .findFirst()
            .orElseThrow();
    BigDecimal missing = quantity.subtract(held(id(part), stock.getPlaceOf(technician)));
    if (missing.signum() > 0) {
      load(act, technician, part, missing);
    }
  }

  private void load(Act act, long technician, DemoCatalogue.PartOnList part, BigDecimal quantity) {
    BigDecimal missing = quantity.subtract(held(id(part), store()));
    if (missing.signum() > 0) {
      deliver(act, part, Math.max(Lot.of(part).delivered(), missing.intValue() + 1));
    }
    stock.transfer(act, id(part), store(), stock.getPlaceOf(technician), quantity);
  }

  private void deliver(Act act, DemoCatalogue.PartOnList part, int count) {
    BigDecimal quantity = BigDecimal.valueOf(count);
    Money cost = Money.of(part.cost()).times(quantity);
    stock.receive(act, id(part), store(), quantity, cost);
    books.post(
        act,
        new BooksEvent.PartReceived(cost),
        new BooksStore.Source(
            RecordKind.PART, id(part), null, "%d %s".formatted(count, part.name())));
  }

  private long store() {
    return database
        .select(STOCK_PLACE.ID)
        .from(STOCK_PLACE)
        .where(STOCK_PLACE.PERSON_ID.isNull())
        .fetchSingle(STOCK_PLACE.ID);
  }

  private long id(DemoCatalogue.PartOnList part) {
    return database
        .select(PART.ID)
        .from(PART)
        .where(PART.NUMBER.eq(part.number()))
        .fetchSingle(PART.ID);
  }

  private BigDecimal held(long partId, long placeId) {
    return database
        .select(STOCK_LEVEL.QUANTITY)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.PART_ID.eq(partId).and(STOCK_LEVEL.PLACE_ID.eq(placeId)))
        .fetchOptional(STOCK_LEVEL.QUANTITY)
        .orElse(BigDecimal.ZERO);
  }
}
