package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.BILL;
import static app.pragmata.server.generated.Tables.CREDIT_NOTE;
import static app.pragmata.server.generated.Tables.CREDIT_NOTE_LINE;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.INVOICE_DEDUCTION;
import static app.pragmata.server.generated.Tables.INVOICE_LINE;
import static app.pragmata.server.generated.Tables.INVOICE_TEXT;
import static app.pragmata.server.generated.Tables.INVOICE_VAT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.RECEIPT_ALLOCATION;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.SALE;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Category;
import app.pragmata.core.Decimal;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.ChargeLine;
import app.pragmata.core.billing.Deduction;
import app.pragmata.core.billing.Priced;
import app.pragmata.core.billing.SaidVat;
import app.pragmata.core.billing.Unit;
import app.pragmata.core.company.Wording;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatCategory;
import app.pragmata.core.money.VatGroup;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.server.company.TaxedGroup;
import app.pragmata.server.generated.tables.records.BillRecord;
import app.pragmata.server.generated.tables.records.InvoiceDeductionRecord;
import app.pragmata.server.generated.tables.records.InvoiceLineRecord;
import app.pragmata.server.generated.tables.records.InvoiceRecord;
import app.pragmata.server.generated.tables.records.InvoiceTextRecord;
import app.pragmata.server.generated.tables.records.InvoiceVatRecord;
import app.pragmata.server.receipts.ReceiptStore;
import app.pragmata.server.records.FrozenText;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record1;
import org.jooq.Record2;
import org.jooq.Table;
import org.jooq.TableRecord;
import org.springframework.stereotype.Repository;

/** Posted invoices and what was credited and received of them. */
@Repository
class InvoiceStore {
  private static final int PORTION = 1_000;

  private final DSLContext database;

  InvoiceStore(DSLContext database) {
    this.database = database;
  }

  /** The invoices that charge a job, the first of them first. */
  List<BillingView.Invoice> listOfJob(long jobId, LocalDate today, Wording wording) {
    Condition ofThisJob = INVOICE_LINE.JOB_ID.eq(jobId);
    Field<List<BillingView.ChargedLine>> lines = lines(ofThisJob);
    Field<List<BillingView.Deducted>> billedBefore = billedBefore(jobId);
    Field<List<TaxedGroup>> vat = vat(wording);
    Field<List<BillingView.Credited>> credits = credits();
    Field<List<BillingView.Receipt>> receipts = receipts();
    var other = BILL.as("other");
    Field<List<Long>> otherJobs =
        multiset(
                select(JOB.NUMBER)
                    .from(other)
                    .join(JOB)
                    .on(JOB.ID.eq(other.JOB_ID))
                    .where(other.INVOICE_ID.eq(INVOICE.ID).and(other.JOB_ID.ne(jobId)))
                    .orderBy(JOB.NUMBER))
            .as("other_jobs")
            .convertFrom(rows -> rows.map(Record1::value1));
    return database
        .select(INVOICE.fields())
        .select(RECEIVABLE.VERSION, RECEIVABLE.OWED_MINOR, RECEIVABLE.CREDITED_MINOR)
        .select(BILL.KIND, BILL.NET_MINOR, BILL.DEDUCTED_MINOR)
        .select(lines, billedBefore, otherJobs, vat, credits, receipts)
        .from(BILL)
        .join(INVOICE)
        .on(INVOICE.ID.eq(BILL.INVOICE_ID))
        .join(RECEIVABLE)
        .on(RECEIVABLE.INVOICE_ID.eq(INVOICE.ID))
        .where(BILL.JOB_ID.eq(jobId))
        .orderBy(INVOICE.ID)
        .fetch(
            row -> {
              InvoiceRecord invoice = row.into(INVOICE);
              long owed = row.get(RECEIVABLE.OWED_MINOR);
              return new BillingView.Invoice(
                  invoice.getId(),
                  invoice.getNumber(),
                  row.get(RECEIVABLE.VERSION),
                  invoice.getInvoiceDate(),
                  invoice.getDueDate(),
                  owed > 0 && invoice.getDueDate().isBefore(today),
                  row.get(BILL.KIND),
                  row.get(lines),
                  row.get(billedBefore),
                  row.get(otherJobs),
                  invoice.getNetMinor() - row.get(BILL.NET_MINOR) + row.get(BILL.DEDUCTED_MINOR),
                  row.get(vat),
                  invoice.getNetMinor(),
                  invoice.getGrossMinor(),
                  row.get(credits),
                  row.get(RECEIVABLE.CREDITED_MINOR),
                  owed,
                  row.get(receipts));
            });
  }

