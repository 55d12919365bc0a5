package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.BILL;
import static app.pragmata.server.generated.Tables.CREDIT_NOTE;
import static app.pragmata.server.generated.Tables.CREDIT_NOTE_DEDUCTION;
import static app.pragmata.server.generated.Tables.CREDIT_NOTE_LINE;
import static app.pragmata.server.generated.Tables.CREDIT_NOTE_TEXT;
import static app.pragmata.server.generated.Tables.CREDIT_NOTE_VAT;
import static app.pragmata.server.generated.Tables.INVOICE_DEDUCTION;
import static app.pragmata.server.generated.Tables.INVOICE_LINE;
import static app.pragmata.server.generated.Tables.INVOICE_VAT;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.ChargeLine;
import app.pragmata.core.billing.Creditable;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatGroup;
import app.pragmata.server.generated.tables.records.CreditNoteDeductionRecord;
import app.pragmata.server.generated.tables.records.CreditNoteLineRecord;
import app.pragmata.server.generated.tables.records.CreditNoteRecord;
import app.pragmata.server.generated.tables.records.CreditNoteVatRecord;
import app.pragmata.server.generated.tables.records.InvoiceLineRecord;
import app.pragmata.server.records.FrozenText;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Repository;

/** What of invoices is credited, and what is left to credit. */
@Repository
class CreditStore {
  private final DSLContext database;

  CreditStore(DSLContext database) {
    this.database = database;
  }

  /** What is left to credit of an invoice; nothing of one that there is not. */
  Creditable creditable(long invoiceId) {
    return new Creditable(lines(invoiceId), deductions(invoiceId), groups(invoiceId));
  }

  private List<Creditable.Line> lines(long invoiceId) {
    Field<Long> credited =
        coalesce(
            field(
                select(sum(CREDIT_NOTE_LINE.NET_MINOR).cast(Long.class))
                    .from(CREDIT_NOTE_LINE)
                    .where(CREDIT_NOTE_LINE.INVOICE_ID.eq(INVOICE_LINE.INVOICE_ID))
                    .and(CREDIT_NOTE_LINE.POSITION.eq(INVOICE_LINE.POSITION))),
            0L);
    return database
        .select(INVOICE_LINE.fields())
        .select(credited)
        .from(INVOICE_LINE)
        .where(INVOICE_LINE.INVOICE_ID.eq(invoiceId))
        .orderBy(INVOICE_LINE.POSITION)
        .fetch(
            row -> {
              InvoiceLineRecord line = row.into(INVOICE_LINE);
              return new Creditable.Line(
                  line.getPosition(),
                  line.getJobId(),
                  of(line),
                  line.getCategory(),
                  new VatGroup(line.getVatCategory(), line.getVatPercent(), line.getVatReason()),
                  Money.ofMinor(line.getNetMinor() - row.get(credited)));
            });
  }

  private static ChargeLine.Of of(InvoiceLineRecord line) {
    if (line.getVisitId() != null) {
      return new ChargeLine.Of.Visit(line.getVisitId());
    }
    if (line.getOtherCostId() != null) {
      return new ChargeLine.Of.OtherCost(line.getOtherCostId());
    }
    return line.getCategory() == null ? new ChargeLine.Of.Stage() : new ChargeLine.Of.Promise();
  }

  private List<Creditable.Off> deductions(long invoiceId) {
    return database
        .selectFrom(INVOICE_DEDUCTION)
        .where(INVOICE_DEDUCTION.INVOICE_ID.eq(invoiceId))
        .and(
            notExists(
                selectOne()
                    .from(CREDIT_NOTE_DEDUCTION)
                    .where(CREDIT_NOTE_DEDUCTION.INVOICE_ID.eq(INVOICE_DEDUCTION.INVOICE_ID))
                    .and(CREDIT_NOTE_DEDUCTION.POSITION.eq(INVOICE_DEDUCTION.POSITION))))
        .orderBy(INVOICE_DEDUCTION.POSITION)
        .fetch(
            row ->
                new Creditable.Off(
                    row.getPosition(),
                    row.getJobId(),
                    new VatGroup(row.getVatCategory(), row.getVatPercent(), row.getVatReason()),
                    Money.ofMinor(row.getNetMinor())));
  }

