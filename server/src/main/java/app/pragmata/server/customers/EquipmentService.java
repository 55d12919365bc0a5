package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;
import static app.pragmata.server.generated.Tables.EQUIPMENT_PHOTO;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.server.generated.tables.records.EquipmentRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.InUse;
import app.pragmata.server.records.References;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The things at a site that we look after: put on record, moved, replaced. */
@Service
@Transactional
public class EquipmentService {

  /**
   * A piece of equipment as it is typed.
   *
   * @param position where at the site it stands, such as "Shed 5, north side"
   * @param partsWarrantyPercent the covered share, such as "60"; empty is all of it while a day is
   *     given
   */
  public record EquipmentForm(
      int version,
      @Nullable Long equipmentKindId,
      @Nullable String model,
      @Nullable String serialNumber,
      @Nullable String fittedOn,
      @Nullable String position,
      @Nullable String partsWarrantyUntil,
      @Nullable String partsWarrantyPercent,
      @Nullable String labourWarrantyUntil,
      @Nullable String labourWarrantyPercent) {}

  private final DSLContext database;
  private final RepeatableRequests repeats;
  private final Events events;
  private final References references;
  private final VersionStore versions;

  EquipmentService(
      DSLContext database,
      RepeatableRequests repeats,
      Events events,
      References references,
      VersionStore versions) {
    this.database = database;
    this.repeats = repeats;
    this.events = events;
    this.references = references;
    this.versions = versions;
  }

  /** How many pieces stand at a customer's sites. */
  static int countOf(DSLContext database, long customerId) {
    return database.fetchCount(
        EQUIPMENT.join(SITE).on(SITE.ID.eq(EQUIPMENT.SITE_ID)), SITE.CUSTOMER_ID.eq(customerId));
  }

  /** Puts a piece on record; gives its id. */
  public long add(Act act, @Nullable String key, long siteId, EquipmentForm form) {
    return repeats.once(
        act,
        key,
        "add equipment",
        siteId + " " + form,
        () -> insert(act, siteId, null, form, CustomerEvent.EQUIPMENT_ADDED));
  }

  private long insert(
      Act act, long siteId, @Nullable Long visitPartId, EquipmentForm form, CustomerEvent how) {
    requireSite(siteId);
    var row = database.newRecord(EQUIPMENT);
    row.setSiteId(siteId);
    row.setVisitPartId(visitPartId);
    fill(row, act, form);
    events.store(act, how, row);
    return row.getId();
  }

  public void save(Act act, long id, EquipmentForm form) {
    EquipmentRecord row = lock(id, form.version());
    fill(row, act, form);
    events.store(act, CustomerEvent.EQUIPMENT_CHANGED, row);
  }

  /** Moves a piece to another site, of the same customer or of another. */
  public void move(Act act, long id, int version, @Nullable Long siteId) {
    if (siteId == null) {
      throw new Refused(Rule.MISSING, "Choose the site where it stands now.");
    }
    EquipmentRecord row = lock(id, version);
    requireSite(siteId);
    row.setSiteId(siteId);
    row.setPosition("");
    events.store(act, CustomerEvent.EQUIPMENT_MOVED, row);
  }

  /**
   * Puts a new piece in the place of an old one, which stays on record as removed; gives its id.
   */
  public long replace(Act act, @Nullable String key, long id, EquipmentForm form) {
    return repeats.once(
        act,
        key,
        "replace equipment",
        id + " " + form,
        () -> {
          EquipmentRecord old = lock(id, form.version());
          requireInPlace(old);
          long successor =
              insert(act, old.getSiteId(), null, form, CustomerEvent.EQUIPMENT_PUT_IN_PLACE);
          retire(act, old, successor);
          return successor;
        });
  }

  private static void requireInPlace(EquipmentRecord old) {
    if (old.getReplacedById() != null) {
      throw new Refused(
          Rule.EQUIPMENT_REPLACED, "This piece was replaced before. Replace the one in its place.");
    }
  }