  private static Field<List<BillingView.ChargedLine>> lines(Condition which) {
    return multiset(
            select(
                    INVOICE_LINE.POSITION,
                    INVOICE_LINE.CATEGORY,
                    INVOICE_LINE.VISIT_ID,
                    INVOICE_LINE.OTHER_COST_ID,
                    INVOICE_LINE.DESCRIPTION,
                    INVOICE_LINE.QUANTITY,
                    INVOICE_LINE.UNIT,
                    INVOICE_LINE.UNIT_PRICE,
                    INVOICE_LINE.FULL_MINOR,
                    INVOICE_LINE.DISCOUNT_MINOR,
                    INVOICE_LINE.WARRANTY_SHARE,
                    INVOICE_LINE.WARRANTY_REDUCTION_MINOR,
                    INVOICE_LINE.WARRANTY_FORGONE_MINOR,
                    INVOICE_LINE.DISCOUNT_OF_WHOLE_MINOR,
                    INVOICE_LINE.CUT_MINOR,
                    INVOICE_LINE.NET_MINOR,
                    INVOICE_LINE.VAT_CATEGORY,
                    INVOICE_LINE.VAT_PERCENT,
                    INVOICE_LINE.VAT_REASON,
                    INVOICE_LINE.VAT_SAID_BY)
                .from(INVOICE_LINE)
                .where(INVOICE_LINE.INVOICE_ID.eq(INVOICE.ID).and(which))
                .orderBy(INVOICE_LINE.POSITION))
        .as("lines")
        .convertFrom(rows -> rows.map(mapping(InvoiceStore::line)));
  }

  private static Field<List<BillingView.Deducted>> billedBefore(long jobId) {
    var before = INVOICE.as("before");
    return multiset(
            select(
                    before.NUMBER,
                    INVOICE_DEDUCTION.NET_MINOR,
                    INVOICE_DEDUCTION.VAT_CATEGORY,
                    INVOICE_DEDUCTION.VAT_PERCENT,
                    INVOICE_DEDUCTION.VAT_REASON)
                .from(INVOICE_DEDUCTION)
                .join(before)
                .on(before.ID.eq(INVOICE_DEDUCTION.STAGE_INVOICE_ID))
                .where(INVOICE_DEDUCTION.INVOICE_ID.eq(INVOICE.ID))
                .and(INVOICE_DEDUCTION.JOB_ID.eq(jobId))
                .orderBy(INVOICE_DEDUCTION.POSITION))
        .as("billed_before")
        .convertFrom(
            rows ->
                rows.map(
                    mapping(
                        (number, net, category, percent, reason) ->
                            new BillingView.Deducted(
                                number, net, category, Decimal.text(percent), reason))));
  }

  private static Field<List<TaxedGroup>> vat(Wording wording) {
    return multiset(
            select(
                    INVOICE_VAT.CATEGORY,
                    INVOICE_VAT.PERCENT,
                    INVOICE_VAT.REASON,
                    INVOICE_VAT.NET_MINOR,
                    INVOICE_VAT.VAT_MINOR)
                .from(INVOICE_VAT)
                .where(INVOICE_VAT.INVOICE_ID.eq(INVOICE.ID))
                .orderBy(INVOICE_VAT.PERCENT.desc(), INVOICE_VAT.CATEGORY, INVOICE_VAT.REASON))
        .as("vat")
        .convertFrom(
            rows ->
                rows.map(
                    mapping(
                        (category, percent, reason, net, vat) ->
                            TaxedGroup.of(
                                new VatBreakdown.Taxed(
                                    new VatGroup(category, percent, reason),
                                    Money.ofMinor(net),
                                    Money.ofMinor(vat)),
                                wording))));
  }

