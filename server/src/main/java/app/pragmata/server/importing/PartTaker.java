package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.PART;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.server.generated.tables.records.PartRecord;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;

/**
 * The price list: parts known again by their number. A cost is what the next ones are expected to
 * cost; what is in stock keeps its own.
 */
final class PartTaker implements ListTaker {
  private final DSLContext database;
  private final Map<String, PartRecord> known = new HashMap<>();
  private final IdentityHashMap<PartRecord, Integer> rowOf = new IdentityHashMap<>();
  private final List<PartRecord> added = new ArrayList<>();
  private final List<PartRecord> changed = new ArrayList<>();

  PartTaker(DSLContext database) {
    this.database = database;
    database.selectFrom(PART).forEach(row -> known.put(row.getNumber(), row));
  }

  @Override
  public Becomes take(int row, Map<String, String> cells, Reading reading) {
    String number = reading.text("number", cells.get("number"), 40);
    String name = reading.text("name", cells.get("name"), 120);
    String unit = reading.optionalText("unit", cells.get("unit"), 12);
    Money price = reading.optional("price", cells.get("price"), Money::parse);
    Money cost = reading.optional("cost", cells.get("cost"), Money::parse);
    if (number == null || name == null || !reading.faults().isEmpty()) {
      return Becomes.UNCHANGED;
    }
    PartRecord before = known.get(number);
    if (before != null && rowOf.containsKey(before)) {
      reading.fault(
          "number",
          Rule.REPEATED,
          "Row " + rowOf.get(before) + " has the same number. Keep one of the two.");
      return Becomes.UNCHANGED;
    }
    PartRecord record = before == null ? new PartRecord() : before;
    if (before == null) {
      record.setVatCode("standard");
      record.setUnit("");
      record.setLastUnitCost(BigDecimal.ZERO);
    }
    CustomerTaker.set(record, PART.NUMBER, number);
    CustomerTaker.set(record, PART.NAME, name);
    CustomerTaker.set(record, PART.UNIT, unit.isEmpty() ? null : unit);
    CustomerTaker.set(record, PART.PRICE_MINOR, price == null ? null : price.minor());
    BigDecimal each = cost == null ? null : cost.major();
    if (each != null && (before == null || before.getLastUnitCost().compareTo(each) != 0)) {
      record.setLastUnitCost(each);
    }
    rowOf.put(record, row);
    if (before == null) {
      known.put(number, record);
      added.add(record);
      return Becomes.ADDED;
    }
    if (!record.touched()) {
      return Becomes.UNCHANGED;
    }
    changed.add(record);
    return Becomes.CHANGED;
  }

  @Override
  public void store() {
    ListTaker.store(database, PART, added, changed);
  }
}
