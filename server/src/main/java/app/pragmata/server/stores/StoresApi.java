package app.pragmata.server.stores;

import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.STOCK_LEVEL;
import static app.pragmata.server.generated.Tables.STOCK_MOVEMENT;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Coded;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.stores.StockMovementKind;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.PartRecord;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What the store and the vans hold, deliveries into them and counts of them. */
@RestController
class StoresApi {
  /**
   * The store, or somebody's van.
   *
   * @param personId null for the store
   */
  record StockPlace(long id, String name, @Nullable Long personId) {}

  /** What a place holds; below zero where more was taken than it held. */
  record PlaceLevel(long placeId, BigDecimal quantity) {}

  /**
   * A part as it is held.
   *
   * @param held by all places together; below zero while something is unexplained
   * @param valueMinor what the books hold it at
   * @param averageCostMinor per unit, rounded for showing
   * @param unexplained how many were used beyond the stock and are explained by nothing yet
   * @param unexplainedMinor what stock differences bear for them
   * @param levels of the places that hold any or are below zero
   */
  record HeldPart(
      long id,
      String number,
      String name,
      String unit,
      BigDecimal held,
      long valueMinor,
      long averageCostMinor,
      BigDecimal unexplained,
      long unexplainedMinor,
      List<PlaceLevel> levels) {}

  /** A page of parts by name; {@code next} asks for the one after it, null on the last. */
  record HeldPartsPage(List<HeldPart> rows, @Nullable String next) {}

  /**
   * A movement of stock.
   *
   * @param place null for what moved in no place: used beyond the stock, and explained
   * @param quantity below zero when it went out
   * @param costMinor what the books moved with it, of the same sign
   */
  record StockMovement(
      long id,
      LocalDateTime at,
      String by,
      StockMovementKind kind,
      @Nullable String place,
      BigDecimal quantity,
      long costMinor) {}

  /** All parts, or those of which some place is below zero. */
  enum WhichParts implements Coded {
    ALL,
    BELOW_ZERO
  }

  /** A delivery as it is typed; null is into the store. */
  record DeliveryForm(
      @Nullable Long placeId, @Nullable String quantity, @Nullable String unitCost) {}

  /** What was counted in a place, and why it differs; that may be empty. */
  record CountForm(@Nullable Long placeId, @Nullable String counted, @Nullable String reason) {}

  private static final int PAGE = 100;
  private static final int MOST_MOVEMENTS = 50;
  private static final int LONGEST_REASON = 300;

  private final DSLContext database;
  private final StockStore stock;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;

  StoresApi(
      DSLContext database, StockStore stock, CompanyStore companies, RepeatableRequests repeats) {
    this.database = database;
    this.stock = stock;
    this.companies = companies;
    this.repeats = repeats;
  }

  /** The store first, then the vans of those who still work here or hold anything. */
  @GetMapping("/api/stock-places")
  List<StockPlace> listStockPlaces() {
    return database
        .select(STOCK_PLACE.ID, STOCK_PLACE.NAME, STOCK_PLACE.PERSON_ID)
        .from(STOCK_PLACE)
        .leftJoin(PERSON)
        .on(PERSON.ID.eq(STOCK_PLACE.PERSON_ID))
        .where(
            STOCK_PLACE
                .PERSON_ID
                .isNull()
                .or(PERSON.ACTIVE)
                .or(
                    exists(
                        selectOne()
                            .from(STOCK_LEVEL)
                            .where(STOCK_LEVEL.PLACE_ID.eq(STOCK_PLACE.ID))
                            .and(STOCK_LEVEL.QUANTITY.ne(BigDecimal.ZERO)))))
        .orderBy(STOCK_PLACE.PERSON_ID.isNotNull(), STOCK_PLACE.NAME)
        .fetch(Records.mapping(StockPlace::new));
  }

