package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.money.Money;
import app.pragmata.core.people.Role;
import app.pragmata.server.records.Act;
import app.pragmata.server.stores.Handovers;
import app.pragmata.server.stores.Handovers.HandoverForm;
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
  private final Handovers handovers;

  DemoStores(DSLContext database, StockStore stock, Handovers handovers) {
    this.database = database;
    this.stock = stock;
    this.handovers = handovers;
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
    BigDecimal missing = quantity.subtract(stock.held(id(part), stock.getPlaceOf(technician)));
    if (missing.signum() > 0) {
      load(act, technician, part, missing);
    }
  }

  /**
   * As vans are: a count that found less than the books, hinges given away that a van did not hold
   * in the books, and a part that somebody wants from a colleague.
   */
  void handAround(Act office) {
    long giver = person("imre");
    long taker = person("dilys");
    long store = stock.getStore();
    long coupling = id("CPL-1");
    BigDecimal fewer = stock.held(coupling, store).subtract(BigDecimal.ONE);
    stock.count(office, coupling, store, fewer, "One was bent and thrown away");
    long van = stock.getPlaceOf(giver);
    long hinge = id("HNG-S");
    BigDecimal more = stock.held(hinge, van).add(BigDecimal.ONE);
    stock.transfer(office, hinge, van, stock.getPlaceOf(taker), more);
    handovers.ask(
        new Act(taker, Role.TECHNICIAN, office.at(), office.zone()),
        "demo-handover",
        new HandoverForm(carried(van), van, null, "1"));
  }

  /** A part of which a van has some to spare. */
  private long carried(long van) {
    return DemoCatalogue.PARTS.stream()
        .map(this::id)
        .filter(part -> stock.held(part, van).compareTo(BigDecimal.ONE) > 0)
        .findFirst()
        .orElseThrow();
  }

  private long person(String username) {
    return database
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq(username))
        .fetchSingle(PERSON.ID);
  }

  private void load(Act act, long technician, DemoCatalogue.PartOnList part, BigDecimal quantity) {
    BigDecimal missing = quantity.subtract(stock.held(id(part), stock.getStore()));
    if (missing.signum() > 0) {
      deliver(act, part, Math.max(Lot.of(part).delivered(), missing.intValue() + 1));
    }
    stock.transfer(act, id(part), stock.getStore(), stock.getPlaceOf(technician), quantity);
  }

  private void deliver(Act act, DemoCatalogue.PartOnList part, int count) {
    BigDecimal quantity = BigDecimal.valueOf(count);
    Money cost = Money.of(part.cost()).times(quantity);
    stock.receive(act, id(part), stock.getStore(), quantity, cost);
  }

  private long id(DemoCatalogue.PartOnList part) {
    return id(part.number());
  }

  private long id(String number) {
    return database.select(PART.ID).from(PART).where(PART.NUMBER.eq(number)).fetchSingle(PART.ID);
  }
}
