package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.generated.tables.records.EquipmentRecord;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Knows whose sites are and what stands there. */
@Repository
public class Sites {
  private final DSLContext database;

  Sites(DSLContext database) {
    this.database = database;
  }

  /** Whether a site is this customer's. */
  public boolean isOf(long customerId, long siteId) {
    return database.fetchExists(SITE, SITE.ID.eq(siteId).and(SITE.CUSTOMER_ID.eq(customerId)));
  }

  /**
   * What stands in the place of a piece of equipment by now: itself, what replaced it, or null
   * where it was taken away.
   */
  public @Nullable Long standing(@Nullable Long equipmentId) {
    Long at = equipmentId;
    while (at != null) {
      EquipmentRecord piece =
          database.selectFrom(EQUIPMENT).where(EQUIPMENT.ID.eq(at)).fetchSingle();
      if (piece.getRemovedOn() == null) {
        return at;
      }
      at = piece.getReplacedById();
    }
    return null;
  }

  /**
   * Notes when a chosen piece of equipment does not stand at a chosen site.
   *
   * @param equipmentId null for none, which stands anywhere
   * @param siteId null for none, where nothing stands
   */
  public void checkEquipment(Reading reading, @Nullable Long equipmentId, @Nullable Long siteId) {
    if (equipmentId != null
        && (siteId == null
            || !database.fetchExists(
                EQUIPMENT, EQUIPMENT.ID.eq(equipmentId).and(EQUIPMENT.SITE_ID.eq(siteId))))) {
      reading.fault(
          "equipmentId", Rule.NOT_FOUND, "This equipment does not stand at the chosen site.");
    }
  }
}
