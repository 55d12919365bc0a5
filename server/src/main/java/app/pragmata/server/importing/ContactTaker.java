package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.CONTACT;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.customers.PhoneNumber;
import app.pragmata.server.generated.tables.records.ContactRecord;
import app.pragmata.server.generated.tables.records.SiteRecord;
import app.pragmata.server.people.Company;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;

/** Contacts: known again by the customer and their name. */
final class ContactTaker implements ListTaker {
  private static final Set<String> PARTS = Set.of("pays", "opens", "decides");

  private final DSLContext database;
  private final Company company;
  private final Customers customers;
  private final Map<String, ContactRecord> known = new HashMap<>();
  private final IdentityHashMap<ContactRecord, Integer> rowOf = new IdentityHashMap<>();
  private final List<ContactRecord> added = new ArrayList<>();
  private final List<ContactRecord> changed = new ArrayList<>();

  ContactTaker(DSLContext database, Company company) {
    this.database = database;
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
    if (before != null && rowOf.containsKey(before)) {
      reading.fault(
          "name",
          Rule.REPEATED,
          "Row " + rowOf.get(before) + " is the same contact. Keep one of the two.");
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
    CustomerTaker.set(record, CONTACT.NAME, name);
    CustomerTaker.set(record, CONTACT.SITE_ID, site == null ? null : site.getId());
    CustomerTaker.set(record, CONTACT.PHONE, phone == null ? null : phone.text());
    CustomerTaker.set(record, CONTACT.EMAIL, email);
    if (parts != null) {
      CustomerTaker.set(record, CONTACT.PAYS, parts.contains("pays"));
      CustomerTaker.set(record, CONTACT.OPENS, parts.contains("opens"));
      CustomerTaker.set(record, CONTACT.DECIDES, parts.contains("decides"));
    }
    rowOf.put(record, row);
    if (before == null) {
      known.put(key(customer, name), record);
      added.add(record);
      return Becomes.ADDED;
    }
    if (!record.touched()) {
      return Becomes.UNCHANGED;
    }
    record.setVersion(record.getVersion() + 1);
    changed.add(record);
    return Becomes.CHANGED;
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
  public void store() {
    ListTaker.store(database, CONTACT, added, changed);
  }
}
