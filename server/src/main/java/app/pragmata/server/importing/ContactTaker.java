package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.CONTACT;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.customers.PhoneNumber;
import app.pragmata.server.company.Company;
import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.generated.tables.records.ContactRecord;
import app.pragmata.server.generated.tables.records.SiteRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;

/** Contacts: known again by the customer and their name. */
final class ContactTaker implements ListTaker {
  private static final Set<String> PARTS = Set.of("pays", "opens", "decides");

  private final Company company;
  private final Customers customers;
  private final Map<String, ContactRecord> known = new HashMap<>();
  private final Taken<ContactRecord> taken = new Taken<>(CONTACT);

  ContactTaker(DSLContext database, Company company) {
    this.company = company;
    this.customers = new Customers(database);
    database
        .selectFrom(CONTACT)
        .forEach(row -> known.putIfAbsent(key(row.getCustomerId(), row.getName()), row));
  }

  private static String key(long customer, String name) {
    return customer + "\n" + name.toLowerCase(Locale.ROOT);
  }

  @Override
  public Becomes take(int row, Map<String, String> cells, Reading reading) {
    Long customer = customers.find(cells.get("customer"), reading);
    String name = reading.text("name", cells.get("name"), 120);
    PhoneNumber phone =
        reading.optional(
            "phone", cells.get("phone"), text -> PhoneNumber.parse(text, company.diallingCode()));
    String email = reading.optional("email", cells.get("email"), MailAddress::parse);
    Set<String> parts = reading.optional("part", cells.get("part"), ContactTaker::parts);
    String siteName = cells.getOrDefault("site", "");
    SiteRecord site =
        customer == null || siteName.isBlank()
            ? null
            : customers.findSite(customer, siteName, reading);
    if (customer == null || name == null || !reading.faults().isEmpty()) {
      return Becomes.UNCHANGED;
    }
    ContactRecord before = known.get(key(customer, name));
    if (taken.isRepeated(before, "name", "is the same contact", reading)) {
      return Becomes.UNCHANGED;
    }
    ContactRecord record = before == null ? new ContactRecord() : before;
    if (before == null) {
      record.setCustomerId(customer);
      record.setPhone("");
      record.setEmail("");
      record.setPays(false);
      record.setOpens(false);
      record.setDecides(false);
    }
    taken.set(record, CONTACT.NAME, name);
    taken.set(record, CONTACT.SITE_ID, site == null ? null : site.getId());
    taken.set(record, CONTACT.PHONE, phone == null ? null : phone.text());
    taken.set(record, CONTACT.EMAIL, email);
    if (parts != null) {
      taken.set(record, CONTACT.PAYS, parts.contains("pays"));
      taken.set(record, CONTACT.OPENS, parts.contains("opens"));
      taken.set(record, CONTACT.DECIDES, parts.contains("decides"));
    }
    if (before == null) {
      known.put(key(customer, name), record);
      return taken.add(row, record);
    }
    return taken.change(row, record);
  }

  private static Set<String> parts(String typed) {
    Set<String> parts =
        Stream.of(typed.toLowerCase(Locale.ROOT).split("[,;/ ]+", -1))
            .filter(part -> !part.isEmpty())
            .collect(Collectors.toSet());
    if (!PARTS.containsAll(parts)) {
      throw new Unreadable(
          Rule.UNREADABLE,
          "A contact pays, opens or decides, or several of them: “pays, decides”.");
    }
    return parts;
  }

  @Override
  public void store(Act act, Events events) {
    taken.store(act, CustomerEvent.CONTACT_IMPORTED, events);
  }
}
