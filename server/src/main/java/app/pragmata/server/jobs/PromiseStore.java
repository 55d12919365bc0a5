package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.ACCEPTED_STAGE;
import static app.pragmata.server.generated.Tables.LINE_DONE;
import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.Category;
import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.costing.WorkAhead.PromisedWork;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.PromisedStage;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.AcceptedStageRecord;
import app.pragmata.server.generated.tables.records.PromisedLineRecord;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.SelectField;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/**
 * What jobs were promised: kept as it was accepted, whatever becomes of the quotes. A job's promise
 * is the sum of its accepted quotes.
 */
@Repository
public class PromiseStore {
  private static final LineColumns COLUMNS = LineColumns.of(PROMISED_LINE);

  /** An accepted quote. */
  public record Accepted(
      long quoteId,
      long number,
      PromiseKind promise,
      Instant acceptedAt,
      String acceptedBy,
      LocalDate quotedOn,
      long netMinor) {}

  /**
   * What one of them promises, line by line.
   *
   * @param stages in which a fixed price falls due; none where all does at the end
   * @param work how far its lines of labour are, in their order
   */
  public record Promise(
      Accepted quote, List<QuoteLine> lines, List<PromisedStage> stages, List<PromisedWork> work) {}

  private static final SelectField<Accepted> QUOTE =
      row(
              ACCEPTED_QUOTE.QUOTE_ID,
              ACCEPTED_QUOTE.NUMBER,
              ACCEPTED_QUOTE.PROMISE,
              ACCEPTED_QUOTE.ACCEPTED_AT,
              ACCEPTED_QUOTE.ACCEPTED_BY,
              ACCEPTED_QUOTE.QUOTED_ON,
              ACCEPTED_QUOTE.NET_MINOR)
          .mapping(Accepted::new);

  private final DSLContext database;
  private final CompanyStore companies;

