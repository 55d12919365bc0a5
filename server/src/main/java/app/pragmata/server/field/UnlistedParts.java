package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.UNLISTED_PART;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.Records.mapping;

import app.pragmata.core.Decimal;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.UnlistedPartRecord;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import app.pragmata.server.stores.StockStore;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Parts that were fitted and are not on the price list: noted on the phone by name, put on the list
 * with their cost by the office, and used on their visit then. The visit is not checked before.
 */
@Service
@Transactional
class UnlistedParts {
  /** What was fitted, in words, and how many; the quantity as typed. */
  record UnlistedPartForm(@Nullable String name, @Nullable String quantity) {}

  /**
   * What it costs.
   *
   * @param number by which the price list knows it from now on
   * @param unitCost what the supplier takes for one, without VAT
   * @param unitPrice what is charged for one, without VAT; empty for the usual markup
   */
  record PriceForm(
      int version,
      @Nullable String number,
      @Nullable String name,
      @Nullable String unit,
      @Nullable String unitCost,
      @Nullable String unitPrice) {}

  /** One that waits for its price. */
  record UnlistedPart(
      long id,
      int version,
      long visitId,
      @Nullable LocalDate day,
      String name,
      BigDecimal quantity,
      String notedBy) {}

  private static final int LONGEST_NAME = 120;
  private static final int LONGEST_NUMBER = 40;
  private static final int LONGEST_UNIT = 10;
  private static final int LONGEST_REASON = 300;

  private final DSLContext database;
  private final VisitStore visits;
  private final CheckService check;
  private final StockStore stock;
  private final ToDoService toDos;
  private final CompanyStore companies;
  private final Events events;
  private final RepeatableRequests repeats;

  UnlistedParts(
      DSLContext database,
      VisitStore visits,
      CheckService check,
      StockStore stock,
      ToDoService toDos,
      CompanyStore companies,
      Events events,
      RepeatableRequests repeats) {
    this.database = database;
    this.visits = visits;
    this.check = check;
    this.stock = stock;
    this.toDos = toDos;
    this.companies = companies;
    this.events = events;
    this.repeats = repeats;
  }

  /** Those of a job that wait for their price, in the order in which they were noted. */
  List<UnlistedPart> listOpen(long jobId) {
    return database
        .select(
            UNLISTED_PART.ID,
            UNLISTED_PART.VERSION,
            UNLISTED_PART.VISIT_ID,
            VISIT.DAY,
            UNLISTED_PART.NAME,
            UNLISTED_PART.QUANTITY,
            PERSON.NAME)
        .from(UNLISTED_PART)
        .join(VISIT)
        .on(VISIT.ID.eq(UNLISTED_PART.VISIT_ID))
        .join(PERSON)
        .on(PERSON.ID.eq(UNLISTED_PART.NOTED_BY))
        .where(VISIT.JOB_ID.eq(jobId).and(UnpricedParts.OPEN))
        .orderBy(UNLISTED_PART.ID)
        .fetch(mapping(UnlistedPart::new));
  }

  /** Notes one on a visit on which somebody is; the office has a to-do at once. Gives its id. */
  long note(Act act, @Nullable String key, long visitId, UnlistedPartForm form) {
    return repeats.once(
        act,
        key,
        "note unlisted part",
        visitId + " " + form,
        () -> {
          LockedVisit visit = OwnVisit.require(visits.lock(visitId), act.personId());
          OwnVisit.requireRunning(visit);
          return note(act, visit, form);
        });
  }