  private static Field<List<BillingView.Credited>> credits() {
    return multiset(
            select(
                    CREDIT_NOTE.ID,
                    CREDIT_NOTE.NUMBER,
                    CREDIT_NOTE.KIND,
                    CREDIT_NOTE.CREDIT_DATE,
                    CREDIT_NOTE.REASON,
                    CREDIT_NOTE.NET_MINOR,
                    CREDIT_NOTE.GROSS_MINOR)
                .from(CREDIT_NOTE)
                .where(CREDIT_NOTE.INVOICE_ID.eq(INVOICE.ID))
                .orderBy(CREDIT_NOTE.ID))
        .as("credits")
        .convertFrom(rows -> rows.map(mapping(BillingView.Credited::new)));
  }

  private static Field<List<BillingView.Receipt>> receipts() {
    return multiset(
            select(
                    RECEIPT.ID,
                    RECEIPT.NUMBER,
                    RECEIPT.RECEIVED_ON,
                    RECEIPT_ALLOCATION.ALLOCATED_ON,
                    RECEIPT_ALLOCATION.AMOUNT_MINOR,
                    RECEIPT.METHOD)
                .from(RECEIPT_ALLOCATION)
                .join(RECEIPT)
                .on(RECEIPT.ID.eq(RECEIPT_ALLOCATION.RECEIPT_ID))
                .where(RECEIPT_ALLOCATION.INVOICE_ID.eq(INVOICE.ID))
                .and(ReceiptStore.standing())
                .orderBy(RECEIPT_ALLOCATION.ALLOCATED_ON, RECEIPT_ALLOCATION.ID))
        .as("receipts")
        .convertFrom(rows -> rows.map(mapping(BillingView.Receipt::new)));
  }

  private static BillingView.ChargedLine line(
      short position,
      Category category,
      Long visitId,
      Long otherCostId,
      String description,
      BigDecimal quantity,
      Unit unit,
      UnitPrice unitPrice,
      long full,
      long discount,
      BigDecimal warrantyShare,
      long warrantyReduction,
      long warrantyForgone,
      long discountOfWhole,
      long cut,
      long net,
      VatCategory vatCategory,
      BigDecimal vatPercent,
      String vatReason,
      SaidVat.By vatSaidBy) {
    return new BillingView.ChargedLine(
        position,
        category,
        visitId,
        otherCostId,
        description,
        new Priced(quantity, unit, unitPrice).quantity(),
        unit,
        unitPrice.major(),
        unit.priceBase(),
        full,
        discount,
        Decimal.text(warrantyShare.movePointRight(2)),
        warrantyReduction,
        warrantyForgone,
        discountOfWhole,
        cut,
        net,
        vatCategory,
        Decimal.text(vatPercent),
        vatReason,
        vatSaidBy);
  }

  /**
   * What is billed ahead of the work of jobs and not credited, by job: for each stage's invoice
   * what is in each VAT group.
   *
   * @param jobIds of jobs without a final invoice
   * @param treatments by code, as on the tax day of the final invoice
   */
  Map<Long, List<Deduction>> billedAhead(
      Collection<Long> jobIds, Function<String, VatTreatment> treatments) {
    Field<Long> left =
        sum(INVOICE_LINE.NET_MINOR.minus(
                coalesce(
                    field(
                        select(sum(CREDIT_NOTE_LINE.NET_MINOR).cast(Long.class))
                            .from(CREDIT_NOTE_LINE)
                            .where(CREDIT_NOTE_LINE.INVOICE_ID.eq(INVOICE_LINE.INVOICE_ID))
                            .and(CREDIT_NOTE_LINE.POSITION.eq(INVOICE_LINE.POSITION))),
                    0L)))
            .cast(Long.class);
    return database
        .select(INVOICE_LINE.JOB_ID, INVOICE.ID, INVOICE.NUMBER, INVOICE_LINE.VAT_CODE, left)
        .from(INVOICE_LINE)
        .join(INVOICE)
        .on(INVOICE.ID.eq(INVOICE_LINE.INVOICE_ID))
        .where(INVOICE_LINE.JOB_ID.in(jobIds).and(INVOICE_LINE.CATEGORY.isNull()))
        .groupBy(INVOICE_LINE.JOB_ID, INVOICE.ID, INVOICE.NUMBER, INVOICE_LINE.VAT_CODE)
        .having(left.gt(0L))
        .orderBy(INVOICE.ID, INVOICE_LINE.VAT_CODE)
        .fetchGroups(
            INVOICE_LINE.JOB_ID,
            row ->
                new Deduction(
                    row.value2(),
                    row.value3(),
                    Money.ofMinor(row.value5()),
                    treatments.apply(row.value4())));
  }

