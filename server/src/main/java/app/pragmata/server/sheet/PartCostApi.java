package app.pragmata.server.sheet;

import static app.pragmata.server.generated.Tables.STOCK_MOVEMENT;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.stores.StockMovementKind;
import app.pragmata.server.generated.tables.records.VisitPartRecord;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** Why a part on a visit cost what it did. */
@RestController
class PartCostApi {
  /**
   * What was held of the part when it was used, in all places together: value / quantity is the
   * moving average, times what was used the cost, rounded half up.
   *
   * @param heldQuantity null, as is the value, where it was booked without a movement of stock
   * @param purchases the last ones before, the latest first
   */
  record PartCost(
      BigDecimal quantity,
      long costMinor,
      @Nullable BigDecimal heldQuantity,
      @Nullable Long heldMinor,
      List<Purchase> purchases) {}

  /** A delivery of a supplier. */
  record Purchase(LocalDate day, BigDecimal quantity, long costMinor) {}

  private static final int MOST_PURCHASES = 3;

  private final DSLContext database;

  PartCostApi(DSLContext database) {
    this.database = database;
  }

  @GetMapping("/api/visit-parts/{id}/cost")
  @Transactional(readOnly = true)
  public PartCost getPartCost(Act act, @PathVariable long id) {
    VisitPartRecord use =
        database
            .selectFrom(VISIT_PART)
            .where(VISIT_PART.ID.eq(id))
            .fetchOptional()
            .orElseThrow(
                () ->
                    new Refused(Rule.NOT_FOUND, "This part is not on a visit. Reload the sheet."));
    Long movement = movementOf(use);
    var held =
        database
            .select(
                coalesce(sum(STOCK_MOVEMENT.QUANTITY), inline(BigDecimal.ZERO)),
                coalesce(sum(STOCK_MOVEMENT.COST_MINOR), inline(BigDecimal.ZERO)))
            .from(STOCK_MOVEMENT)
            .where(STOCK_MOVEMENT.PART_ID.eq(use.getPartId()))
            .and(STOCK_MOVEMENT.ID.lt(movement == null ? 0L : movement))
            .fetchSingle();
    return new PartCost(
        use.getQuantity().stripTrailingZeros(),
        use.getCostMinor(),
        movement == null ? null : held.value1().stripTrailingZeros(),
        movement == null ? null : Long.valueOf(held.value2().longValueExact()),
        purchases(act, use, movement));
  }

  /**
   * The movement that took it out of stock; null where there is none. One whose quantity was put
   * right since was taken out later than it was added.
   */
  private @Nullable Long movementOf(VisitPartRecord use) {
    return database
        .select(STOCK_MOVEMENT.ID)
        .from(STOCK_MOVEMENT)
        .where(STOCK_MOVEMENT.PART_ID.eq(use.getPartId()))
        .and(STOCK_MOVEMENT.KIND.eq(StockMovementKind.USED))
        .and(STOCK_MOVEMENT.PLACE_ID.eq(use.getPlaceId()))
        .and(STOCK_MOVEMENT.QUANTITY.eq(use.getQuantity().negate()))
        .and(STOCK_MOVEMENT.COST_MINOR.eq(-use.getCostMinor()))
        .and(STOCK_MOVEMENT.MOVED_AT.ge(use.getAddedAt()))
        .orderBy(STOCK_MOVEMENT.ID)
        .limit(1)
        .fetchOne(STOCK_MOVEMENT.ID);
  }

  private List<Purchase> purchases(Act act, VisitPartRecord use, @Nullable Long movement) {
    return database
        .select(STOCK_MOVEMENT.MOVED_AT, STOCK_MOVEMENT.QUANTITY, STOCK_MOVEMENT.COST_MINOR)
        .from(STOCK_MOVEMENT)
        .where(STOCK_MOVEMENT.PART_ID.eq(use.getPartId()))
        .and(STOCK_MOVEMENT.KIND.eq(StockMovementKind.RECEIVED))
        .and(STOCK_MOVEMENT.ID.lt(movement == null ? Long.MAX_VALUE : movement))
        .orderBy(STOCK_MOVEMENT.ID.desc())
        .limit(MOST_PURCHASES)
        .fetch(
            row ->
                new Purchase(
                    act.dayOf(row.value1()), row.value2().stripTrailingZeros(), row.value3()));
  }
}
