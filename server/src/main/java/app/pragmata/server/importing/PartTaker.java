package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.PART;

import app.pragmata.core.Reading;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.server.company.Company;
import app.pragmata.server.generated.tables.records.PartRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.stores.StoresEvent;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.Map;
import org.jooq.DSLContext;

/**
 * The price list: parts known again by their number. A cost is what the next ones are expected to
 * cost; what is in stock keeps its own.
 */
final class PartTaker implements ListTaker {
  private final String usualVat;
  private final TypedMoney typed;
  private final Map<String, PartRecord> known = new HashMap<>();
  private final Taken<PartRecord> taken = new Taken<>(PART);

  PartTaker(DSLContext database, Company company) {
    this.usualVat = company.terms().vat().usualCode();
    this.typed = company.typed();
    database.selectFrom(PART).forEach(row -> known.put(row.getNumber(), row));
  }

  @Override
  public Becomes take(int row, Map<String, String> cells, Reading reading) {
    String number = reading.text("number", cells.get("number"), 40);
    String name = reading.text("name", cells.get("name"), 120);
    String unit = reading.optionalText("unit", cells.get("unit"), 12);
    UnitPrice price = reading.optional("price", cells.get("price"), typed::unitPrice);
    Money cost = reading.optional("cost", cells.get("cost"), typed::money);
    if (number == null || name == null || !reading.faults().isEmpty()) {
      return Becomes.UNCHANGED;
    }
    PartRecord before = known.get(number);
    if (taken.isRepeated(before, "number", "has the same number", reading)) {
      return Becomes.UNCHANGED;
    }
    PartRecord record = before == null ? new PartRecord() : before;
    if (before == null) {
      record.setVatCode(usualVat);
      record.setUnit("");
      record.setLastUnitCost(BigDecimal.ZERO);
    }
    taken.set(record, PART.NUMBER, number);
    taken.set(record, PART.NAME, name);
    taken.set(record, PART.UNIT, unit);
    taken.set(record, PART.PRICE, price);
    BigDecimal each = cost == null ? null : cost.major();
    if (each != null && (before == null || before.getLastUnitCost().compareTo(each) != 0)) {
      record.setLastUnitCost(each);
    }
    if (before == null) {
      known.put(number, record);
      return taken.add(row, record);
    }
    return taken.change(row, record);
  }

  @Override
  public void store(Act act, Events events) {
    taken.store(act, StoresEvent.PART_IMPORTED, events);
  }
}
