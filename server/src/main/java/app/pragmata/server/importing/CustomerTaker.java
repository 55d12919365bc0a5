package app.pragmata.server.importing;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.customers.PhoneNumber;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.Company;
import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.generated.tables.records.CustomerRecord;
import app.pragmata.server.generated.tables.records.SiteRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.NumberSeries;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;

/** Customers: known again by their reference, else by name and postcode. */
final class CustomerTaker implements ListTaker {
  private final Company company;
  private final NumberSeries numbers;
  private final LocalDate today;
  private final Map<String, CustomerRecord> byReference = new HashMap<>();
  private final Map<String, CustomerRecord> byName = new HashMap<>();
  private final Taken<CustomerRecord> taken = new Taken<>(CUSTOMER);

  CustomerTaker(DSLContext database, Company company, NumberSeries numbers, LocalDate today) {
    this.company = company;
    this.numbers = numbers;
    this.today = today;
    database.selectFrom(CUSTOMER).where(CUSTOMER.MERGED_INTO.isNull()).forEach(this::remember);
  }

  private void remember(CustomerRecord row) {
    if (row.getReference() != null) {
      byReference.put(row.getReference(), row);
    }
    byName.putIfAbsent(key(row.getName(), row.getPostcode()), row);
  }

  private static String key(String name, String postcode) {
    return name.toLowerCase(Locale.ROOT) + "\n" + postcode;
  }

  @Override
  public Becomes take(int row, Map<String, String> cells, Reading reading) {
    String name = reading.text("name", cells.get("name"), 120);
    String reference = reading.optionalText("reference", cells.get("reference"), 60);
    PhoneNumber phone =
        reading.optional(
            "phone", cells.get("phone"), text -> PhoneNumber.parse(text, company.diallingCode()));
    String email = reading.optional("email", cells.get("email"), MailAddress::parse);
    String address = reading.optionalText("address", cells.get("address"), 300);
    String postcode =
        reading.optional("postcode", cells.get("postcode"), company.postcode()::parse);
    Short days = reading.optional("payment_days", cells.get("payment_days"), CustomerTaker::days);
    Money limit =
        reading.optional("credit_limit", cells.get("credit_limit"), company.typed()::money);
    String vatNumber = reading.optionalText("vat_number", cells.get("vat_number"), 30);
    if (name == null || !reading.faults().isEmpty()) {
      return Becomes.UNCHANGED;
    }
    CustomerRecord known = find(name, reference, postcode == null ? "" : postcode);
    String column = reference.isEmpty() ? "name" : "reference";
    if (taken.isRepeated(known, column, "is the same customer", reading)) {
      return Becomes.UNCHANGED;
    }
    CustomerRecord record = known == null ? new CustomerRecord() : known;
    if (known == null) {
      record.setPaymentDays((short) company.terms().charge().on(today).paymentDays());
      record.setCreditLimitMinor(0L);
      record.setPhone("");
      record.setEmail("");
      record.setAddress("");
      record.setPostcode("");
      record.setVatNumber("");
    }
    taken.set(record, CUSTOMER.NAME, name);
    taken.set(record, CUSTOMER.REFERENCE, reference);
    taken.set(record, CUSTOMER.PHONE, phone == null ? null : phone.text());
    taken.set(record, CUSTOMER.EMAIL, email);
    taken.set(record, CUSTOMER.ADDRESS, address);
    taken.set(record, CUSTOMER.POSTCODE, postcode);
    taken.set(record, CUSTOMER.PAYMENT_DAYS, days);
    taken.set(record, CUSTOMER.CREDIT_LIMIT_MINOR, limit == null ? null : limit.minor());
    taken.set(record, CUSTOMER.VAT_NUMBER, vatNumber);
    remember(record);
    return known == null ? taken.add(row, record) : taken.change(row, record);
  }

  private @Nullable CustomerRecord find(String name, String reference, String postcode) {
    CustomerRecord known = reference.isEmpty() ? null : byReference.get(reference);
    if (known == null) {
      known = byName.get(key(name, postcode));
      // Of two with the same name the one that has a reference of its own is another.
      if (known != null && !reference.isEmpty() && known.getReference() != null) {
        return null;
      }
    }
    return known;
  }

  private static Short days(String typed) {
    if (!typed.matches("\\d{1,3}") || Integer.parseInt(typed) > 180) {
      throw new Unreadable(Rule.UNREADABLE, "Enter days from 0 to 180, such as 30.");
    }
    return Short.valueOf(typed);
  }

  @Override
  public void store(Act act, Events events) {
    List<CustomerRecord> added = taken.added();
    long number = numbers.nextBlock(NumberSeries.Series.CUSTOMER, added.size());
    for (CustomerRecord record : added) {
      record.setNumber(number++);
    }
    taken.store(act, CustomerEvent.IMPORTED, events);
    List<SiteRecord> sites = new ArrayList<>();
    for (CustomerRecord record : added) {
      if (!record.getAddress().isEmpty()) {
        var site = new SiteRecord();
        site.setCustomerId(record.getId());
        site.setName(company.wording().say(Phrase.MAIN_SITE));
        site.setAddress(record.getAddress());
        site.setPostcode(record.getPostcode());
        sites.add(site);
      }
    }
    events.insertAll(act, CustomerEvent.SITE_IMPORTED, SITE, sites);
  }
}
