package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.SITE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.customers.MailAddress;
import app.pragmata.core.customers.PhoneNumber;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.ContactRecord;
import app.pragmata.server.generated.tables.records.SiteRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.InUse;
import app.pragmata.server.records.References;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.util.LinkedHashMap;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The places where a customer's work is, and the people whom we speak to. */
@Service
@Transactional
public class SiteService {
  /**
   * A site as it is typed.
   *
   * @param position such as "54.1234, -1.2345" in degrees, or empty
   * @param open at which hours somebody can get in, such as "8 to 15:30"; empty for all
   */
  public record SiteForm(
      int version,
      @Nullable String name,
      @Nullable String address,
      @Nullable String postcode,
      @Nullable String area,
      @Nullable String position,
      @Nullable String open,
      @Nullable String accessNotes) {}

  /** Somebody to speak to, everywhere or at one site, and their part in it. */
  public record ContactForm(
      int version,
      @Nullable Long siteId,
      @Nullable String name,
      @Nullable String phone,
      @Nullable String email,
      boolean pays,
      boolean opens,
      boolean decides) {}

  /** The first address of somebody at the site, of whoever opens it before others. */
  private static final Field<String> CONTACT_MAIL =
      field(
          select(CONTACT.EMAIL)
              .from(CONTACT)
              .where(CONTACT.SITE_ID.eq(SITE.ID).and(CONTACT.EMAIL.ne("")))
              .orderBy(CONTACT.OPENS.desc(), CONTACT.ID)
              .limit(1));

  private final DSLContext database;
  private final CompanyStore companies;
  private final CustomerService customers;
  private final RepeatableRequests repeats;
  private final Events events;
  private final References references;

  SiteService(
      DSLContext database,
      CompanyStore companies,
      CustomerService customers,
      RepeatableRequests repeats,
      Events events,
      References references) {
    this.database = database;
    this.companies = companies;
    this.customers = customers;
    this.repeats = repeats;
    this.events = events;
    this.references = references;
  }

  /**
   * Where mail about work at the site that is selected goes: to somebody there, else to the
   * customer, who is selected too; empty for nowhere.
   */
  public static Field<String> mailAddress() {
    return coalesce(CONTACT_MAIL, CUSTOMER.EMAIL);
  }

  /** Whether somebody can be written to about work at the site, by mail or by text message. */
  public static Field<Boolean> isReachable() {
    return field(mailAddress().ne("").or(CUSTOMER.PHONE.ne("")));
  }

  /** One more site; gives its id. */
  public long addSite(Act act, @Nullable String key, long customerId, SiteForm form) {
    return repeats.once(
        act,
        key,
        "add site",
        customerId + " " + form,
        () -> {
          customers.lock(customerId);
          var row = database.newRecord(SITE);
          row.setCustomerId(customerId);
          fill(row, form);
          events.store(act, CustomerEvent.SITE_ADDED, row);
          return row.getId();
        });
  }

  public void saveSite(Act act, long id, SiteForm form) {
    SiteRecord row = lockSite(id, form.version());
    fill(row, form);
    events.store(act, CustomerEvent.SITE_CHANGED, row);
  }

  /** Deletes a site that nothing refers to. */
  public void deleteSite(Act act, long id, int version) {
    SiteRecord row = lockSite(id, version);
    var uses = new LinkedHashMap<>(references.count(SITE, id, Set.of(CONTACT, EQUIPMENT)));
    uses.put("piece of equipment", database.fetchCount(EQUIPMENT, EQUIPMENT.SITE_ID.eq(id)));
    InUse.refuse(row.getName(), uses, "Change its address instead.");
    for (ContactRecord contact : database.fetch(CONTACT, CONTACT.SITE_ID.eq(id))) {
      events.delete(act, CustomerEvent.CONTACT_DELETED, contact);
    }
    events.delete(act, CustomerEvent.SITE_DELETED, row);
  }

  private SiteRecord lockSite(long id, int version) {
    SiteRecord row = database.selectFrom(SITE).where(SITE.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw new Refused(Rule.NOT_FOUND, "This site does not exist. Reload the page.");
    }
    Versions.require(version, row.getVersion());
    return row;
  }

