package app.pragmata.server.frontdesk;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.CALL;
import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.CUSTOMER_NOTE;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;
import static app.pragmata.server.generated.Tables.EQUIPMENT_PHOTO;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.PRICE_LIST;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.RECEIVABLE_JOB;
import static app.pragmata.server.generated.Tables.RESPONSE_TERMS;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TO_DO;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.case_;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.money.Share;
import app.pragmata.core.quoting.QuoteState;
import app.pragmata.server.frontdesk.CallerCard.CallOf;
import app.pragmata.server.frontdesk.CallerCard.ContactOf;
import app.pragmata.server.frontdesk.CallerCard.EquipmentOf;
import app.pragmata.server.frontdesk.CallerCard.FormerCustomer;
import app.pragmata.server.frontdesk.CallerCard.InvoiceOf;
import app.pragmata.server.frontdesk.CallerCard.OpenJob;
import app.pragmata.server.frontdesk.CallerCard.OpenQuote;
import app.pragmata.server.frontdesk.CallerCard.PinnedNote;
import app.pragmata.server.frontdesk.CallerCard.SiteOf;
import app.pragmata.server.frontdesk.CallerCard.ToDoOf;
import app.pragmata.server.frontdesk.CallerCard.VisitOf;
import app.pragmata.server.frontdesk.CallerCard.WarrantyOf;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.receipts.Debt;
import app.pragmata.server.receipts.DebtStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.todos.ToDoState;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.OrderField;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads a caller's card with one statement, and the debt with another. */
@Repository
class CallerCardStore {
  private static final List<String> AHEAD = List.of("unplanned", "planned", "driving", "on_site");

  private final DSLContext database;
  private final DebtStore debts;

  CallerCardStore(DSLContext database, DebtStore debts) {
    this.database = database;
    this.debts = debts;
  }

  /** The card of a customer; that of the one who took it in after a merge; empty when unknown. */
  Optional<CallerCard> find(Act act, long id) {
    Long stays =
        database
            .select(DSL.coalesce(CUSTOMER.MERGED_INTO, CUSTOMER.ID))
            .from(CUSTOMER)
            .where(CUSTOMER.ID.eq(id))
            .fetchOne(row -> row.value1());
    return stays == null ? Optional.empty() : Optional.of(get(act, stays));
  }

  private CallerCard get(Act act, long id) {
    Debt debt = debts.getDebt(id, act.today());
    Field<List<PinnedNote>> notes = notes(act);
    Field<List<ContactOf>> contacts = contacts();
    Field<List<SiteOf>> sites = sites(act);
    Field<List<OpenQuote>> quotes = quotes();
    Field<List<OpenJob>> jobs = jobs(act);
    Condition ahead = VISIT.STATE.in(AHEAD);
    Field<List<VisitOf>> next =
        visits("next", ahead, 4, VISIT.DAY.asc().nullsLast(), VISIT.START_TIME.asc());
    Field<List<VisitOf>> last =
        visits("last", ahead.not(), 6, VISIT.DAY.desc(), VISIT.START_TIME.desc());
    Field<List<InvoiceOf>> invoices = invoices();
    Field<List<CallOf>> calls = calls(act);
    Field<List<ToDoOf>> toDos = toDos();
    Field<List<FormerCustomer>> tookIn = tookIn();
    return database
        .select(CUSTOMER.fields())
        .select(PRICE_LIST.NAME, RESPONSE_TERMS.NAME)
        .select(notes, contacts, sites, quotes, jobs, next, last, invoices, calls, toDos, tookIn)
        .from(CUSTOMER)
        .leftJoin(PRICE_LIST)
        .on(PRICE_LIST.ID.eq(CUSTOMER.PRICE_LIST_ID))
        .leftJoin(RESPONSE_TERMS)
        .on(RESPONSE_TERMS.ID.eq(CUSTOMER.RESPONSE_TERMS_ID))
        .where(CUSTOMER.ID.eq(id))
        .fetchSingle(
            row ->
                new CallerCard(
                    id,
                    row.get(CUSTOMER.VERSION),
                    row.get(CUSTOMER.NUMBER),
                    row.get(CUSTOMER.NAME),
                    row.get(CUSTOMER.PHONE),
                    row.get(CUSTOMER.EMAIL),
                    row.get(CUSTOMER.ADDRESS),
                    row.get(CUSTOMER.POSTCODE),
                    row.get(CUSTOMER.PAYMENT_DAYS),
                    row.get(CUSTOMER.VAT_NUMBER),
                    row.get(CUSTOMER.VAT_CODE),
                    row.get(CUSTOMER.PRICES_WITH_VAT),
                    row.get(CUSTOMER.REFERENCE),
                    row.get(CUSTOMER.PRICE_LIST_ID),
                    row.get(PRICE_LIST.NAME),
                    row.get(CUSTOMER.RESPONSE_TERMS_ID),
                    row.get(RESPONSE_TERMS.NAME),
                    debt,
                    row.get(notes),
                    row.get(contacts),
                    row.get(sites),
                    row.get(quotes),
                    row.get(jobs),
                    row.get(next),
                    row.get(last),
                    row.get(invoices),
                    row.get(calls),
                    row.get(toDos),
                    row.get(tookIn)));
  }

