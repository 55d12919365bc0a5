package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.INVOICE_TEXT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.RECEIVABLE_JOB;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.http.AskedDays;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.FrozenText;
import java.time.LocalDate;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Invoices as they were posted, and what is owed on them. */
@RestController
class InvoicesApi {
  private static final int PAGE = 50;

  /** Whether money is still to come. */
  enum InvoiceState implements Coded {
    OPEN,
    /** Open past its due day. */
    LATE,
    SETTLED
  }

  /** An invoice in a list. */
  record InvoiceRow(
      long id,
      long number,
      long customerId,
      String customer,
      List<InvoiceJob> jobs,
      LocalDate invoiceDate,
      LocalDate dueDate,
      long netMinor,
      long vatMinor,
      long grossMinor,
      long creditedMinor,
      long owedMinor,
      int version) {}

  /** A job that an invoice charges. */
  record InvoiceJob(long id, long number) {}

  /** A page of invoices; {@code next} asks for the one after it, null on the last. */
  record InvoicePage(List<InvoiceRow> rows, @Nullable String next) {}

  /**
   * An invoice with its text.
   *
   * @param content the document as it was written down when it was posted; its SHA-256 in UTF-8 is
   *     the hash
   * @param left what of each line is not credited
   */
  record PostedInvoice(
      InvoiceRow row, InvoiceDocument document, String content, String hash, List<LineLeft> left) {}

  /** What of a line is not credited, without VAT. */
  record LineLeft(int position, long netMinor) {}

  private final DSLContext database;
  private final FrozenText texts;
  private final CreditStore credits;

  InvoicesApi(DSLContext database, FrozenText texts, CreditStore credits) {
    this.database = database;
    this.texts = texts;
    this.credits = credits;
  }

  /** Invoices, the newest first; what is left out does not matter, days are inclusive. */
  @GetMapping("/api/invoices")
  InvoicePage listInvoices(
      Act act,
      @RequestParam(required = false) @Nullable Long customerId,
      @RequestParam(required = false) @Nullable InvoiceState state,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "") String after) {
    Condition condition = AskedDays.read(act, from, to).contain(INVOICE.INVOICE_DATE);
    if (customerId != null) {
      condition = condition.and(INVOICE.CUSTOMER_ID.eq(customerId));
    }
    if (state != null) {
      condition =
          condition.and(
              switch (state) {
                case OPEN -> RECEIVABLE.OWED_MINOR.gt(0L);
                case LATE -> RECEIVABLE.OWED_MINOR.gt(0L).and(RECEIVABLE.DUE_DATE.lt(act.today()));
                case SETTLED -> RECEIVABLE.OWED_MINOR.eq(0L);
              });
    }
    if (!after.isEmpty()) {
      PageKey key = PageKey.parse(after, 2);
      condition =
          condition.and(row(INVOICE.INVOICE_DATE, INVOICE.ID).lt(key.day(0), key.number(1)));
    }
    List<InvoiceRow> rows = list(condition, PAGE + 1);
    if (rows.size() <= PAGE) {
      return new InvoicePage(rows, null);
    }
    InvoiceRow end = rows.get(PAGE - 1);
    return new InvoicePage(rows.subList(0, PAGE), PageKey.of(end.invoiceDate(), end.id()).text());
  }

  private List<InvoiceRow> list(Condition condition, int most) {
    Field<List<InvoiceJob>> jobs =
        multiset(
                select(JOB.ID, JOB.NUMBER)
                    .from(RECEIVABLE_JOB)
                    .join(JOB)
                    .on(JOB.ID.eq(RECEIVABLE_JOB.JOB_ID))
                    .where(RECEIVABLE_JOB.INVOICE_ID.eq(INVOICE.ID))
                    .orderBy(JOB.NUMBER))
            .convertFrom(found -> found.map(Records.mapping(InvoiceJob::new)));
    return database
        .select(
            INVOICE.ID,
            INVOICE.NUMBER,
            INVOICE.CUSTOMER_ID,
            CUSTOMER.NAME,
            jobs,
            INVOICE.INVOICE_DATE,
            INVOICE.DUE_DATE,
            INVOICE.NET_MINOR,
            INVOICE.VAT_MINOR,
            INVOICE.GROSS_MINOR,
            RECEIVABLE.CREDITED_MINOR,
            RECEIVABLE.OWED_MINOR,
            RECEIVABLE.VERSION)
        .from(INVOICE)
        .join(RECEIVABLE)
        .on(RECEIVABLE.INVOICE_ID.eq(INVOICE.ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(INVOICE.CUSTOMER_ID))
        .where(condition)
        .orderBy(INVOICE.INVOICE_DATE.desc(), INVOICE.ID.desc())
        .limit(most)
        .fetch(Records.mapping(InvoiceRow::new));
  }

  @GetMapping("/api/invoices/{id}")
  PostedInvoice getInvoice(@PathVariable long id) {
    InvoiceRow found =
        list(INVOICE.ID.eq(id), 1).stream().findFirst().orElseThrow(InvoicesApi::unknown);
    var text =
        database
            .select(INVOICE_TEXT.CONTENT, INVOICE_TEXT.CONTENT_HASH)
            .from(INVOICE_TEXT)
            .where(INVOICE_TEXT.INVOICE_ID.eq(id))
            .fetchSingle();
    return new PostedInvoice(
        found,
        texts.read(text.value1(), InvoiceDocument.class),
        text.value1(),
        text.value2(),
        credits.creditable(id).lines().stream()
            .map(line -> new LineLeft(line.position(), line.left().minor()))
            .toList());
  }

  static Refused unknown() {
    return new Refused(
        Rule.NOT_FOUND, "This invoice does not exist. Find the right one with / and its number.");
  }
}
