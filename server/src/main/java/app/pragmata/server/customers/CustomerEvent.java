package app.pragmata.server.customers;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to customers, their sites, their people and what stands there. */
public enum CustomerEvent implements Event {
  TAKEN_ON(RecordKind.CUSTOMER),
  CHANGED(RecordKind.CUSTOMER),
  MERGED(RecordKind.CUSTOMER),
  TOOK_IN(RecordKind.CUSTOMER),
  DELETED(RecordKind.CUSTOMER),
  IMPORTED(RecordKind.CUSTOMER),
  NOTE_PINNED(RecordKind.CUSTOMER_NOTE),
  NOTE_TAKEN_DOWN(RecordKind.CUSTOMER_NOTE),
  SITE_ADDED(RecordKind.SITE),
  SITE_CHANGED(RecordKind.SITE),
  SITE_DELETED(RecordKind.SITE),
  SITE_IMPORTED(RecordKind.SITE),
  CONTACT_ADDED(RecordKind.CONTACT),
  CONTACT_CHANGED(RecordKind.CONTACT),
  CONTACT_DELETED(RecordKind.CONTACT),
  CONTACT_IMPORTED(RecordKind.CONTACT),
  EQUIPMENT_ADDED(RecordKind.EQUIPMENT),
  EQUIPMENT_FITTED(RecordKind.EQUIPMENT),
  EQUIPMENT_PUT_IN_PLACE(RecordKind.EQUIPMENT),
  EQUIPMENT_CHANGED(RecordKind.EQUIPMENT),
  EQUIPMENT_MOVED(RecordKind.EQUIPMENT),
  EQUIPMENT_REPLACED(RecordKind.EQUIPMENT),
  EQUIPMENT_PHOTO_KEPT(RecordKind.EQUIPMENT),
  EQUIPMENT_DELETED(RecordKind.EQUIPMENT),
  EQUIPMENT_IMPORTED(RecordKind.EQUIPMENT),
  PRICE_LIST_ADDED(RecordKind.PRICE_LIST),
  PRICE_LIST_CHANGED(RecordKind.PRICE_LIST),
  PRICE_LIST_DELETED(RecordKind.PRICE_LIST);

  private final RecordKind kind;

  CustomerEvent(RecordKind kind) {
    this.kind = kind;
  }

  @Override
  public RecordKind kind() {
    return kind;
  }
}