  private static LocalDateTime local(Instant moment, Act act) {
    return LocalDateTime.ofInstant(moment, act.zone());
  }

  private static Field<List<PinnedNote>> notes(Act act) {
    return multiset(
            select(CUSTOMER_NOTE.ID, CUSTOMER_NOTE.TEXT, PERSON.NAME, CUSTOMER_NOTE.PINNED_AT)
                .from(CUSTOMER_NOTE)
                .join(PERSON)
                .on(PERSON.ID.eq(CUSTOMER_NOTE.PINNED_BY))
                .where(CUSTOMER_NOTE.CUSTOMER_ID.eq(CUSTOMER.ID))
                .and(CUSTOMER_NOTE.UNPINNED_AT.isNull())
                .orderBy(CUSTOMER_NOTE.ID.desc()))
        .as("notes")
        .convertFrom(
            rows ->
                rows.map(
                    row ->
                        new PinnedNote(
                            row.value1(), row.value2(), row.value3(), local(row.value4(), act))));
  }

  private static Field<List<ContactOf>> contacts() {
    return multiset(
            select(
                    CONTACT.ID,
                    CONTACT.VERSION,
                    CONTACT.SITE_ID,
                    SITE.NAME,
                    CONTACT.NAME,
                    CONTACT.PHONE,
                    CONTACT.EMAIL,
                    CONTACT.PAYS,
                    CONTACT.OPENS,
                    CONTACT.DECIDES)
                .from(CONTACT)
                .leftJoin(SITE)
                .on(SITE.ID.eq(CONTACT.SITE_ID))
                .where(CONTACT.CUSTOMER_ID.eq(CUSTOMER.ID))
                .orderBy(CONTACT.SITE_ID.asc().nullsFirst(), CONTACT.NAME))
        .as("contacts")
        .convertFrom(rows -> rows.map(mapping(ContactOf::new)));
  }

  private static Field<List<SiteOf>> sites(Act act) {
    return multiset(
            select(
                    SITE.ID,
                    SITE.VERSION,
                    SITE.NAME,
                    SITE.ADDRESS,
                    SITE.POSTCODE,
                    SITE.AREA,
                    SITE.LATITUDE,
                    SITE.LONGITUDE,
                    SITE.OPENS,
                    SITE.CLOSES,
                    SITE.ACCESS_NOTES,
                    equipment(act))
                .from(SITE)
                .where(SITE.CUSTOMER_ID.eq(CUSTOMER.ID))
                .orderBy(SITE.ID))
        .as("sites")
        .convertFrom(rows -> rows.map(mapping(SiteOf::new)));
  }

