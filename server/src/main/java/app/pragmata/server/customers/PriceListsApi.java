package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.PRICE_LIST;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.selectCount;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.server.generated.tables.records.PriceListRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.InUse;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What some customers pay less for parts than others. */
@RestController
class PriceListsApi {
  /**
   * One price list.
   *
   * @param partsDiscountPercent off the price of every part
   * @param customers how many have it
   */
  record PriceList(
      long id, int version, String name, BigDecimal partsDiscountPercent, int customers) {}

  /** The same as typed. */
  record PriceListForm(int version, @Nullable String name, @Nullable String partsDiscountPercent) {}

  private static final Field<Integer> CUSTOMERS =
      field(selectCount().from(CUSTOMER).where(CUSTOMER.PRICE_LIST_ID.eq(PRICE_LIST.ID)));

  private final DSLContext database;
  private final RepeatableRequests repeats;
  private final Events events;

  PriceListsApi(DSLContext database, RepeatableRequests repeats, Events events) {
    this.database = database;
    this.repeats = repeats;
    this.events = events;
  }

  @GetMapping("/api/settings/price-lists")
  List<PriceList> listPriceLists() {
    return database
        .select(PRICE_LIST.fields())
        .select(CUSTOMERS)
        .from(PRICE_LIST)
        .orderBy(PRICE_LIST.NAME)
        .fetch(
            row ->
                new PriceList(
                    row.get(PRICE_LIST.ID),
                    row.get(PRICE_LIST.VERSION),
                    row.get(PRICE_LIST.NAME),
                    percent(row.get(PRICE_LIST.PARTS_DISCOUNT_SHARE)),
                    row.get(CUSTOMERS)));
  }

  private static BigDecimal percent(BigDecimal share) {
    BigDecimal percent = share.movePointRight(2).stripTrailingZeros();
    return percent.scale() < 0 ? percent.setScale(0) : percent;
  }

  @PostMapping("/api/settings/price-lists")
  @Transactional
  public List<PriceList> addPriceList(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody PriceListForm form) {
    repeats.once(
        act,
        key,
        "add price list",
        form,
        () -> {
          PriceListRecord row = database.newRecord(PRICE_LIST);
          row.setVersion(1);
          store(act, CustomerEvent.PRICE_LIST_ADDED, row, form);
          return row.getId();
        });
    return listPriceLists();
  }

  /** Quotes that were made keep the prices that they have. */
  @PutMapping("/api/settings/price-lists/{id}")
  @Transactional
  public List<PriceList> changePriceList(
      Act act, @PathVariable long id, @RequestBody PriceListForm form) {
    PriceListRecord row = lock(id, form.version());
    store(act, CustomerEvent.PRICE_LIST_CHANGED, row, form);
    return listPriceLists();
  }

  @DeleteMapping("/api/settings/price-lists/{id}")
  @Transactional
  public List<PriceList> deletePriceList(
      Act act, @PathVariable long id, @RequestParam int version) {
    PriceListRecord row = lock(id, version);
    InUse.refuse(
        row.getName(),
        Map.of("customer", database.fetchCount(CUSTOMER, CUSTOMER.PRICE_LIST_ID.eq(id))),
        "Give them another price list first.");
    events.delete(act, CustomerEvent.PRICE_LIST_DELETED, row);
    return listPriceLists();
  }

  private PriceListRecord lock(long id, int version) {
    PriceListRecord row =
        database
            .selectFrom(PRICE_LIST)
            .where(PRICE_LIST.ID.eq(id))
            .forUpdate()
            .fetchOptional()
            .orElseThrow(
                () -> new Refused(Rule.NOT_FOUND, "Somebody deleted this price list meanwhile."));
    Versions.require(version, row.getVersion());
    return row;
  }

  private void store(Act act, CustomerEvent event, PriceListRecord row, PriceListForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), 60);
    if (name != null
        && database.fetchExists(
            PRICE_LIST,
            PRICE_LIST
                .NAME
                .equalIgnoreCase(name)
                .and(
                    row.getId() == null
                        ? PRICE_LIST.ID.isNotNull()
                        : PRICE_LIST.ID.ne(row.getId())))) {
      reading.fault("name", Rule.REPEATED, "There is a price list of this name. Enter another.");
    }
    BigDecimal share =
        reading.required("partsDiscountPercent", form.partsDiscountPercent(), PriceListsApi::share);
    reading.refuseIfFaulty();
    row.setName(Objects.requireNonNull(name));
    row.setPartsDiscountShare(share);
    events.store(act, event, row);
  }

  private static BigDecimal share(String typed) {
    String number = typed.replace("%", "").strip();
    if (!number.matches("\\d{1,2}(\\.\\d{1,2})?|100")) {
      throw new Unreadable(Rule.UNREADABLE, "Enter a share from 0 to 100, such as 10 or 12.5.");
    }
    return new BigDecimal(number).movePointLeft(2);
  }
}