  private List<Creditable.Group> groups(long invoiceId) {
    Field<Long> net = credited(CREDIT_NOTE_VAT.NET_MINOR);
    Field<Long> vat = credited(CREDIT_NOTE_VAT.VAT_MINOR);
    return database
        .select(INVOICE_VAT.fields())
        .select(net, vat)
        .from(INVOICE_VAT)
        .where(INVOICE_VAT.INVOICE_ID.eq(invoiceId))
        .orderBy(INVOICE_VAT.PERCENT.desc(), INVOICE_VAT.CATEGORY, INVOICE_VAT.REASON)
        .fetch(
            row -> {
              var group = row.into(INVOICE_VAT);
              return new Creditable.Group(
                  new VatGroup(group.getCategory(), group.getPercent(), group.getReason()),
                  Money.ofMinor(group.getNetMinor() - row.get(net)),
                  Money.ofMinor(group.getVatMinor() - row.get(vat)));
            });
  }

  private static Field<Long> credited(Field<Long> amount) {
    return coalesce(
            field(
                select(sum(amount).cast(Long.class))
                    .from(CREDIT_NOTE_VAT)
                    .join(CREDIT_NOTE)
                    .on(CREDIT_NOTE.ID.eq(CREDIT_NOTE_VAT.CREDIT_NOTE_ID))
                    .where(CREDIT_NOTE.INVOICE_ID.eq(INVOICE_VAT.INVOICE_ID))
                    .and(CREDIT_NOTE_VAT.CATEGORY.eq(INVOICE_VAT.CATEGORY))
                    .and(CREDIT_NOTE_VAT.PERCENT.eq(INVOICE_VAT.PERCENT))
                    .and(CREDIT_NOTE_VAT.REASON.eq(INVOICE_VAT.REASON))),
            0L)
        .as("credited_" + amount.getName());
  }

  /** What an invoice is of each of its jobs. */
  Map<Long, Bill.Kind> kinds(long invoiceId) {
    return database
        .select(BILL.JOB_ID, BILL.KIND)
        .from(BILL)
        .where(BILL.INVOICE_ID.eq(invoiceId))
        .orderBy(BILL.JOB_ID)
        .fetchMap(BILL.JOB_ID, BILL.KIND);
  }

  /** Keeps a credit note exactly as it was shown, and all of its text; gives its id. */
  long insert(CreditNoteRecord row, Creditable.Credit credit, FrozenText.Frozen text) {
    long id =
        database
            .insertInto(CREDIT_NOTE)
            .set(row)
            .returning(CREDIT_NOTE.ID)
            .fetchSingle(CREDIT_NOTE.ID);
    database
        .insertInto(CREDIT_NOTE_TEXT)
        .set(CREDIT_NOTE_TEXT.CREDIT_NOTE_ID, id)
        .set(CREDIT_NOTE_TEXT.CONTENT, text.content())
        .set(CREDIT_NOTE_TEXT.CONTENT_HASH, text.hash())
        .execute();
    if (!credit.lines().isEmpty()) {
      database
          .insertInto(CREDIT_NOTE_LINE)
          .set(
              credit.lines().stream()
                  .map(
                      less ->
                          new CreditNoteLineRecord(
                              id,
                              row.getInvoiceId(),
                              (short) less.line().position(),
                              less.net().minor()))
                  .toList())
          .execute();
    }
    if (!credit.given().isEmpty()) {
      database
          .insertInto(CREDIT_NOTE_DEDUCTION)
          .set(
              credit.given().stream()
                  .map(
                      off ->
                          new CreditNoteDeductionRecord(
                              id, row.getInvoiceId(), (short) off.position()))
                  .toList())
          .execute();
    }
    if (!credit.vat().isEmpty()) {
      database
          .insertInto(CREDIT_NOTE_VAT)
          .set(credit.vat().stream().map(taxed -> vatRow(id, taxed)).toList())
          .execute();
    }
    return id;
  }

  private static CreditNoteVatRecord vatRow(long id, VatBreakdown.Taxed taxed) {
    return new CreditNoteVatRecord(
        id,
        taxed.group().category(),
        taxed.group().percent(),
        taxed.group().reason(),
        taxed.net().minor(),
        taxed.vat().minor());
  }
}