  private static Field<List<EquipmentOf>> equipment(Act act) {
    var successor = EQUIPMENT.as("successor");
    Field<Boolean> photo =
        field(
            exists(
                selectOne()
                    .from(EQUIPMENT_PHOTO)
                    .where(EQUIPMENT_PHOTO.EQUIPMENT_ID.eq(EQUIPMENT.ID))));
    return multiset(
            select(
                    EQUIPMENT.ID,
                    EQUIPMENT.VERSION,
                    EQUIPMENT.EQUIPMENT_KIND_ID,
                    EQUIPMENT_KIND.NAME,
                    EQUIPMENT.MODEL,
                    EQUIPMENT.SERIAL_NUMBER,
                    EQUIPMENT.FITTED_ON,
                    EQUIPMENT.POSITION,
                    EQUIPMENT.PARTS_WARRANTY_UNTIL,
                    EQUIPMENT.PARTS_WARRANTY_SHARE,
                    EQUIPMENT.LABOUR_WARRANTY_UNTIL,
                    EQUIPMENT.LABOUR_WARRANTY_SHARE,
                    EQUIPMENT.REMOVED_ON,
                    EQUIPMENT.REPLACED_BY_ID,
                    successor.SERIAL_NUMBER,
                    photo)
                .from(EQUIPMENT)
                .leftJoin(EQUIPMENT_KIND)
                .on(EQUIPMENT_KIND.ID.eq(EQUIPMENT.EQUIPMENT_KIND_ID))
                .leftJoin(successor)
                .on(successor.ID.eq(EQUIPMENT.REPLACED_BY_ID))
                .where(EQUIPMENT.SITE_ID.eq(SITE.ID))
                .orderBy(EQUIPMENT.REMOVED_ON.asc().nullsFirst(), EQUIPMENT.FITTED_ON))
        .convertFrom(
            rows ->
                rows.map(
                    row ->
                        new EquipmentOf(
                            row.value1(),
                            row.value2(),
                            row.value3(),
                            row.value4(),
                            row.value5(),
                            row.value6(),
                            row.value7(),
                            row.value8(),
                            warranty(row.value9(), row.value10(), act.today()),
                            warranty(row.value11(), row.value12(), act.today()),
                            row.value13(),
                            row.value14(),
                            row.value15(),
                            row.value16())));
  }

  private static @Nullable WarrantyOf warranty(
      @Nullable LocalDate until, BigDecimal share, LocalDate today) {
    return until == null || share.signum() == 0
        ? null
        : new WarrantyOf(until, new Share(share).percent(), !until.isBefore(today));
  }

  private static Field<List<OpenQuote>> quotes() {
    return multiset(
            select(
                    QUOTE.ID,
                    QUOTE.NUMBER,
                    QUOTE.TITLE,
                    QUOTE.STATE,
                    QUOTE.NET_MINOR,
                    QUOTE.VALID_UNTIL)
                .from(QUOTE)
                .where(QUOTE.CUSTOMER_ID.eq(CUSTOMER.ID))
                .and(
                    QUOTE
                        .STATE
                        .in(QuoteState.Code.DRAFT, QuoteState.Code.SENT)
                        .or(
                            QUOTE
                                .STATE
                                .eq(QuoteState.Code.ACCEPTED)
                                .andNotExists(
                                    selectOne()
                                        .from(ACCEPTED_QUOTE)
                                        .where(ACCEPTED_QUOTE.QUOTE_ID.eq(QUOTE.ID)))))
                .orderBy(QUOTE.NUMBER.desc())
                .limit(6))
        .as("quotes")
        .convertFrom(rows -> rows.map(mapping(OpenQuote::new)));
  }

  private static Field<List<OpenJob>> jobs(Act act) {
    return multiset(
            select(
                    JOB.ID,
                    JOB.NUMBER,
                    JOB.TITLE,
                    JOB.STATE,
                    JOB.RESPOND_BY,
                    field(JOB.RESPONDED_AT.isNull().and(JOB.RESPOND_BY.lt(act.at()))))
                .from(JOB)
                .where(JOB.CUSTOMER_ID.eq(CUSTOMER.ID))
                .and(JobStore.running())
                .orderBy(JOB.NUMBER.desc())
                .limit(6))
        .as("jobs")
        .convertFrom(
            rows ->
                rows.map(
                    row ->
                        new OpenJob(
                            row.value1(),
                            row.value2(),
                            row.value3(),
                            row.value4(),
                            row.value5() == null ? null : local(row.value5(), act),
                            Boolean.TRUE.equals(row.value6()))));
  }

