package app.pragmata.server.records;

import static app.pragmata.server.generated.Tables.NUMBER_SERIES;

import app.pragmata.core.Coded;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/**
 * Gives document numbers without gaps: the series waits until whoever took a number has committed
 * or given it back.
 */
@Repository
public class NumberSeries {
  /** What is numbered. */
  public enum Series implements Coded {
    CUSTOMER,
    QUOTE,
    JOB,
    INVOICE,
    CREDIT_NOTE,
    RECEIPT,
    AGREEMENT,
    JOURNAL
  }

  private final DSLContext database;

  NumberSeries(DSLContext database) {
    this.database = database;
  }

  /** The next number, inside the caller's transaction. */
  public long next(Series series) {
    return nextBlock(series, 1);
  }

  /** The first of so many numbers in a row, inside the caller's transaction. */
  public long nextBlock(Series series, int count) {
    Long after =
        database
            .update(NUMBER_SERIES)
            .set(NUMBER_SERIES.NEXT_NUMBER, NUMBER_SERIES.NEXT_NUMBER.plus(count))
            .where(NUMBER_SERIES.SERIES.eq(series.code()))
            .returning(NUMBER_SERIES.NEXT_NUMBER)
            .fetchSingle(NUMBER_SERIES.NEXT_NUMBER);
    return after - count;
  }

  /** The number that would be given now; somebody else may still take it first. */
  public long expected(Series series) {
    return database
        .select(NUMBER_SERIES.NEXT_NUMBER)
        .from(NUMBER_SERIES)
        .where(NUMBER_SERIES.SERIES.eq(series.code()))
        .fetchSingle(NUMBER_SERIES.NEXT_NUMBER);
  }
}
