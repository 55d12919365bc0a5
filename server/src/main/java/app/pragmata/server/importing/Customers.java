package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.generated.tables.records.SiteRecord;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/** Tells which customer, and which of their sites, a row of a list means. */
final class Customers {
  private final Map<String, List<Long>> byName = new HashMap<>();
  private final Map<String, Long> byReference = new HashMap<>();
  private final Map<String, Long> byNumber = new HashMap<>();
  private final Map<Long, List<SiteRecord>> sites = new HashMap<>();

  Customers(DSLContext database) {
    database
        .select(CUSTOMER.ID, CUSTOMER.NUMBER, CUSTOMER.NAME, CUSTOMER.REFERENCE)
        .from(CUSTOMER)
        .where(CUSTOMER.MERGED_INTO.isNull())
        .forEach(
            row -> {
              byName
                  .computeIfAbsent(row.value3().toLowerCase(Locale.ROOT), name -> new ArrayList<>())
                  .add(row.value1());
              byNumber.put(row.value2().toString(), row.value1());
              if (row.value4() != null) {
                byReference.put(row.value4(), row.value1());
              }
            });
    database
        .selectFrom(SITE)
        .orderBy(SITE.ID)
        .forEach(
            row -> sites.computeIfAbsent(row.getCustomerId(), id -> new ArrayList<>()).add(row));
  }

  /** By reference, by our number, or by a name that only one has; null with a fault noted. */
  @Nullable Long find(@Nullable String said, Reading reading) {
    String plain = reading.text("customer", said, 120);
    if (plain == null) {
      return null;
    }
    Long id = byReference.get(plain);
    if (id == null) {
      id = byNumber.get(plain.replaceFirst("(?i)^c\\s*", ""));
    }
    if (id != null) {
      return id;
    }
    List<Long> named = byName.getOrDefault(plain.toLowerCase(Locale.ROOT), List.of());
    if (named.size() == 1) {
      return named.getFirst();
    }
    reading.fault(
        "customer",
        Rule.NOT_FOUND,
        named.isEmpty()
            ? "No customer “%s” is on record. Take in the customers first, or correct it."
                .formatted(Reading.abridged(plain))
            : "%d customers are called “%s”. Write their reference or number instead."
                .formatted(named.size(), Reading.abridged(plain)));
    return null;
  }

  /** All sites of a customer. */
  List<SiteRecord> sites(long customerId) {
    return sites.computeIfAbsent(customerId, id -> new ArrayList<>());
  }

  /** The site of this name, or the customer's first one when none is named; null with a fault. */
  @Nullable SiteRecord findSite(long customerId, @Nullable String name, Reading reading) {
    List<SiteRecord> all = sites(customerId);
    if (name == null || name.isBlank()) {
      if (all.isEmpty()) {
        reading.fault(
            "site", Rule.MISSING, "This customer has no site yet. Take in the sites first.");
        return null;
      }
      return all.getFirst();
    }
    for (SiteRecord site : all) {
      if (site.getName().equalsIgnoreCase(name.strip())) {
        return site;
      }
    }
    reading.fault(
        "site",
        Rule.NOT_FOUND,
        "This customer has no site “%s”. Take in the sites first, or correct it."
            .formatted(Reading.abridged(name)));
    return null;
  }
}
