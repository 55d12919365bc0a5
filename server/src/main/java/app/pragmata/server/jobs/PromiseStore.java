package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.company.VatRates;
import app.pragmata.core.jobs.PromisedLine;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.PromisedLineRecord;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.springframework.stereotype.Repository;

/** What jobs were promised: kept as it was accepted, whatever becomes of the quotes. */
@Repository
public class PromiseStore {
  private static final LineColumns COLUMNS = LineColumns.of(PROMISED_LINE);

  private final DSLContext database;
  private final CompanyStore companies;

  PromiseStore(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** Adds what an accepted quote promises to the job's promise. */
  void add(long jobId, long quoteId, List<PromisedLine> lines) {
    var rows = new ArrayList<PromisedLineRecord>();
    for (PromisedLine promised : lines) {
      var row = new PromisedLineRecord();
      row.setJobId(jobId);
      row.setQuoteId(quoteId);
      row.setPosition((short) (rows.size() + 1));
      row.setCategory(promised.line().category());
      COLUMNS.write(row, promised.line());
      row.setVatPercent(promised.line().vatRate().percent());
      row.setDiscountMinor(promised.discount().minor());
      row.setDiscountOfWholeMinor(promised.discountOfWhole().minor());
      rows.add(row);
    }
    if (!rows.isEmpty()) {
      database.insertInto(PROMISED_LINE).set(rows).execute();
    }
  }

  /** A job's promise with the VAT percents of a tax day, nested into another query. */
  public Field<List<QuoteLine>> lines(Field<Long> jobId, LocalDate taxDay) {
    VatRates vat = companies.getCompany().terms().vat();
    return multiset(
            select(PROMISED_LINE.CATEGORY)
                .select(COLUMNS.all())
                .from(PROMISED_LINE)
                .where(PROMISED_LINE.JOB_ID.eq(jobId))
                .orderBy(PROMISED_LINE.QUOTE_ID, PROMISED_LINE.POSITION))
        .as("promise")
        .convertFrom(
            rows ->
                rows.map(
                    row ->
                        COLUMNS.read(
                            row, row.get(PROMISED_LINE.CATEGORY), code -> vat.on(code, taxDay))));
  }
}
