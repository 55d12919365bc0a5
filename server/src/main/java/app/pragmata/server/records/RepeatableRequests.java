package app.pragmata.server.records;

import static app.pragmata.server.generated.Tables.REPEATABLE_REQUEST;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.util.function.LongSupplier;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/**
 * Lets a request that makes a document or moves money be sent again: the same key with the same
 * content gives the same result and does nothing more, the same key with other content is refused.
 */
@Repository
public class RepeatableRequests {
  private final DSLContext database;

  RepeatableRequests(DSLContext database) {
    this.database = database;
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
    if (key == null || key.length() < 8 || key.length() > 100) {
      throw new Refused(
          Rule.MISSING,
          "This request needs an Idempotency-Key of 8 to 100 characters. Reload the page.");
    }
    String asked = content.toString();
    int fresh =
        database
            .insertInto(REPEATABLE_REQUEST)
            .set(REPEATABLE_REQUEST.PERSON_ID, act.personId())
            .set(REPEATABLE_REQUEST.KEY, key)
            .set(REPEATABLE_REQUEST.OPERATION, operation)
            .set(REPEATABLE_REQUEST.CONTENT, asked)
            .set(REPEATABLE_REQUEST.AT, act.at())
            .onConflictDoNothing()
            .execute();
    if (fresh == 0) {
      return resultOfTheFirst(act, key, operation, asked);
    }
    long result = work.getAsLong();
    database
        .update(REPEATABLE_REQUEST)
        .set(REPEATABLE_REQUEST.RESULT_ID, result)
        .where(REPEATABLE_REQUEST.PERSON_ID.eq(act.personId()).and(REPEATABLE_REQUEST.KEY.eq(key)))
        .execute();
    return result;
  }

  private long resultOfTheFirst(Act act, String key, String operation, String asked) {
    var first =
        database
            .selectFrom(REPEATABLE_REQUEST)
            .where(
                REPEATABLE_REQUEST.PERSON_ID.eq(act.personId()).and(REPEATABLE_REQUEST.KEY.eq(key)))
            .fetchSingle();
    if (!first.getOperation().equals(operation) || !first.getContent().equals(asked)) {
      throw new Refused(
          Rule.REPEATED_KEY_WITH_OTHER_CONTENT,
          "This was already sent with other content. Reload the page to see what was stored.");
    }
    return first.getResultId();
  }
}
