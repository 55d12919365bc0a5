package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.INVOICE_LINE;
import static app.pragmata.server.generated.Tables.INVOICE_TEXT;
import static app.pragmata.server.generated.Tables.INVOICE_VAT;
import static app.pragmata.server.generated.Tables.RECEIPT;
import static app.pragmata.server.generated.Tables.RECEIPT_ALLOCATION;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Category;
import app.pragmata.core.billing.ChargeLine;
import app.pragmata.core.billing.InvoiceDraft;
import app.pragmata.core.billing.Priced;
import app.pragmata.core.billing.Unit;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.server.generated.tables.records.InvoiceLineRecord;
import app.pragmata.server.generated.tables.records.InvoiceVatRecord;
import app.pragmata.server.receipts.ReceiptStore;
import app.pragmata.server.records.FrozenText;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Repository;

/** Posted invoices and what was received for them. */
@Repository
class InvoiceStore {
  private final DSLContext database;

  InvoiceStore(DSLContext database) {
    this.database = database;
  }

  /** The invoice of a job; empty while it has none. */
  Optional<BillingView.Invoice> findOfJob(long jobId, LocalDate today) {
    Field<List<BillingView.ChargedLine>> lines = lines();
    Field<List<BillingView.ChargedVat>> vat = vat();
    Field<List<BillingView.Receipt>> receipts = receipts();
    return database
        .select(INVOICE.fields())
        .select(RECEIVABLE.VERSION, RECEIVABLE.OWED_MINOR, lines, vat, receipts)
        .from(INVOICE)
        .join(RECEIVABLE)
        .on(RECEIVABLE.INVOICE_ID.eq(INVOICE.ID))
        .where(INVOICE.JOB_ID.eq(jobId))
        .fetchOptional(
            row -> {
              var invoice = row.into(INVOICE);
              long owed = row.get(RECEIVABLE.OWED_MINOR);
              return new BillingView.Invoice(
                  invoice.getId(),
                  invoice.getNumber(),
                  row.get(RECEIVABLE.VERSION),
                  invoice.getInvoiceDate(),
                  invoice.getDueDate(),
                  owed > 0 && invoice.getDueDate().isBefore(today),
                  row.get(lines),
                  row.get(vat),
                  invoice.getNetMinor(),
                  invoice.getGrossMinor(),
                  owed,
                  row.get(receipts));
            });
  }

  private static Field<List<BillingView.ChargedLine>> lines() {
    return multiset(
            select(
                    INVOICE_LINE.CATEGORY,
                    INVOICE_LINE.DESCRIPTION,
                    INVOICE_LINE.QUANTITY,
                    INVOICE_LINE.UNIT,
                    INVOICE_LINE.UNIT_PRICE,
                    INVOICE_LINE.FULL_MINOR,
                    INVOICE_LINE.DISCOUNT_MINOR,
                    INVOICE_LINE.WARRANTY_SHARE,
                    INVOICE_LINE.WARRANTY_REDUCTION_MINOR,
                    INVOICE_LINE.NET_MINOR,
                    INVOICE_LINE.VAT_CATEGORY,
                    INVOICE_LINE.VAT_PERCENT)
                .from(INVOICE_LINE)
                .where(INVOICE_LINE.INVOICE_ID.eq(INVOICE.ID))
                .orderBy(INVOICE_LINE.POSITION))
        .as("lines")
        .convertFrom(rows -> rows.map(mapping(InvoiceStore::line)));
  }

  private static Field<List<BillingView.ChargedVat>> vat() {
    return multiset(
            select(
                    INVOICE_VAT.CATEGORY,
                    INVOICE_VAT.PERCENT,
                    INVOICE_VAT.NET_MINOR,
                    INVOICE_VAT.VAT_MINOR)
                .from(INVOICE_VAT)
                .where(INVOICE_VAT.INVOICE_ID.eq(INVOICE.ID))
                .orderBy(INVOICE_VAT.PERCENT.desc()))
        .as("vat")
        .convertFrom(
            rows ->
                rows.map(
                    mapping(
                        (category, percent, net, vat) ->
                            new BillingView.ChargedVat(category, plain(percent), net, vat))));
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
                .orderBy(RECEIPT_ALLOCATION.ID))
        .as("receipts")
        .convertFrom(rows -> rows.map(mapping(BillingView.Receipt::new)));
  }

  private static BillingView.ChargedLine line(
      Category category,
      String description,
      BigDecimal quantity,
      Unit unit,
      UnitPrice unitPrice,
      long full,
      long discount,
      BigDecimal warrantyShare,
      long warrantyReduction,
      long net,
      String vatCategory,
      BigDecimal vatPercent) {
    return new BillingView.ChargedLine(
        category,
        description,
        new Priced(quantity, unit, unitPrice).quantity(),
        unit,
        unitPrice.major(),
        unit.priceBase(),
        full,
        discount,
        plain(warrantyShare.movePointRight(2)),
        warrantyReduction,
        net,
        vatCategory,
        plain(vatPercent));
  }

  static String plain(BigDecimal number) {
    return number.stripTrailingZeros().toPlainString();
  }

  /** Keeps the lines and the VAT of an invoice exactly as they were shown, and all of its text. */
  void insertContent(long invoiceId, InvoiceDraft draft, FrozenText.Frozen text) {
    database
        .insertInto(INVOICE_TEXT)
        .set(INVOICE_TEXT.INVOICE_ID, invoiceId)
        .set(INVOICE_TEXT.CONTENT, text.content())
        .set(INVOICE_TEXT.CONTENT_HASH, text.hash())
        .execute();
    var lines = new ArrayList<InvoiceLineRecord>();
    for (ChargeLine line : draft.lines()) {
      var row = new InvoiceLineRecord();
      row.setInvoiceId(invoiceId);
      row.setPosition((short) (lines.size() + 1));
      row.setCategory(line.category());
      row.setDescription(line.description());
      row.setQuantity(line.priced().quantity());
      row.setUnit(line.priced().unit());
      row.setPriceBase((short) line.priced().unit().priceBase());
      row.setUnitPrice(line.priced().price());
      row.setFullMinor(line.full().minor());
      row.setDiscountMinor(line.discount().minor());
      row.setWarrantyShare(line.warrantyShare().fraction());
      row.setWarrantyReductionMinor(line.warrantyReduction().minor());
      row.setNetMinor(line.net().minor());
      row.setVatCode(line.vatRate().code());
      row.setVatCategory(line.vatRate().category());
      row.setVatPercent(line.vatRate().percent());
      lines.add(row);
    }
    database.insertInto(INVOICE_LINE).set(lines).execute();
    List<InvoiceVatRecord> rates =
        draft.vat().rates().stream().map(rate -> vatRow(invoiceId, rate)).toList();
    database.insertInto(INVOICE_VAT).set(rates).execute();
  }

  private static InvoiceVatRecord vatRow(long invoiceId, VatBreakdown.PerRate rate) {
    return new InvoiceVatRecord(
        invoiceId,
        rate.rate().code(),
        rate.rate().category(),
        rate.rate().percent(),
        rate.net().minor(),
        rate.vat().minor());
  }
}
