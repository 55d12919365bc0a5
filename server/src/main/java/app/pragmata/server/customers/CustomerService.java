package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.CUSTOMER_NOTE;
import static app.pragmata.server.generated.Tables.PRICE_LIST;
import static app.pragmata.server.generated.Tables.RESPONSE_TERMS;
import static app.pragmata.server.generated.Tables.SITE;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.customers.PhoneNumber;
import app.pragmata.core.customers.Place;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.ContactRecord;
import app.pragmata.server.generated.tables.records.CustomerNoteRecord;
import app.pragmata.server.generated.tables.records.CustomerRecord;
import app.pragmata.server.generated.tables.records.SiteRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.InUse;
import app.pragmata.server.records.NumberSeries;
import app.pragmata.server.records.References;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.util.LinkedHashMap;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Takes customers on, changes them, and joins two that are one. */
@Service
@Transactional
public class CustomerService {
  private static final int MOST_PAYMENT_DAYS = 180;

  /** A new caller in one breath; the place is an address with its postcode. */
  public record NewCallerForm(
      @Nullable String name,
      @Nullable String phone,
      @Nullable String email,
      @Nullable String place) {}

  /** Everything about who pays, as it is typed. Whoever has no stop reason is not on stop. */
  public record CustomerForm(
      int version,
      @Nullable String name,
      @Nullable String phone,
      @Nullable String email,
      @Nullable String address,
      @Nullable String postcode,
      @Nullable String paymentDays,
      @Nullable String creditLimit,
      @Nullable String stopReason,
      @Nullable String vatNumber,
      @Nullable String vatCode,
      @Nullable String reference,
      @Nullable Long priceListId,
      @Nullable Long responseTermsId,
      @Nullable Boolean pricesWithVat) {}

  private final DSLContext database;
  private final CompanyStore companies;
  private final NumberSeries numbers;
  private final RepeatableRequests repeats;
  private final Events events;
  private final References references;

  CustomerService(
      DSLContext database,
      CompanyStore companies,
      NumberSeries numbers,
      RepeatableRequests repeats,
      Events events,
      References references) {
    this.database = database;
    this.companies = companies;
    this.numbers = numbers;
    this.repeats = repeats;
    this.events = events;
    this.references = references;
  }

  /** A new customer with the site where the caller is; gives the customer's id. */
  public long create(Act act, @Nullable String key, NewCallerForm form) {
    return repeats.once(act, key, "create customer", form, () -> insert(act, form));
  }

  private long insert(Act act, NewCallerForm form) {
    Company company = companies.getCompany();
    var reading = new Reading();
    String name = reading.text("name", form.name(), 120);
    PhoneNumber phone =
        reading.required(
            "phone", form.phone(), typed -> PhoneNumber.parse(typed, company.diallingCode()));
    String email = reading.optional("email", form.email(), MailAddress::parse);
    Place place =
        reading.required("place", form.place(), typed -> Place.parse(typed, company.postcode()));
    reading.refuseIfFaulty();
    Objects.requireNonNull(place);
    var row = database.newRecord(CUSTOMER);
    row.setNumber(numbers.next(NumberSeries.Series.CUSTOMER));
    row.setName(Objects.requireNonNull(name));
    row.setPhone(Objects.requireNonNull(phone).text());
    row.setEmail(Objects.requireNonNullElse(email, ""));
    row.setAddress(place.address());
    row.setPostcode(place.postcode());
    row.setPaymentDays((short) company.terms().charge().on(act.today()).paymentDays());
    events.store(act, CustomerEvent.TAKEN_ON, row);
    SiteRecord site = database.newRecord(SITE);
    site.setCustomerId(row.getId());
    site.setName(companies.getCompany().wording().say(Phrase.MAIN_SITE));
    site.setAddress(place.address());
    site.setPostcode(place.postcode());
    events.store(act, CustomerEvent.SITE_ADDED, site);
    return row.getId();
  }

  /** Stores a customer as it was typed. */
  public void save(Act act, long id, CustomerForm form) {
    CustomerRecord row = lock(id);
    Versions.require(form.version(), row.getVersion());
    fill(row, form);
    events.store(act, CustomerEvent.CHANGED, row);
  }

