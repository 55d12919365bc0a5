package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Reading;
import app.pragmata.server.company.Company;
import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.generated.tables.records.SiteRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/** Sites: known again by the customer and the site's name or address. */
final class SiteTaker implements ListTaker {
  private final Company company;
  private final Customers customers;
  private final Taken<SiteRecord> taken = new Taken<>(SITE);

  SiteTaker(DSLContext database, Company company) {
    this.company = company;
    this.customers = new Customers(database);
  }

  @Override
  public Becomes take(int row, Map<String, String> cells, Reading reading) {
    Long customer = customers.find(cells.get("customer"), reading);
    String name = reading.text("name", cells.get("name"), 120);
    String address = reading.text("address", cells.get("address"), 300);
    String postcode =
        reading.optional("postcode", cells.get("postcode"), company.postcode()::parse);
    String area = reading.optionalText("area", cells.get("area"), 60);
    String notes = reading.optionalText("access_notes", cells.get("access_notes"), 1_000);
    if (customer == null || name == null || address == null || !reading.faults().isEmpty()) {
      return Becomes.UNCHANGED;
    }
    SiteRecord known = find(customer, name, address);
    if (taken.isRepeated(known, "name", "is the same site", reading)) {
      return Becomes.UNCHANGED;
    }
    SiteRecord record = known == null ? new SiteRecord() : known;
    if (known == null) {
      record.setCustomerId(customer);
      record.setPostcode("");
      record.setArea("");
      record.setAccessNotes("");
    }
    taken.set(record, SITE.NAME, name);
    taken.set(record, SITE.ADDRESS, address);
    taken.set(record, SITE.POSTCODE, postcode);
    taken.set(record, SITE.AREA, area);
    taken.set(record, SITE.ACCESS_NOTES, notes);
    if (known == null) {
      customers.sites(customer).add(record);
      return taken.add(row, record);
    }
    return taken.change(row, record);
  }

  private @Nullable SiteRecord find(long customer, String name, String address) {
    List<SiteRecord> all = customers.sites(customer);
    return all.stream()
        .filter(site -> site.getName().equalsIgnoreCase(name))
        .findFirst()
        .or(
            () ->
                all.stream()
                    .filter(site -> site.getAddress().equalsIgnoreCase(address))
                    .findFirst())
        .orElse(null);
  }

  @Override
  public void store(Act act, Events events) {
    taken.store(act, CustomerEvent.SITE_IMPORTED, events);
  }
}