  /**
   * Parts with what each place holds.
   *
   * @param filter words that occur in the number or the name
   */
  @GetMapping("/api/held-parts")
  HeldPartsPage listHeldParts(
      @RequestParam(defaultValue = "all") WhichParts which,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "") String after) {
    Condition wanted = PartsApi.matches("filter", filter);
    if (which == WhichParts.BELOW_ZERO) {
      wanted =
          wanted.and(
              exists(
                  selectOne()
                      .from(STOCK_LEVEL)
                      .where(STOCK_LEVEL.PART_ID.eq(PART.ID))
                      .and(STOCK_LEVEL.QUANTITY.lt(BigDecimal.ZERO))));
    }
    if (!after.isEmpty()) {
      PageKey last = PageKey.parse(after, 2);
      wanted = wanted.and(row(PART.NAME, PART.ID).gt(last.text(0), last.number(1)));
    }
    List<HeldPart> rows = list(wanted, PAGE + 1);
    boolean more = rows.size() > PAGE;
    List<HeldPart> page = more ? rows.subList(0, PAGE) : rows;
    return new HeldPartsPage(
        page, more ? PageKey.of(page.getLast().name(), page.getLast().id()).text() : null);
  }

  @GetMapping("/api/held-parts/{id}")
  HeldPart getHeldPart(@PathVariable long id) {
    return list(PART.ID.eq(id), 1).stream()
        .findFirst()
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NOT_FOUND, "This part does not exist. Choose one from the price list."));
  }

  /** What moved of a part, the latest first. */
  @GetMapping("/api/held-parts/{id}/movements")
  List<StockMovement> listStockMovements(Act act, @PathVariable long id) {
    return database
        .select(
            STOCK_MOVEMENT.ID,
            STOCK_MOVEMENT.MOVED_AT,
            PERSON.NAME,
            STOCK_MOVEMENT.KIND,
            STOCK_PLACE.NAME,
            STOCK_MOVEMENT.QUANTITY,
            STOCK_MOVEMENT.COST_MINOR)
        .from(STOCK_MOVEMENT)
        .join(PERSON)
        .on(PERSON.ID.eq(STOCK_MOVEMENT.MOVED_BY))
        .leftJoin(STOCK_PLACE)
        .on(STOCK_PLACE.ID.eq(STOCK_MOVEMENT.PLACE_ID))
        .where(STOCK_MOVEMENT.PART_ID.eq(id))
        .orderBy(STOCK_MOVEMENT.ID.desc())
        .limit(MOST_MOVEMENTS)
        .fetch(
            movement ->
                new StockMovement(
                    movement.value1(),
                    LocalDateTime.ofInstant(movement.value2(), act.zone()),
                    movement.value3(),
                    movement.value4(),
                    movement.value5(),
                    movement.value6().stripTrailingZeros(),
                    movement.value7()));
  }

  /** Takes a supplier's delivery in; it is posted to goods received and not billed. */
  @PostMapping("/api/held-parts/{id}/deliveries")
  @Transactional
  public HeldPart takeDeliveryIn(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody DeliveryForm form) {
    repeats.once(
        act,
        key,
        "take delivery in",
        id + " " + form,
        id,
        () -> {
          var reading = new Reading();
          BigDecimal quantity = reading.required("quantity", form.quantity(), Reading::quantity);
          UnitPrice unitCost =
              reading.required(
                  "unitCost", form.unitCost(), companies.getCompany().typed()::unitPrice);
          long place = form.placeId() == null ? stock.getStore() : form.placeId();
          requirePlace(reading, place);
          reading.refuseIfFaulty();
          stock.receive(
              act,
              id,
              place,
              Objects.requireNonNull(quantity),
              Money.rounded(Objects.requireNonNull(unitCost).major().multiply(quantity)));
        });
    return getHeldPart(id);
  }

  /** Brings the books of a place in line with what was counted there; the difference is posted. */
  @PostMapping("/api/held-parts/{id}/counts")
  @Transactional
  public HeldPart countPart(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody CountForm form) {
    repeats.once(
        act,
        key,
        "count part",
        id + " " + form,
        id,
        () -> {
          var reading = new Reading();
          BigDecimal counted = reading.required("counted", form.counted(), Reading::counted);
          String reason = reading.optionalText("reason", form.reason(), LONGEST_REASON);
          long place = Objects.requireNonNullElse(form.placeId(), 0L);
          requirePlace(reading, place);
          reading.refuseIfFaulty();
          stock.count(act, id, place, Objects.requireNonNull(counted), reason);
        });
    return getHeldPart(id);
  }

  private void requirePlace(Reading reading, long placeId) {
    if (!database.fetchExists(STOCK_PLACE, STOCK_PLACE.ID.eq(placeId))) {
      reading.fault("placeId", Rule.MISSING, "Choose a van or the store.");
    }
  }

  private List<HeldPart> list(Condition which, int most) {
    List<PartRecord> parts =
        database.selectFrom(PART).where(which).orderBy(PART.NAME, PART.ID).limit(most).fetch();
    Map<Long, List<PlaceLevel>> levels =
        database
            .select(STOCK_LEVEL.PART_ID, STOCK_LEVEL.PLACE_ID, STOCK_LEVEL.QUANTITY)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.PART_ID.in(parts.stream().map(PartRecord::getId).toList()))
            .and(STOCK_LEVEL.QUANTITY.ne(BigDecimal.ZERO))
            .orderBy(STOCK_LEVEL.PLACE_ID)
            .stream()
            .collect(
                Collectors.groupingBy(
                    level -> level.value1(),
                    Collectors.mapping(
                        level ->
                            new PlaceLevel(level.value2(), level.value3().stripTrailingZeros()),
                        Collectors.toList())));
    return parts.stream()
        .map(part -> held(part, levels.getOrDefault(part.getId(), List.of())))
        .toList();
  }

  private static HeldPart held(PartRecord part, List<PlaceLevel> levels) {
    return new HeldPart(
        part.getId(),
        part.getNumber(),
        part.getName(),
        part.getUnit(),
        StockedPart.held(part),
        part.getValueMinor(),
        Money.rounded(StockedPart.of(part).expectedCost()).minor(),
        part.getUnexplainedQuantity().stripTrailingZeros(),
        part.getUnexplainedMinor(),
        levels);
  }
}