  private void fill(CustomerRecord row, CustomerForm form) {
    Company company = companies.getCompany();
    var reading = new Reading();
    String name = reading.text("name", form.name(), 120);
    // A number that was stored before may stay as it is, however it was written.
    PhoneNumber phone =
        Objects.equals(form.phone(), row.getPhone())
            ? new PhoneNumber(row.getPhone())
            : reading.optional(
                "phone", form.phone(), typed -> PhoneNumber.parse(typed, company.diallingCode()));
    String email = reading.optional("email", form.email(), MailAddress::parse);
    String address = reading.optionalText("address", form.address(), 300);
    String postcode = reading.optional("postcode", form.postcode(), company.postcode()::parse);
    Integer days = reading.required("paymentDays", form.paymentDays(), CustomerService::days);
    Money limit = reading.optional("creditLimit", form.creditLimit(), company.typed()::money);
    String stop = reading.optionalText("stopReason", form.stopReason(), 300);
    String vatNumber = reading.optionalText("vatNumber", form.vatNumber(), 30);
    VatTreatments vat = company.terms().vat();
    vat.requireKnown(reading, "vatCode", form.vatCode());
    String reference = reading.optionalText("reference", form.reference(), 60);
    if (!reference.isEmpty()
        && database.fetchExists(
            CUSTOMER, CUSTOMER.REFERENCE.eq(reference).and(CUSTOMER.ID.ne(row.getId())))) {
      reading.fault(
          "reference", Rule.REPEATED, "Another customer has this reference. Enter its own.");
    }
    if (vatNumber.isEmpty() && vat.isReverseCharge(form.vatCode())) {
      reading.fault(
          "vatNumber", Rule.MISSING, "The reverse charge needs the customer's VAT number.");
    }
    requireChoice("priceListId", form.priceListId(), PRICE_LIST, PRICE_LIST.ID, reading);
    requireChoice(
        "responseTermsId", form.responseTermsId(), RESPONSE_TERMS, RESPONSE_TERMS.ID, reading);
    reading.refuseIfFaulty();
    row.setName(Objects.requireNonNull(name));
    row.setPhone(phone == null ? "" : phone.text());
    row.setEmail(Objects.requireNonNullElse(email, ""));
    row.setAddress(address);
    row.setPostcode(Objects.requireNonNullElse(postcode, ""));
    row.setPaymentDays(Objects.requireNonNull(days).shortValue());
    row.setCreditLimitMinor(limit == null ? 0 : limit.minor());
    row.setStopReason(stop.isEmpty() ? null : stop);
    row.setVatNumber(vatNumber);
    row.setVatCode(form.vatCode() == null || form.vatCode().isEmpty() ? null : form.vatCode());
    if (form.pricesWithVat() != null) {
      row.setPricesWithVat(form.pricesWithVat());
    }
    row.setReference(reference.isEmpty() ? null : reference);
    row.setPriceListId(form.priceListId());
    row.setResponseTermsId(form.responseTermsId());
  }

  private void requireChoice(
      String field, @Nullable Long id, Table<?> table, Field<Long> key, Reading reading) {
    if (id != null && !database.fetchExists(table, key.eq(id))) {
      reading.fault(field, Rule.NOT_FOUND, "This choice is gone. Choose another.");
    }
  }

  private static Integer days(String typed) {
    if (!typed.matches("\\d{1,3}") || Integer.parseInt(typed) > MOST_PAYMENT_DAYS) {
      throw new Unreadable(Rule.UNREADABLE, "Enter days from 0 to 180, such as 30.");
    }
    return Integer.valueOf(typed);
  }

  /** Deletes a customer whom nothing refers to; anybody else stays, and is told why. */
  public void delete(Act act, long id, int version) {
    CustomerRecord row = lock(id);
    Versions.require(version, row.getVersion());
    var uses =
        new LinkedHashMap<>(references.count(CUSTOMER, id, Set.of(SITE, CONTACT, CUSTOMER_NOTE)));
    uses.put("piece of equipment", EquipmentService.countOf(database, id));
    InUse.refuse(
        row.getName(),
        uses,
        "Put it on stop instead, or merge it into the customer it belongs to.");
    for (ContactRecord contact : database.fetch(CONTACT, CONTACT.CUSTOMER_ID.eq(id))) {
      events.delete(act, CustomerEvent.CONTACT_DELETED, contact);
    }
    database.deleteFrom(CUSTOMER_NOTE).where(CUSTOMER_NOTE.CUSTOMER_ID.eq(id)).execute();
    for (SiteRecord site : database.fetch(SITE, SITE.CUSTOMER_ID.eq(id))) {
      events.delete(act, CustomerEvent.SITE_DELETED, site);
    }
    events.delete(act, CustomerEvent.DELETED, row);
  }

