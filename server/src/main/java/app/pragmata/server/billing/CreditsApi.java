package app.pragmata.server.billing;

import static app.pragmata.server.generated.Tables.CREDIT_NOTE;
import static app.pragmata.server.generated.Tables.CREDIT_NOTE_TEXT;
import static app.pragmata.server.generated.Tables.INVOICE;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static org.jooq.impl.DSL.row;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.CreditKind;
import app.pragmata.server.http.AskedDays;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.FrozenText;
import app.pragmata.server.records.VersionStore;
import java.time.LocalDate;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Credit notes over HTTP. */
@RestController
class CreditsApi {
  private static final int PAGE = 50;

  /** A credit note in a list. */
  record CreditRow(
      long id,
      long number,
      long invoiceId,
      long invoiceNumber,
      long customerId,
      CreditKind kind,
      LocalDate creditDate,
      String reason,
      long netMinor,
      long vatMinor,
      long grossMinor) {}

  /** A page of credit notes; {@code next} asks for the one after it, null on the last. */
  record CreditPage(List<CreditRow> rows, @Nullable String next) {}

  /**
   * A credit note with its text.
   *
   * @param content the document as it was written down when it was posted; its SHA-256 in UTF-8 is
   *     the hash
   */
  record PostedCredit(CreditRow row, CreditDocument document, String content, String hash) {}

  /**
   * The credit note that was posted.
   *
   * @param invoiceVersion of what is owed on the credited invoice, as it is by now
   */
  record CreditMade(long id, int invoiceVersion) {}

  private final DSLContext database;
  private final FrozenText texts;
  private final CreditService service;
  private final VersionStore versions;

  CreditsApi(DSLContext database, FrozenText texts, CreditService service, VersionStore versions) {
    this.database = database;
    this.texts = texts;
    this.service = service;
    this.versions = versions;
  }

  /** Credits some of an invoice, or all of it. */
  @PostMapping("/api/invoices/{id}/credits")
  @Transactional
  CreditMade creditInvoice(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody CreditForm form) {
    return new CreditMade(
        service.credit(act, key, id, form), versions.version(RECEIVABLE.INVOICE_ID, id));
  }

  /** Credit notes, the newest first; what is left out does not matter, days are inclusive. */
  @GetMapping("/api/credits")
  CreditPage listCredits(
      Act act,
      @RequestParam(required = false) @Nullable Long customerId,
      @RequestParam(required = false) @Nullable Long invoiceId,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(defaultValue = "") String after) {
    Condition condition = AskedDays.read(act, from, to).contain(CREDIT_NOTE.CREDIT_DATE);
    if (customerId != null) {
      condition = condition.and(INVOICE.CUSTOMER_ID.eq(customerId));
    }
    if (invoiceId != null) {
      condition = condition.and(CREDIT_NOTE.INVOICE_ID.eq(invoiceId));
    }
    if (!after.isEmpty()) {
      PageKey key = PageKey.parse(after, 2);
      condition =
          condition.and(row(CREDIT_NOTE.CREDIT_DATE, CREDIT_NOTE.ID).lt(key.day(0), key.number(1)));
    }
    List<CreditRow> rows = list(condition, PAGE + 1);
    if (rows.size() <= PAGE) {
      return new CreditPage(rows, null);
    }
    CreditRow end = rows.get(PAGE - 1);
    return new CreditPage(rows.subList(0, PAGE), PageKey.of(end.creditDate(), end.id()).text());
  }

  private List<CreditRow> list(Condition condition, int most) {
    return database
        .select(
            CREDIT_NOTE.ID,
            CREDIT_NOTE.NUMBER,
            INVOICE.ID,
            INVOICE.NUMBER,
            INVOICE.CUSTOMER_ID,
            CREDIT_NOTE.KIND,
            CREDIT_NOTE.CREDIT_DATE,
            CREDIT_NOTE.REASON,
            CREDIT_NOTE.NET_MINOR,
            CREDIT_NOTE.VAT_MINOR,
            CREDIT_NOTE.GROSS_MINOR)
        .from(CREDIT_NOTE)
        .join(INVOICE)
        .on(INVOICE.ID.eq(CREDIT_NOTE.INVOICE_ID))
        .where(condition)
        .orderBy(CREDIT_NOTE.CREDIT_DATE.desc(), CREDIT_NOTE.ID.desc())
        .limit(most)
        .fetch(Records.mapping(CreditRow::new));
  }

  @GetMapping("/api/credits/{id}")
  PostedCredit getCredit(@PathVariable long id) {
    CreditRow found =
        list(CREDIT_NOTE.ID.eq(id), 1).stream()
            .findFirst()
            .orElseThrow(
                () ->
                    new Refused(
                        Rule.NOT_FOUND,
                        "This credit note does not exist. Choose one of the invoice's."));
    var text =
        database
            .select(CREDIT_NOTE_TEXT.CONTENT, CREDIT_NOTE_TEXT.CONTENT_HASH)
            .from(CREDIT_NOTE_TEXT)
            .where(CREDIT_NOTE_TEXT.CREDIT_NOTE_ID.eq(id))
            .fetchSingle();
    return new PostedCredit(
        found, texts.read(text.value1(), CreditDocument.class), text.value1(), text.value2());
  }
}