  private void retire(Act act, EquipmentRecord old, long successor) {
    LocalDate fitted =
        database
            .select(EQUIPMENT.FITTED_ON)
            .from(EQUIPMENT)
            .where(EQUIPMENT.ID.eq(successor))
            .fetchSingle(EQUIPMENT.FITTED_ON);
    old.setReplacedById(successor);
    old.setRemovedOn(fitted);
    events.store(act, CustomerEvent.EQUIPMENT_REPLACED, old);
  }

  /** A part as it was fitted on a visit. */
  public record Fitted(
      long visitPartId,
      long siteId,
      long equipmentKindId,
      String model,
      LocalDate on,
      int warrantyMonths,
      int quantity) {}

  /**
   * Puts one of the parts that were fitted on record, with its serial number and the warranty of
   * its kind, inside the caller's transaction; gives its id.
   */
  public long putOnRecord(Act act, Fitted fitted, @Nullable String serialNumber) {
    int onRecord = database.fetchCount(EQUIPMENT, EQUIPMENT.VISIT_PART_ID.eq(fitted.visitPartId()));
    if (fitted.quantity() <= onRecord) {
      throw new Refused(
          Rule.ALL_ON_RECORD, "All that were fitted of this part are on record already.");
    }
    String until =
        fitted.warrantyMonths() > 0
            ? fitted.on().plusMonths(fitted.warrantyMonths()).toString()
            : null;
    return insert(
        act,
        fitted.siteId(),
        fitted.visitPartId(),
        new EquipmentForm(
            0,
            fitted.equipmentKindId(),
            fitted.model(),
            serialNumber,
            fitted.on().toString(),
            null,
            until,
            null,
            until,
            null),
        CustomerEvent.EQUIPMENT_FITTED);
  }

  /** The same in the place of a piece that stood there, which stays on record as removed. */
  public long putInPlaceOf(Act act, long oldId, Fitted fitted, @Nullable String serialNumber) {
    EquipmentRecord old =
        database.selectFrom(EQUIPMENT).where(EQUIPMENT.ID.eq(oldId)).forUpdate().fetchSingle();
    requireInPlace(old);
    long successor = putOnRecord(act, fitted, serialNumber);
    retire(act, old, successor);
    return successor;
  }

  /** Deletes a piece that nothing refers to. */
  public void delete(Act act, long id, int version) {
    EquipmentRecord row = lock(id, version);
    var uses =
        new LinkedHashMap<>(references.count(EQUIPMENT, id, Set.of(EQUIPMENT_PHOTO, EQUIPMENT)));
    uses.put("predecessor", database.fetchCount(EQUIPMENT, EQUIPMENT.REPLACED_BY_ID.eq(id)));
    InUse.refuse(row.getModel(), uses, "Replace it, or note on it that it was removed.");
    database.deleteFrom(EQUIPMENT_PHOTO).where(EQUIPMENT_PHOTO.EQUIPMENT_ID.eq(id)).execute();
    events.delete(act, CustomerEvent.EQUIPMENT_DELETED, row);
  }

  /** Keeps a photo of the piece, as JPEG, in the place of the one before. */
  public Changed keepPhoto(Act act, long id, byte[] photo) {
    if (!database.fetchExists(EQUIPMENT, EQUIPMENT.ID.eq(id))) {
      throw new Refused(Rule.NOT_FOUND, "This piece does not exist. Reload the page.");
    }
    database
        .insertInto(EQUIPMENT_PHOTO)
        .values(id, photo, act.at())
        .onConflict(EQUIPMENT_PHOTO.EQUIPMENT_ID)
        .doUpdate()
        .set(EQUIPMENT_PHOTO.CONTENT, photo)
        .set(EQUIPMENT_PHOTO.ADDED_AT, act.at())
        .execute();
    events.tell(
        act,
        CustomerEvent.EQUIPMENT_PHOTO_KEPT,
        id,
        About.NOTHING.with(Map.of(), Map.of("bytes", photo.length)));
    return versions.changed(EQUIPMENT.ID, id);
  }

