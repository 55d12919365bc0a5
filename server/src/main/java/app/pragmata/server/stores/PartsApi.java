package app.pragmata.server.stores;

import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.STOCK_LEVEL;
import static app.pragmata.server.generated.Tables.STOCK_MOVEMENT;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.money.Money;
import app.pragmata.core.stores.ChargeOutPrice;
import app.pragmata.core.stores.StockMovementKind;
import app.pragmata.server.http.SearchWords;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The price list, for the desk with costs and for the field without. */
@RestController
class PartsApi {
  private static final int MOST = 40;
  private static final int MOST_CARRIED = 3_000;
  private static final Duration RECENT = Duration.ofDays(30);

  /** A part as the office sees it; the cost is rounded for showing only. */
  record PricedPart(
      long id,
      String number,
      String name,
      String unit,
      BigDecimal price,
      long averageCostMinor,
      BigDecimal held) {}

  /**
   * A part as a technician sees it: no cost, and what the van holds.
   *
   * @param codes those printed on its box, as far as somebody has scanned them
   */
  record VanPart(
      long id, String number, String name, String unit, BigDecimal inVan, List<String> codes) {}

  private final DSLContext database;
  private final StockStore stock;

  PartsApi(DSLContext database, StockStore stock) {
    this.database = database;
    this.stock = stock;
  }

  @GetMapping("/api/parts")
  List<PricedPart> listParts(Act act, @RequestParam(defaultValue = "") String q) {
    ChargeOutPrice pricing = stock.getPricing(act.today());
    return database
        .selectFrom(PART)
        .where(matches("q", q))
        .orderBy(PART.NAME)
        .limit(MOST)
        .fetch(
            part ->
                new PricedPart(
                    part.getId(),
                    part.getNumber(),
                    part.getName(),
                    part.getUnit(),
                    StockedPart.of(part).price(pricing).major(),
                    Money.rounded(StockedPart.of(part).expectedCost()).minor(),
                    StockedPart.held(part)));
  }

  /** What is in one's own van comes first, and of that what one used lately. */
  @GetMapping("/api/pocket/parts")
  List<VanPart> vanParts(Act act, @RequestParam(defaultValue = "") String q) {
    return vanParts(act, q, MOST);
  }

  /** The same of all that a phone carries along for when there is no network. */
  @GetMapping("/api/pocket/carried-parts")
  List<VanPart> listCarriedParts(Act act) {
    return vanParts(act, "", MOST_CARRIED);
  }

  private List<VanPart> vanParts(Act act, String q, int most) {
    long van = stock.getPlaceOf(act.personId());
    var held = DSL.coalesce(STOCK_LEVEL.QUANTITY, BigDecimal.ZERO);
    var recent =
        select(STOCK_MOVEMENT.PART_ID, max(STOCK_MOVEMENT.MOVED_AT).as("used_at"))
            .from(STOCK_MOVEMENT)
            .where(STOCK_MOVEMENT.PLACE_ID.eq(van))
            .and(STOCK_MOVEMENT.KIND.eq(StockMovementKind.USED))
            .and(STOCK_MOVEMENT.MOVED_AT.gt(act.at().minus(RECENT)))
            .groupBy(STOCK_MOVEMENT.PART_ID)
            .asTable("recent");
    var usedAt = recent.field("used_at", Instant.class);
    Field<List<String>> codes = PartCodes.ofPart();
    return database
        .select(PART.ID, PART.NUMBER, PART.NAME, PART.UNIT, held, codes)
        .from(PART)
        .leftJoin(STOCK_LEVEL)
        .on(STOCK_LEVEL.PART_ID.eq(PART.ID).and(STOCK_LEVEL.PLACE_ID.eq(van)))
        .leftJoin(recent)
        .on(recent.field(STOCK_MOVEMENT.PART_ID).eq(PART.ID))
        .where(q.isBlank() ? DSL.noCondition() : matches("q", q).or(PartCodes.isOf(q)))
        .orderBy(
            DSL.when(held.gt(BigDecimal.ZERO), 0).otherwise(1).asc(),
            usedAt.desc().nullsLast(),
            PART.NAME.asc())
        .limit(most)
        .fetch(
            row ->
                new VanPart(
                    row.value1(),
                    row.value2(),
                    row.value3(),
                    row.value4(),
                    row.value5().stripTrailingZeros(),
                    row.value6()));
  }

  /** All words occur in a part's number or name. */
  static Condition matches(String field, String typed) {
    Condition all = DSL.noCondition();
    for (String word : SearchWords.read(field, typed)) {
      all = all.and(PART.NUMBER.concat(" ").concat(PART.NAME).containsIgnoreCase(word));
    }
    return all;
  }
}
