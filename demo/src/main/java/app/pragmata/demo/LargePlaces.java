package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.NUMBER_SERIES;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import javax.sql.DataSource;
import org.jooq.DSLContext;

/**
 * Who the large company works for, and where: everybody has a site where they are with a piece of
 * equipment; every second one has another.
 */
final class LargePlaces {
  /** What everybody's first site is called. */
  static final String SITE = "main site";

  /** A customer with the site and the equipment that come first. */
  record Place(String name, String address, String postcode, String equipment) {}

  private final DSLContext database;
  private final DataSource source;
  private final LocalDate today;
  private final int customers;
  private final LargeNames names = new LargeNames(1_848);
  private final long[] kinds;
  private final long firstCustomer;
  private final long firstSite;
  private final long firstEquipment;
  private final List<Place> places = new ArrayList<>();
  private int written;

  LargePlaces(DSLContext database, DataSource source, LocalDate today, int customers) {
    this.database = database;
    this.source = source;
    this.today = today;
    this.customers = customers;
    kinds =
        Arrays.stream(DemoCatalogue.MODELS)
            .mapToLong(model -> DemoFrontDesk.kind(database, model))
            .toArray();
    firstCustomer = nextId("customer");
    firstSite = nextId("site");
    firstEquipment = nextId("equipment");
  }

  private long nextId(String table) {
    return database.fetchSingle("select coalesce(max(id), 0) + 1 from " + table).get(0, Long.class);
  }

  /** The first so many of them. */
  LargeWeek.Places first(int count) {
    return new LargeWeek.Places(firstCustomer, firstSite, firstEquipment, count);
  }

  /** How many customers come before this one. */
  long index(long customerId) {
    return customerId - firstCustomer;
  }

  Place get(long index) {
    return places.get((int) index);
  }

  /** Writes sites up to so many, with whose they are; first the one of each customer. */
  void write(int upTo) {
    long number =
        database
            .select(NUMBER_SERIES.NEXT_NUMBER)
            .from(NUMBER_SERIES)
            .where(NUMBER_SERIES.SERIES.eq("customer"))
            .fetchSingle(NUMBER_SERIES.NEXT_NUMBER);
    try (var customer =
            new TableCopy(
                source,
                "customer",
                "id, number, name, phone, email, address, postcode, payment_days, credit_limit_minor");
        var site =
            new TableCopy(
                source, "site", "id, customer_id, name, address, postcode, access_notes, area");
        var contact = new TableCopy(source, "contact", "customer_id, site_id, name, phone, opens");
        var equipment =
            new TableCopy(
                source,
                "equipment",
                "id, site_id, model, serial_number, fitted_on, parts_warranty_until, parts_warranty_share,"
                    + " labour_warranty_until, labour_warranty_share, equipment_kind_id")) {
      for (; written < upTo; written++) {
        int i = written;
        boolean first = i < customers;
        long customerId = firstCustomer + (first ? i : 2L * (i - customers));
        String street = names.street();
        String postcode = names.postcode();
        int kind = names.below(DemoCatalogue.MODELS.length);
        String serial = "LG %07d".formatted(i);
        if (first) {
          boolean firm = i % 3 == 0;
          String name = firm ? names.firm() : names.person();
          places.add(new Place(name, street, postcode, DemoCatalogue.MODELS[kind] + ", " + serial));
          customer.row(
              customerId,
              number++,
              name,
              names.phone(),
              name.toLowerCase(Locale.ROOT).replaceAll("[^a-z]+", ".") + "@example.com",
              street,
              postcode,
              firm ? 30 : 14,
              firm ? 500_000 : 0);
        }
        site.row(
            firstSite + i,
            customerId,
            first ? SITE : "Unit " + (1 + names.below(40)),
            street,
            postcode,
            "",
            postcode.split(" ", 2)[0]);
        if (names.below(3) == 0) {
          contact.row(customerId, firstSite + i, names.person(), names.phone(), true);
        }
        LocalDate fitted = today.minusDays(30 + names.below(4_000));
        equipment.row(
            firstEquipment + i,
            firstSite + i,
            DemoCatalogue.MODELS[kind],
            serial,
            fitted,
            fitted.plusYears(2),
            "0.6",
            fitted.plusMonths(6),
            "0.5",
            kinds[kind]);
      }
    }
    for (String table : List.of("customer", "site", "equipment")) {
      database.execute(
          "select setval(pg_get_serial_sequence('%s', 'id'), (select max(id) from %s))"
              .formatted(table, table));
    }
    database
        .update(NUMBER_SERIES)
        .set(NUMBER_SERIES.NEXT_NUMBER, number)
        .where(NUMBER_SERIES.SERIES.eq("customer"))
        .execute();
  }
}