  private static Field<List<VisitOf>> visits(
      String name, Condition which, int most, OrderField<?>... order) {
    return multiset(
            select(
                    VISIT.ID,
                    JOB.ID,
                    JOB.NUMBER,
                    JOB.TITLE,
                    JOB.KIND_OF_JOB_ID,
                    JOB.SITE_ID,
                    JOB.EQUIPMENT_ID,
                    VISIT.DAY,
                    VISIT.START_TIME,
                    PERSON.NAME,
                    VISIT.STATE,
                    VISIT.REASON,
                    VISIT.NOTE)
                .from(VISIT)
                .join(JOB)
                .on(JOB.ID.eq(VISIT.JOB_ID))
                .leftJoin(PERSON)
                .on(PERSON.ID.eq(VISIT.TECHNICIAN_ID))
                .where(JOB.CUSTOMER_ID.eq(CUSTOMER.ID))
                .and(which)
                .orderBy(order)
                .limit(most))
        .as(name)
        .convertFrom(rows -> rows.map(mapping(VisitOf::new)));
  }

  /** The open ones first, then the newest. */
  private static Field<List<InvoiceOf>> invoices() {
    return multiset(
            select(
                    INVOICE.ID,
                    INVOICE.NUMBER,
                    field(
                        select(min(RECEIVABLE_JOB.JOB_ID))
                            .from(RECEIVABLE_JOB)
                            .where(RECEIVABLE_JOB.INVOICE_ID.eq(INVOICE.ID))),
                    INVOICE.INVOICE_DATE,
                    INVOICE.DUE_DATE,
                    INVOICE.GROSS_MINOR,
                    RECEIVABLE.OWED_MINOR)
                .from(INVOICE)
                .join(RECEIVABLE)
                .on(RECEIVABLE.INVOICE_ID.eq(INVOICE.ID))
                .where(INVOICE.CUSTOMER_ID.eq(CUSTOMER.ID))
                .orderBy(
                    case_().when(RECEIVABLE.OWED_MINOR.gt(0L), inline(0)).else_(inline(1)),
                    INVOICE.NUMBER.desc())
                .limit(8))
        .as("invoices")
        .convertFrom(rows -> rows.map(mapping(InvoiceOf::new)));
  }

  private static Field<List<CallOf>> calls(Act act) {
    return multiset(
            select(
                    CALL.ID,
                    CALL.AT,
                    PERSON.NAME,
                    CALL.ABOUT,
                    CALL.OUTCOME,
                    CALL.SOLUTION,
                    CALL.JOB_ID,
                    CALL.QUOTE_ID)
                .from(CALL)
                .join(PERSON)
                .on(PERSON.ID.eq(CALL.TAKEN_BY))
                .where(CALL.CUSTOMER_ID.eq(CUSTOMER.ID))
                .orderBy(CALL.AT.desc())
                .limit(5))
        .as("calls")
        .convertFrom(rows -> rows.map(row -> call(row, act)));
  }

  private static CallOf call(Record row, Act act) {
    return new CallOf(
        row.get(CALL.ID),
        local(row.get(CALL.AT), act),
        row.get(PERSON.NAME),
        row.get(CALL.ABOUT),
        row.get(CALL.OUTCOME),
        row.get(CALL.SOLUTION),
        row.get(CALL.JOB_ID),
        row.get(CALL.QUOTE_ID));
  }

  private static Field<List<ToDoOf>> toDos() {
    return multiset(
            select(TO_DO.ID, TO_DO.WHAT, PERSON.NAME, TO_DO.DUE_DAY)
                .from(TO_DO)
                .join(PERSON)
                .on(PERSON.ID.eq(TO_DO.FOR_PERSON_ID))
                .where(TO_DO.CUSTOMER_ID.eq(CUSTOMER.ID))
                .and(TO_DO.STATE.eq(ToDoState.OPEN))
                .orderBy(TO_DO.DUE_DAY, TO_DO.ID)
                .limit(6))
        .as("to_dos")
        .convertFrom(rows -> rows.map(mapping(ToDoOf::new)));
  }

  private static Field<List<FormerCustomer>> tookIn() {
    var former = CUSTOMER.as("former");
    return multiset(
            select(former.NUMBER, former.NAME)
                .from(former)
                .where(former.MERGED_INTO.eq(CUSTOMER.ID))
                .orderBy(former.NUMBER))
        .as("took_in")
        .convertFrom(rows -> rows.map(mapping(FormerCustomer::new)));
  }
}