  /**
   * Joins a customer into another one: everything of it goes over, how it was reached stays as a
   * contact, and what it was stays on record.
   */
  public void merge(Act act, long id, int version, @Nullable Long intoId) {
    if (intoId == null || intoId == id) {
      throw new Refused(
          intoId == null ? Rule.MISSING : Rule.MERGED_INTO_ITSELF,
          intoId == null
              ? "Choose the customer that stays."
              : "A customer cannot be merged into itself. Choose the other one.");
    }
    // Always in the same order, so that two merges at once wait for each other.
    CustomerRecord first = lock(Math.min(id, intoId));
    CustomerRecord second = lock(Math.max(id, intoId));
    CustomerRecord gone = first.getId() == id ? first : second;
    CustomerRecord stays = first.getId() == id ? second : first;
    Versions.require(version, gone.getVersion());
    keepWaysToReach(act, gone, stays);
    gone.setMergedInto(stays.getId());
    String reference = gone.getReference();
    if (stays.getReference() == null && reference != null) {
      gone.setReference(null);
    }
    events.store(act, CustomerEvent.MERGED, gone, About.because(called(stays)));
    if (stays.getReference() == null) {
      stays.setReference(reference);
    }
    fillGaps(gone, stays);
    events.store(act, CustomerEvent.TOOK_IN, stays, About.because(called(gone)));
    // Also whoever was merged before into the one that is gone now.
    references.move(CUSTOMER, id, intoId);
  }

  private static String called(CustomerRecord customer) {
    return "C " + customer.getNumber() + " " + customer.getName();
  }

  private void keepWaysToReach(Act act, CustomerRecord gone, CustomerRecord stays) {
    boolean samePhone = gone.getPhone().isEmpty() || gone.getPhone().equals(stays.getPhone());
    boolean sameMail = gone.getEmail().isEmpty() || gone.getEmail().equals(stays.getEmail());
    if (samePhone && sameMail) {
      return;
    }
    ContactRecord contact = database.newRecord(CONTACT);
    contact.setCustomerId(stays.getId());
    contact.setName(gone.getName());
    contact.setPhone(gone.getPhone());
    contact.setEmail(gone.getEmail());
    events.store(act, CustomerEvent.CONTACT_ADDED, contact);
  }

  private static void fillGaps(CustomerRecord gone, CustomerRecord stays) {
    if (stays.getAddress().isEmpty()) {
      stays.setAddress(gone.getAddress());
      stays.setPostcode(gone.getPostcode());
    }
    if (stays.getVatNumber().isEmpty()) {
      stays.setVatNumber(gone.getVatNumber());
    }
    if (stays.getVatCode() == null) {
      stays.setVatCode(gone.getVatCode());
    }
    if (stays.getStopReason() == null) {
      stays.setStopReason(gone.getStopReason());
    }
  }

  /** The customer, locked; refused when there is none or when it was merged into another. */
  CustomerRecord lock(long id) {
    CustomerRecord row =
        database.selectFrom(CUSTOMER).where(CUSTOMER.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw new Refused(
          Rule.NOT_FOUND, "This customer does not exist. Find the right one with / and the name.");
    }
    if (row.getMergedInto() != null) {
      throw new Refused(
          Rule.CUSTOMER_MERGED,
          "This customer was merged into another one. Find that one with / and the name.");
    }
    return row;
  }

  /** Pins a note that everybody sees before they promise anything; gives its id. */
  public long pin(Act act, @Nullable String key, long customerId, @Nullable String text) {
    return repeats.once(
        act,
        key,
        "pin note",
        customerId + " " + text,
        () -> {
          var reading = new Reading();
          String note = reading.text("text", text, 500);
          reading.refuseIfFaulty();
          lock(customerId);
          CustomerNoteRecord row = database.newRecord(CUSTOMER_NOTE);
          row.setCustomerId(customerId);
          row.setText(note);
          row.setPinnedAt(act.at());
          row.setPinnedBy(act.personId());
          events.store(act, CustomerEvent.NOTE_PINNED, row);
          return row.getId();
        });
  }

  /** Takes a note down, or pins it again. */
  public void setPinned(Act act, long noteId, boolean pinned) {
    CustomerNoteRecord row =
        database
            .selectFrom(CUSTOMER_NOTE)
            .where(CUSTOMER_NOTE.ID.eq(noteId))
            .forUpdate()
            .fetchOptional()
            .orElseThrow(
                () -> new Refused(Rule.NOT_FOUND, "There is no such note. Reload the page."));
    row.setUnpinnedAt(pinned ? null : act.at());
    events.store(act, pinned ? CustomerEvent.NOTE_PINNED : CustomerEvent.NOTE_TAKEN_DOWN, row);
  }
}
