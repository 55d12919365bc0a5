package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.generated.tables.records.EquipmentRecord;
import app.pragmata.server.generated.tables.records.SiteRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;

/** Equipment: known again by its serial number. */
final class EquipmentTaker implements ListTaker {
  private final LocalDate today;
  private final Customers customers;
  private final Map<String, Long> kinds = new HashMap<>();
  private final Map<String, EquipmentRecord> known = new HashMap<>();
  private final Taken<EquipmentRecord> taken = new Taken<>(EQUIPMENT);

  EquipmentTaker(DSLContext database, LocalDate today) {
    this.today = today;
    this.customers = new Customers(database);
    database
        .selectFrom(EQUIPMENT_KIND)
        .forEach(row -> kinds.put(row.getName().toLowerCase(Locale.ROOT), row.getId()));
    database.selectFrom(EQUIPMENT).forEach(row -> known.put(row.getSerialNumber(), row));
  }

  @Override
  public Becomes take(int row, Map<String, String> cells, Reading reading) {
    Long customer = customers.find(cells.get("customer"), reading);
    SiteRecord site =
        customer == null ? null : customers.findSite(customer, cells.get("site"), reading);
    String kind = reading.text("kind", cells.get("kind"), 120);
    Long kindId = kind == null ? null : kinds.get(kind.toLowerCase(Locale.ROOT));
    if (kind != null && kindId == null) {
      reading.fault(
          "kind",
          Rule.NOT_FOUND,
          "There is no kind “%s”. The kinds are: %s."
              .formatted(Reading.abridged(kind), String.join(", ", kinds.keySet())));
    }
    String serial = reading.text("serial_number", cells.get("serial_number"), 60);
    String model = reading.optionalText("model", cells.get("model"), 120);
    String position = reading.optionalText("position", cells.get("position"), 120);
    LocalDate fitted = day("fitted_on", cells, reading);
    if (cells.getOrDefault("fitted_on", "").isBlank()) {
      reading.fault("fitted_on", Rule.MISSING, "Enter the day when it was fitted.");
    }
    LocalDate partsUntil = day("parts_warranty_until", cells, reading);
    LocalDate labourUntil = day("labour_warranty_until", cells, reading);
    if (!reading.faults().isEmpty() || site == null || serial == null || fitted == null) {
      return Becomes.UNCHANGED;
    }
    EquipmentRecord before = known.get(serial);
    if (taken.isRepeated(before, "serial_number", "has the same serial number", reading)) {
      return Becomes.UNCHANGED;
    }
    EquipmentRecord record = before == null ? new EquipmentRecord() : before;
    if (before == null) {
      record.setPosition("");
      record.setPartsWarrantyShare(BigDecimal.ZERO);
      record.setLabourWarrantyShare(BigDecimal.ZERO);
    }
    taken.set(record, EQUIPMENT.SITE_ID, site.getId());
    taken.set(record, EQUIPMENT.EQUIPMENT_KIND_ID, kindId);
    taken.set(record, EQUIPMENT.SERIAL_NUMBER, serial);
    taken.set(record, EQUIPMENT.MODEL, model.isEmpty() ? (before == null ? kind : null) : model);
    taken.set(record, EQUIPMENT.POSITION, position);
    taken.set(record, EQUIPMENT.FITTED_ON, fitted);
    warranty(record, EQUIPMENT.PARTS_WARRANTY_UNTIL, EQUIPMENT.PARTS_WARRANTY_SHARE, partsUntil);
    warranty(record, EQUIPMENT.LABOUR_WARRANTY_UNTIL, EQUIPMENT.LABOUR_WARRANTY_SHARE, labourUntil);
    if (before == null) {
      known.put(serial, record);
      return taken.add(row, record);
    }
    return taken.change(row, record);
  }

  private @Nullable LocalDate day(String column, Map<String, String> cells, Reading reading) {
    return reading.optional(column, cells.get(column), text -> Day.parsePast(text, today));
  }

  /** A warranty whose share nobody wrote down bears all. */
  private static void warranty(
      EquipmentRecord record,
      Field<LocalDate> until,
      Field<BigDecimal> share,
      @Nullable LocalDate day) {
    if (day != null && !day.equals(record.get(until))) {
      record.set(until, day);
      if (record.get(share) == null || record.get(share).signum() == 0) {
        record.set(share, BigDecimal.ONE);
      }
    }
  }

  @Override
  public void store(Act act, Events events) {
    taken.store(act, CustomerEvent.EQUIPMENT_IMPORTED, events);
  }
}
