package app.pragmata.server.finding;

import app.pragmata.core.Coded;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Vocabulary;
import java.time.LocalDate;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** All quotes, jobs and invoices of a customer, the newest first. */
@RestController
class DocumentsApi {
  /**
   * A document.
   *
   * @param state of the quote or of the job's work; of an invoice, open or settled
   * @param amountMinor net of a quote, gross of an invoice; null for a job
   */
  record Document(
      DocumentKind kind,
      long id,
      long number,
      LocalDate day,
      String title,
      DocumentState state,
      @Nullable Long amountMinor) {}

  /** A page of documents; {@code next} asks for the one after it, null on the last. */
  record DocumentPage(List<Document> rows, @Nullable String next) {}

  private static final int PAGE = 50;

  private static final String SQL =
      Vocabulary.inSql(
          """
      select kind, id, number, day, title, state, amount from (
        select :QUOTE as kind, id, number, (created_at at time zone {1})::date as day, title, state,
            net_minor as amount
          from quote where customer_id = {0}
        union all
        select :JOB, id, number, (created_at at time zone {1})::date, title, state, null
          from job where customer_id = {0}
        union all
        select :INVOICE, i.id, i.number, i.invoice_date,
            (select string_agg(j.title, ', ' order by j.number) from receivable_job b join job j on j.id = b.job_id where b.invoice_id = i.id),
            case when r.owed_minor > 0 then :OPEN else :SETTLED end, i.gross_minor
          from invoice i join receivable r on r.invoice_id = i.id where i.customer_id = {0}
      ) document
      where (day, kind, id) < ({2}, {3}, {4})
      order by day desc, kind desc, id desc limit {5}
      """,
          DocumentKind.class, DocumentState.class);

  private static final LocalDate AFTER_ALL = LocalDate.of(9999, 12, 31);

  private final DSLContext database;

  DocumentsApi(DSLContext database) {
    this.database = database;
  }

  @GetMapping("/api/customers/{id}/documents")
  DocumentPage listDocuments(
      Act act, @PathVariable long id, @RequestParam(defaultValue = "") String after) {
    List<Document> rows = list(act, id, after, PAGE + 1);
    if (rows.size() <= PAGE) {
      return new DocumentPage(rows, null);
    }
    Document last = rows.get(PAGE - 1);
    return new DocumentPage(
        rows.subList(0, PAGE), PageKey.of(last.day(), last.kind().code(), last.id()).text());
  }

  @GetMapping("/api/customers/{id}/documents/file")
  ResponseEntity<byte[]> downloadDocuments(
      Act act, @PathVariable long id, @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("documents", format)
        .head("Document", "Number", "Day", "Title", "State", "Amount")
        .rows(
            list(act, id, "", ListFile.MOST_ROWS),
            row ->
                new @Nullable Object[] {
                  row.kind().code(),
                  row.number(),
                  row.day(),
                  row.title(),
                  row.state().code().replace('_', ' '),
                  row.amountMinor() == null ? null : ListFile.amount(row.amountMinor())
                })
        .answer();
  }

  private List<Document> list(Act act, long customerId, String after, int most) {
    PageKey key = after.isEmpty() ? PageKey.of(AFTER_ALL, "", 0) : PageKey.parse(after, 3);
    return database
        .resultQuery(
            SQL, customerId, act.zone().getId(), key.day(0), key.text(1), key.number(2), most)
        .fetch(
            row ->
                new Document(
                    Coded.get(DocumentKind.class, row.get("kind", String.class)),
                    row.get("id", Long.class),
                    row.get("number", Long.class),
                    row.get("day", LocalDate.class),
                    row.get("title", String.class),
                    Coded.get(DocumentState.class, row.get("state", String.class)),
                    row.get("amount", Long.class)));
  }
}