  /** The same on a visit that is locked, whatever its state. */
  long note(Act act, LockedVisit visit, UnlistedPartForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), LONGEST_NAME);
    BigDecimal quantity = reading.required("quantity", form.quantity(), Reading::quantity);
    reading.refuseIfFaulty();
    UnlistedPartRecord row = database.newRecord(UNLISTED_PART);
    row.setVisitId(visit.id());
    row.setName(name);
    row.setQuantity(quantity);
    row.setNotedAt(act.at());
    row.setNotedBy(act.personId());
    row.setToDoId(
        toDos.insertForOffice(
            act,
            act.personId(),
            ToDoForm.ofJob(
                "Price a part that is on no list: %s %s, job %d"
                    .formatted(
                        Decimal.text(Objects.requireNonNull(quantity)), name, visit.job().number()),
                act.today(),
                visit.job().customerId(),
                visit.job().id())));
    events.store(act, FieldEvent.UNLISTED_PART_NOTED, row, About.partOf(visit.job().id()));
    visits.touch(act, visit, visit.state());
    return row.getId();
  }

  /**
   * Puts it on the price list at what it cost, and on its visit: it was delivered to the van and is
   * used from it. One that is on the list after all is dropped, and added as any other.
   */
  void price(Act act, long id, PriceForm form) {
    UnlistedPartRecord row = lock(id, form.version());
    long partId = list(act, row, form);
    row.setVisitPartId(check.addPart(act, row.getVisitId(), partId, row.getQuantity()));
    events.store(act, FieldEvent.UNLISTED_PART_PRICED, row, About.partOf(jobOf(row)));
    toDos.settle(act, row.getToDoId(), "Priced");
  }

  private long list(Act act, UnlistedPartRecord row, PriceForm form) {
    TypedMoney typed = companies.getCompany().typed();
    var reading = new Reading();
    String number = reading.text("number", form.number(), LONGEST_NUMBER);
    String name = reading.text("name", form.name(), LONGEST_NAME);
    String unit = reading.optionalText("unit", form.unit(), LONGEST_UNIT);
    UnitPrice unitCost = reading.required("unitCost", form.unitCost(), typed::unitPrice);
    UnitPrice unitPrice = reading.optional("unitPrice", form.unitPrice(), typed::unitPrice);
    reading.refuseIfFaulty();
    long partId =
        stock.list(
            act, Objects.requireNonNull(number), Objects.requireNonNull(name), unit, unitPrice);
    Money cost =
        Money.rounded(Objects.requireNonNull(unitCost).major().multiply(row.getQuantity()));
    long technician =
        Objects.requireNonNull(
            database.fetchValue(VISIT.TECHNICIAN_ID, VISIT.ID.eq(row.getVisitId())));
    stock.receive(act, partId, stock.getPlaceOf(technician), row.getQuantity(), cost);
    return partId;
  }

  /** It was none, or stands on the visit already. */
  void drop(Act act, long id, int version, @Nullable String reason) {
    var reading = new Reading();
    String why = reading.text("reason", reason, LONGEST_REASON);
    reading.refuseIfFaulty();
    UnlistedPartRecord row = lock(id, version);
    row.setDroppedAt(act.at());
    row.setReason(why);
    events.store(
        act,
        FieldEvent.UNLISTED_PART_DROPPED,
        row,
        About.partOf(jobOf(row)).why(Objects.requireNonNull(why)));
    toDos.settle(act, row.getToDoId(), "Dropped: " + why);
  }

  private long jobOf(UnlistedPartRecord row) {
    return Objects.requireNonNull(database.fetchValue(VISIT.JOB_ID, VISIT.ID.eq(row.getVisitId())));
  }

  /** Its visit is locked first, as everywhere. */
  private UnlistedPartRecord lock(long id, int version) {
    Long visitId = database.fetchValue(UNLISTED_PART.VISIT_ID, UNLISTED_PART.ID.eq(id));
    if (visitId == null) {
      throw new Refused(Rule.NOT_FOUND, "There is no such part. Reload the page.");
    }
    visits.lock(visitId).job().requireUnbilled();
    UnlistedPartRecord row =
        database.selectFrom(UNLISTED_PART).where(UNLISTED_PART.ID.eq(id)).fetchSingle();
    Versions.require(version, row.getVersion());
    if (row.getVisitPartId() != null || row.getDroppedAt() != null) {
      throw new Refused(Rule.PART_MOVED_ON, "This part is priced or dropped already.");
    }
    return row;
  }
}