  private void fill(SiteRecord row, SiteForm form) {
    Company company = companies.getCompany();
    var reading = new Reading();
    String name = reading.text("name", form.name(), 120);
    String address = reading.text("address", form.address(), 300);
    String postcode = reading.optional("postcode", form.postcode(), company.postcode()::parse);
    String area = reading.optionalText("area", form.area(), 60);
    BigDecimal[] position = reading.optional("position", form.position(), SiteService::position);
    Stretch open = reading.optional("open", form.open(), Stretch::parse);
    String notes = reading.optionalText("accessNotes", form.accessNotes(), 1_000);
    reading.refuseIfFaulty();
    row.setName(Objects.requireNonNull(name));
    row.setAddress(Objects.requireNonNull(address));
    row.setPostcode(Objects.requireNonNullElse(postcode, ""));
    row.setArea(area);
    row.setLatitude(position == null ? null : position[0]);
    row.setLongitude(position == null ? null : position[1]);
    row.setOpens(open == null ? null : open.start());
    row.setCloses(open == null ? null : open.end());
    row.setAccessNotes(notes);
  }

  private static BigDecimal[] position(String typed) {
    String[] degrees = typed.split("\\s*,\\s*", -1);
    if (degrees.length == 2
        && degrees[0].matches("-?\\d{1,2}(\\.\\d{1,6})?")
        && degrees[1].matches("-?\\d{1,3}(\\.\\d{1,6})?")) {
      var position = new BigDecimal[] {new BigDecimal(degrees[0]), new BigDecimal(degrees[1])};
      if (position[0].abs().intValue() < 90 && position[1].abs().intValue() < 180) {
        return position;
      }
    }
    throw new Unreadable(
        Rule.UNREADABLE,
        "“%s” is not a position. Enter latitude and longitude like 54.0412, -1.2311."
            .formatted(Reading.abridged(typed)));
  }

  /** One more contact; gives its id. */
  public long addContact(Act act, @Nullable String key, long customerId, ContactForm form) {
    return repeats.once(
        act,
        key,
        "add contact",
        customerId + " " + form,
        () -> {
          customers.lock(customerId);
          var row = database.newRecord(CONTACT);
          row.setCustomerId(customerId);
          fill(row, form);
          events.store(act, CustomerEvent.CONTACT_ADDED, row);
          return row.getId();
        });
  }

  public void saveContact(Act act, long id, ContactForm form) {
    ContactRecord row = lockContact(id, form.version());
    fill(row, form);
    events.store(act, CustomerEvent.CONTACT_CHANGED, row);
  }

  /** Deletes a contact; what it was stays on record. */
  public void deleteContact(Act act, long id, int version) {
    ContactRecord row = lockContact(id, version);
    events.delete(act, CustomerEvent.CONTACT_DELETED, row);
  }

  private ContactRecord lockContact(long id, int version) {
    ContactRecord row =
        database.selectFrom(CONTACT).where(CONTACT.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw new Refused(Rule.NOT_FOUND, "This contact does not exist. Reload the page.");
    }
    Versions.require(version, row.getVersion());
    return row;
  }

  private void fill(ContactRecord row, ContactForm form) {
    Company company = companies.getCompany();
    var reading = new Reading();
    String name = reading.text("name", form.name(), 120);
    PhoneNumber phone =
        Objects.equals(form.phone(), row.getPhone())
            ? new PhoneNumber(row.getPhone())
            : reading.optional(
                "phone", form.phone(), typed -> PhoneNumber.parse(typed, company.diallingCode()));
    String email = reading.optional("email", form.email(), MailAddress::parse);
    if (form.siteId() != null
        && !database.fetchExists(
            SITE, SITE.ID.eq(form.siteId()).and(SITE.CUSTOMER_ID.eq(row.getCustomerId())))) {
      reading.fault("siteId", Rule.NOT_FOUND, "This site is not the customer's. Choose another.");
    }
    reading.refuseIfFaulty();
    row.setName(Objects.requireNonNull(name));
    row.setPhone(phone == null ? "" : phone.text());
    row.setEmail(Objects.requireNonNullElse(email, ""));
    row.setSiteId(form.siteId());
    row.setPays(form.pays());
    row.setOpens(form.opens());
    row.setDecides(form.decides());
  }
}