  PromiseStore(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** Adds what an accepted quote promises to the job's promise. */
  void add(long jobId, Accepted quote, List<QuoteLine> lines, List<PromisedStage> stages) {
    database
        .insertInto(ACCEPTED_QUOTE)
        .set(ACCEPTED_QUOTE.QUOTE_ID, quote.quoteId())
        .set(ACCEPTED_QUOTE.JOB_ID, jobId)
        .set(ACCEPTED_QUOTE.NUMBER, quote.number())
        .set(ACCEPTED_QUOTE.PROMISE, quote.promise())
        .set(ACCEPTED_QUOTE.ACCEPTED_AT, quote.acceptedAt())
        .set(ACCEPTED_QUOTE.ACCEPTED_BY, quote.acceptedBy())
        .set(ACCEPTED_QUOTE.QUOTED_ON, quote.quotedOn())
        .set(ACCEPTED_QUOTE.NET_MINOR, quote.netMinor())
        .execute();
    var rows = new ArrayList<PromisedLineRecord>();
    for (QuoteLine line : lines) {
      var row = new PromisedLineRecord();
      row.setQuoteId(quote.quoteId());
      row.setPosition((short) (rows.size() + 1));
      row.setCategory(line.category());
      COLUMNS.write(row, line);
      row.setVatPercent(line.vatTreatment().group().percent());
      rows.add(row);
    }
    if (!rows.isEmpty()) {
      database.insertInto(PROMISED_LINE).set(rows).execute();
    }
    if (!stages.isEmpty()) {
      database
          .insertInto(ACCEPTED_STAGE)
          .set(
              stages.stream()
                  .map(
                      stage ->
                          new AcceptedStageRecord(
                              quote.quoteId(),
                              (short) stage.position(),
                              stage.name(),
                              stage.net().minor()))
                  .toList())
          .execute();
    }
  }

  /**
   * Leaves to the customer what the warranty was to bear of a promised line, or puts the line back
   * under it when the reason is null; whether there is such a line of the job.
   */
  public boolean exclude(LockedJob job, long quoteId, int position, @Nullable String reason) {
    return database
            .update(PROMISED_LINE)
            .set(PROMISED_LINE.WARRANTY_EXCLUSION, reason)
            .where(PROMISED_LINE.QUOTE_ID.eq(quoteId))
            .and(PROMISED_LINE.POSITION.cast(Integer.class).eq(position))
            .and(
                PROMISED_LINE.QUOTE_ID.in(
                    select(ACCEPTED_QUOTE.QUOTE_ID)
                        .from(ACCEPTED_QUOTE)
                        .where(ACCEPTED_QUOTE.JOB_ID.eq(job.id()))))
            .and(PROMISED_LINE.WARRANTY_REDUCTION_MINOR.gt(0L))
            .execute()
        == 1;
  }

  /** The job of which the quote is a promise; empty while it is of none. */
  public Optional<Long> findJob(long quoteId) {
    return database
        .select(ACCEPTED_QUOTE.JOB_ID)
        .from(ACCEPTED_QUOTE)
        .where(ACCEPTED_QUOTE.QUOTE_ID.eq(quoteId))
        .fetchOptional(ACCEPTED_QUOTE.JOB_ID);
  }

  /** The kind of what a job promises: one straight from a call is taken for an estimate. */
  public static Field<PromiseKind> kind(Field<Long> jobId) {
    return coalesce(
        field(
            select(min(ACCEPTED_QUOTE.PROMISE))
                .from(ACCEPTED_QUOTE)
                .where(ACCEPTED_QUOTE.JOB_ID.eq(jobId))),
        inline(PromiseKind.ESTIMATE, ACCEPTED_QUOTE.PROMISE));
  }

  /** A job's accepted quotes, the first of them first; empty for one straight from a call. */
  public List<Accepted> list(long jobId) {
    return database
        .select(QUOTE)
        .from(ACCEPTED_QUOTE)
        .where(ACCEPTED_QUOTE.JOB_ID.eq(jobId))
        .orderBy(ACCEPTED_QUOTE.ACCEPTED_AT, ACCEPTED_QUOTE.QUOTE_ID)
        .fetch(row -> row.value1());
  }

  /**
   * What a job's accepted quotes promise, with the VAT percents of a tax day, nested into another
   * query.
   */
  public Field<List<Promise>> promises(Field<Long> jobId, LocalDate taxDay) {
    VatTreatments vat = companies.getCompany().terms().vat();
    Field<List<QuoteLine>> lines =
        multiset(
                select(PROMISED_LINE.CATEGORY)
                    .select(COLUMNS.all())
                    .from(PROMISED_LINE)
                    .where(PROMISED_LINE.QUOTE_ID.eq(ACCEPTED_QUOTE.QUOTE_ID))
                    .orderBy(PROMISED_LINE.POSITION))
            .as("lines")
            .convertFrom(
                rows ->
                    rows.map(
                        row ->
                            COLUMNS.read(
                                row,
                                row.get(PROMISED_LINE.CATEGORY),
                                code -> vat.on(code, taxDay))));
    Field<List<PromisedStage>> stages =
        multiset(
                select(ACCEPTED_STAGE.POSITION, ACCEPTED_STAGE.NAME, ACCEPTED_STAGE.NET_MINOR)
                    .from(ACCEPTED_STAGE)
                    .where(ACCEPTED_STAGE.QUOTE_ID.eq(ACCEPTED_QUOTE.QUOTE_ID))
                    .orderBy(ACCEPTED_STAGE.POSITION))
            .as("stages")
            .convertFrom(
                rows ->
                    rows.map(
                        row ->
                            new PromisedStage(
                                row.value1(), row.value2(), Money.ofMinor(row.value3()))));
    return multiset(
            select(QUOTE, lines, stages, work())
                .from(ACCEPTED_QUOTE)
                .where(ACCEPTED_QUOTE.JOB_ID.eq(jobId))
                .orderBy(ACCEPTED_QUOTE.ACCEPTED_AT, ACCEPTED_QUOTE.QUOTE_ID))
        .as("promises")
        .convertFrom(rows -> rows.map(mapping(Promise::new)));
  }

  private static Field<List<PromisedWork>> work() {
    return multiset(
            select(
                    PROMISED_LINE.MINUTES,
                    LinesDone.workedMinutes(),
                    field(
                        exists(
                            selectOne()
                                .from(LINE_DONE)
                                .where(LINE_DONE.PROMISED_LINE_ID.eq(PROMISED_LINE.ID)))))
                .from(PROMISED_LINE)
                .where(PROMISED_LINE.QUOTE_ID.eq(ACCEPTED_QUOTE.QUOTE_ID))
                .and(PROMISED_LINE.CATEGORY.eq(Category.LABOUR))
                .orderBy(PROMISED_LINE.POSITION))
        .as("work")
        .convertFrom(rows -> rows.map(mapping(PromisedWork::new)));
  }
}
