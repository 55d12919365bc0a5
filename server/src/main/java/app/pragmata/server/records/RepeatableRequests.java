package app.pragmata.server.records;

import static app.pragmata.server.generated.Tables.REPEATABLE_REQUEST;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.time.Duration;
import java.time.Instant;
import java.util.function.LongSupplier;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/**
 * Lets a request that makes a document or moves money be sent again: the same key with the same
 * content gives the same result and does nothing more, the same key with other content is refused.
 */
@Repository
public class RepeatableRequests implements Retention.KeptForAWhile {
  /** So long a lost answer can be asked for again. */
  private static final Duration KEPT = Duration.ofDays(30);

  private final DSLContext database;

  RepeatableRequests(DSLContext database) {
    this.database = database;
  }

  /**
   * Does something once per person and key to a record that is there already, whose id is the
   * result; inside the caller's transaction, with one statement of its own.
   */
  public void once(
      Act act,
      @Nullable String key,
      String operation,
      Object content,
      long recordId,
      Runnable work) {
    if (isFirst(act, key, operation, content, recordId)) {
      work.run();
    }
  }

  /**
   * Runs the work once per person and key, inside the caller's transaction. A second request with
   * the same key waits here until the first has committed.
   *
   * @param key the request's Idempotency-Key
   * @param content what was asked for, to tell a repeat from a clash
   * @param work gives the id of what it made
   */
  public long once(
      Act act, @Nullable String key, String operation, Object content, LongSupplier work) {
    if (!isFirst(act, key, operation, content, null)) {
      return resultOfTheFirst(act, key, operation, content);
    }
    long result = work.getAsLong();
    database
        .update(REPEATABLE_REQUEST)
        .set(REPEATABLE_REQUEST.RESULT_ID, result)
        .where(REPEATABLE_REQUEST.PERSON_ID.eq(act.personId()).and(REPEATABLE_REQUEST.KEY.eq(key)))
        .execute();
    return result;
  }

  @Override
  public void forget(Instant now) {
    database
        .deleteFrom(REPEATABLE_REQUEST)
        .where(REPEATABLE_REQUEST.AT.lt(now.minus(KEPT)))
        .execute();
  }

  private boolean isFirst(
      Act act, @Nullable String key, String operation, Object content, @Nullable Long result) {
    if (key == null || key.length() < 8 || key.length() > 100) {
      throw new Refused(
          Rule.MISSING,
          "This request needs an Idempotency-Key of 8 to 100 characters. Reload the page.");
    }
    int fresh =
        database
            .insertInto(REPEATABLE_REQUEST)
            .set(REPEATABLE_REQUEST.PERSON_ID, act.personId())
            .set(REPEATABLE_REQUEST.KEY, key)
            .set(REPEATABLE_REQUEST.OPERATION, operation)
            .set(REPEATABLE_REQUEST.CONTENT, content.toString())
            .set(REPEATABLE_REQUEST.RESULT_ID, result)
            .set(REPEATABLE_REQUEST.AT, act.at())
            .onConflictDoNothing()
            .execute();
    if (fresh == 0) {
      resultOfTheFirst(act, key, operation, content);
    }
    return fresh == 1;
  }

  /** What the first request made; refused when it asked for something else. */
  private long resultOfTheFirst(Act act, @Nullable String key, String operation, Object content) {
    var first =
        database
            .selectFrom(REPEATABLE_REQUEST)
            .where(
                REPEATABLE_REQUEST.PERSON_ID.eq(act.personId()).and(REPEATABLE_REQUEST.KEY.eq(key)))
            .fetchSingle();
    if (!first.getOperation().equals(operation) || !first.getContent().equals(content.toString())) {
      throw new Refused(
          Rule.REPEATED_KEY_WITH_OTHER_CONTENT,
          "This was already sent with other content. Reload the page to see what was stored.");
    }
    return first.getResultId();
  }
}
