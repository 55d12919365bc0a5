package app.pragmata.server.customers;

import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;
import static app.pragmata.server.generated.Tables.PRICE_LIST;
import static app.pragmata.server.generated.Tables.RESPONSE_TERMS;

import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.Made;
import app.pragmata.server.records.VersionStore;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Records;
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

/** Customers, their contacts and their notes over HTTP. */
@RestController
class CustomersApi {

  record NoteForm(@Nullable String text) {}

  record PinForm(boolean pinned) {}

  record Named(long id, String name) {}

  /** What the forms about customers offer to choose from. */
  record CustomerChoices(
      List<Named> priceLists, List<Named> responseTerms, List<Named> equipmentKinds) {}

  private final CustomerService service;
  private final SiteService sites;
  private final VersionStore versions;
  private final DSLContext database;

  CustomersApi(
      CustomerService service, SiteService sites, DSLContext database, VersionStore versions) {
    this.versions = versions;
    this.service = service;
    this.sites = sites;
    this.database = database;
  }

  @GetMapping("/api/customers/choices")
  CustomerChoices listCustomerChoices() {
    return new CustomerChoices(
        database
            .select(PRICE_LIST.ID, PRICE_LIST.NAME)
            .from(PRICE_LIST)
            .orderBy(PRICE_LIST.NAME)
            .fetch(Records.mapping(Named::new)),
        database
            .select(RESPONSE_TERMS.ID, RESPONSE_TERMS.NAME)
            .from(RESPONSE_TERMS)
            .orderBy(RESPONSE_TERMS.ID)
            .fetch(Records.mapping(Named::new)),
        database
            .select(EQUIPMENT_KIND.ID, EQUIPMENT_KIND.NAME)
            .from(EQUIPMENT_KIND)
            .orderBy(EQUIPMENT_KIND.NAME)
            .fetch(Records.mapping(Named::new)));
  }

  @PostMapping("/api/customers")
  @Transactional
  Changed createCustomer(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody CustomerService.NewCallerForm form) {
    return versions.changed(CUSTOMER.ID, service.create(act, key, form));
  }

  @DeleteMapping("/api/customers/{id}")
  void deleteCustomer(Act act, @PathVariable long id, @RequestParam int version) {
    service.delete(act, id, version);
  }

  @PostMapping("/api/customers/{id}/notes")
  Made pinNote(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody NoteForm form) {
    return new Made(service.pin(act, key, id, form.text()));
  }

  @PutMapping("/api/customer-notes/{id}/pinned")
  Made setPinned(@PathVariable long id, @RequestBody PinForm form, Act act) {
    service.setPinned(act, id, form.pinned());
    return new Made(id);
  }

  @PostMapping("/api/customers/{id}/contacts")
  @Transactional
  Changed addContact(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody SiteService.ContactForm form) {
    return versions.changed(CONTACT.ID, sites.addContact(act, key, id, form));
  }

  @PutMapping("/api/contacts/{id}")
  @Transactional
  Changed saveContact(Act act, @PathVariable long id, @RequestBody SiteService.ContactForm form) {
    sites.saveContact(act, id, form);
    return versions.changed(CONTACT.ID, id);
  }

  @DeleteMapping("/api/contacts/{id}")
  void deleteContact(Act act, @PathVariable long id, @RequestParam int version) {
    sites.deleteContact(act, id, version);
  }
}