  /** The stages of a quote that are billed and not wholly credited. */
  Set<Integer> stagesBilled(long quoteId) {
    return database
        .select(BILL.STAGE.cast(Integer.class))
        .from(BILL)
        .where(BILL.QUOTE_ID.eq(quoteId))
        .and(BILL.NET_MINOR.gt(creditedOfBill()))
        .fetchSet(Record1::value1);
  }

  /** How a job is billed by invoices of which not all is credited. */
  Set<Bill.Kind> kindsStanding(long jobId) {
    return database
        .selectDistinct(BILL.KIND)
        .from(BILL)
        .where(BILL.JOB_ID.eq(jobId))
        .and(BILL.NET_MINOR.gt(creditedOfBill()))
        .fetchSet(BILL.KIND);
  }

  /** What of a bill's lines is credited. */
  private static Field<Long> creditedOfBill() {
    return coalesce(
        field(
            select(sum(CREDIT_NOTE_LINE.NET_MINOR).cast(Long.class))
                .from(CREDIT_NOTE_LINE)
                .join(INVOICE_LINE)
                .on(INVOICE_LINE.INVOICE_ID.eq(CREDIT_NOTE_LINE.INVOICE_ID))
                .and(INVOICE_LINE.POSITION.eq(CREDIT_NOTE_LINE.POSITION))
                .where(INVOICE_LINE.INVOICE_ID.eq(BILL.INVOICE_ID))
                .and(INVOICE_LINE.JOB_ID.eq(BILL.JOB_ID))),
        0L);
  }

  /**
   * What is charged for jobs for good, without VAT: not what is billed ahead of their work. Jobs
   * without any are left out.
   */
  Map<Long, Money> sales(Collection<Long> jobIds) {
    return database
        .select(SALE.JOB_ID, sum(SALE.NET_MINOR).cast(Long.class))
        .from(SALE)
        .where(SALE.JOB_ID.in(jobIds))
        .groupBy(SALE.JOB_ID)
        .fetchMap(Record2::value1, row -> Money.ofMinor(row.value2()));
  }

  /** The number of an invoice that there is. */
  long getNumber(long id) {
    return database
        .select(INVOICE.NUMBER)
        .from(INVOICE)
        .where(INVOICE.ID.eq(id))
        .fetchSingle(INVOICE.NUMBER);
  }

  /** Keeps invoices exactly as they were shown, and all of their text; gives their ids. */
  List<Long> insert(
      List<InvoiceRecord> rows, List<InvoicePosting.ToPost> toPost, List<FrozenText.Frozen> texts) {
    var ids = new ArrayList<Long>();
    inPortions(
        rows,
        portion ->
            ids.addAll(
                database.insertInto(INVOICE).set(portion).returning(INVOICE.ID).fetch(INVOICE.ID)));
    var frozen = new ArrayList<InvoiceTextRecord>();
    var bills = new ArrayList<BillRecord>();
    var lines = new ArrayList<InvoiceLineRecord>();
    var deductions = new ArrayList<InvoiceDeductionRecord>();
    var groups = new ArrayList<InvoiceVatRecord>();
    for (int i = 0; i < ids.size(); i++) {
      long id = ids.get(i);
      frozen.add(new InvoiceTextRecord(id, texts.get(i).content(), texts.get(i).hash()));
      short line = 0;
      short deduction = 0;
      for (JobBill bill : toPost.get(i).bills()) {
        bills.add(billRow(id, bill));
        for (ChargeLine charged : bill.bill().lines()) {
          lines.add(lineRow(id, ++line, bill, charged));
        }
        for (Deduction off : bill.bill().deductions()) {
          deductions.add(deductionRow(id, ++deduction, bill, off));
        }
      }
      toPost.get(i).draft().vat().groups().forEach(taxed -> groups.add(vatRow(id, taxed)));
    }
    insert(INVOICE_TEXT, frozen);
    insert(BILL, bills);
    insert(INVOICE_LINE, lines);
    insert(INVOICE_DEDUCTION, deductions);
    insert(INVOICE_VAT, groups);
    return ids;
  }