  private void requireSite(long siteId) {
    if (!database.fetchExists(SITE, SITE.ID.eq(siteId))) {
      throw new Refused(Rule.NOT_FOUND, "This site does not exist. Reload the page.");
    }
  }

  private EquipmentRecord lock(long id, int version) {
    EquipmentRecord row =
        database.selectFrom(EQUIPMENT).where(EQUIPMENT.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw new Refused(Rule.NOT_FOUND, "This equipment does not exist. Reload the page.");
    }
    Versions.require(version, row.getVersion());
    return row;
  }

  private void fill(EquipmentRecord row, Act act, EquipmentForm form) {
    var reading = new Reading();
    if (form.equipmentKindId() == null
        || !database.fetchExists(EQUIPMENT_KIND, EQUIPMENT_KIND.ID.eq(form.equipmentKindId()))) {
      reading.fault("equipmentKindId", Rule.MISSING, "Choose what kind of equipment it is.");
    }
    String model = reading.text("model", form.model(), 120);
    String serial = reading.text("serialNumber", form.serialNumber(), 60);
    if (serial != null && isTaken(serial, row.getId())) {
      reading.fault(
          "serialNumber",
          Rule.REPEATED,
          "Another piece on record has this serial number. Find it with / and move it here, or check the number.");
    }
    LocalDate fitted =
        reading.required("fittedOn", form.fittedOn(), day -> Day.parsePast(day, act.today()));
    String position = reading.optionalText("position", form.position(), 120);
    LocalDate partsUntil =
        reading.optional(
            "partsWarrantyUntil", form.partsWarrantyUntil(), day -> Day.parse(day, act.today()));
    BigDecimal partsShare =
        share("partsWarrantyPercent", form.partsWarrantyPercent(), partsUntil, reading);
    LocalDate labourUntil =
        reading.optional(
            "labourWarrantyUntil", form.labourWarrantyUntil(), day -> Day.parse(day, act.today()));
    BigDecimal labourShare =
        share("labourWarrantyPercent", form.labourWarrantyPercent(), labourUntil, reading);
    reading.refuseIfFaulty();
    row.setEquipmentKindId(form.equipmentKindId());
    row.setModel(Objects.requireNonNull(model));
    row.setSerialNumber(Objects.requireNonNull(serial));
    row.setFittedOn(Objects.requireNonNull(fitted));
    row.setPosition(position);
    row.setPartsWarrantyUntil(partsUntil);
    row.setPartsWarrantyShare(partsShare);
    row.setLabourWarrantyUntil(labourUntil);
    row.setLabourWarrantyShare(labourShare);
  }

  private boolean isTaken(String serial, @Nullable Long byOther) {
    return database.fetchExists(
        EQUIPMENT,
        EQUIPMENT
            .SERIAL_NUMBER
            .eq(serial)
            .and(EQUIPMENT.ID.ne(Objects.requireNonNullElse(byOther, 0L))));
  }

  /** A covered share; without a day nothing is covered, with a day all of it unless said. */
  private static BigDecimal share(
      String field, @Nullable String typed, @Nullable LocalDate until, Reading reading) {
    BigDecimal percent =
        reading.optional(
            field,
            typed,
            text -> {
              String plain = text.replace("%", "").strip();
              if (!plain.matches("\\d{1,3}(\\.\\d{1,2})?")
                  || new BigDecimal(plain).compareTo(new BigDecimal(100)) > 0) {
                throw new Unreadable(
                    Rule.UNREADABLE, "Enter the covered share from 0 to 100, such as 60.");
              }
              return new BigDecimal(plain);
            });
    if (until == null) {
      return BigDecimal.ZERO;
    }
    return percent == null ? BigDecimal.ONE : percent.movePointLeft(2);
  }
}