  private <R extends TableRecord<R>> void insert(Table<R> table, List<R> rows) {
    inPortions(rows, portion -> database.insertInto(table).set(portion).execute());
  }

  private static <T> void inPortions(List<T> all, Consumer<List<T>> work) {
    for (int from = 0; from < all.size(); from += PORTION) {
      work.accept(all.subList(from, Math.min(from + PORTION, all.size())));
    }
  }

  private static BillRecord billRow(long invoiceId, JobBill bill) {
    var row = new BillRecord();
    row.setInvoiceId(invoiceId);
    row.setJobId(bill.job().job().id());
    row.setKind(bill.bill().kind());
    row.setBillingBasis(bill.basis());
    row.setQuoteId(bill.stage() == null ? null : bill.stage().quoteId());
    row.setStage(bill.stage() == null ? null : (short) bill.stage().position());
    row.setNetMinor(bill.bill().net().minor());
    row.setDeductedMinor(bill.bill().deducted().minor());
    return row;
  }

  private static InvoiceLineRecord lineRow(
      long invoiceId, short position, JobBill bill, ChargeLine line) {
    var row = new InvoiceLineRecord();
    row.setInvoiceId(invoiceId);
    row.setPosition(position);
    row.setJobId(bill.job().job().id());
    row.setVisitId(line.of() instanceof ChargeLine.Of.Visit visit ? visit.id() : null);
    row.setOtherCostId(line.of() instanceof ChargeLine.Of.OtherCost other ? other.id() : null);
    row.setCategory(line.category());
    row.setDescription(line.description());
    row.setQuantity(line.priced().quantity());
    row.setUnit(line.priced().unit());
    row.setPriceBase((short) line.priced().unit().priceBase());
    row.setUnitPrice(line.priced().price());
    row.setFullMinor(line.full().minor());
    row.setDiscountMinor(line.reductions().discount().minor());
    row.setWarrantyShare(line.reductions().warrantyShare().fraction());
    row.setWarrantyReductionMinor(line.reductions().warranty().minor());
    row.setWarrantyForgoneMinor(line.reductions().forgone().minor());
    row.setDiscountOfWholeMinor(line.reductions().discountOfWhole().minor());
    row.setCutMinor(line.cut().minor());
    row.setNetMinor(line.net().minor());
    row.setVatCode(line.vatTreatment().code());
    row.setVatCategory(line.vatTreatment().group().category());
    row.setVatPercent(line.vatTreatment().group().percent());
    row.setVatReason(line.vatTreatment().group().reason());
    row.setVatSaidBy(line.vat().by());
    return row;
  }

  private static InvoiceDeductionRecord deductionRow(
      long invoiceId, short position, JobBill bill, Deduction off) {
    return new InvoiceDeductionRecord(
        invoiceId,
        position,
        bill.job().job().id(),
        off.invoiceId(),
        off.vatTreatment().code(),
        off.vatTreatment().group().category(),
        off.vatTreatment().group().percent(),
        off.vatTreatment().group().reason(),
        off.net().minor());
  }

  private static InvoiceVatRecord vatRow(long invoiceId, VatBreakdown.Taxed taxed) {
    return new InvoiceVatRecord(
        invoiceId,
        taxed.group().category(),
        taxed.group().percent(),
        taxed.group().reason(),
        taxed.net().minor(),
        taxed.vat().minor());
  }
}
