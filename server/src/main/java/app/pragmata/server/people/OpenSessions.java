package app.pragmata.server.people;

import static app.pragmata.server.generated.Tables.SIGN_IN;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.name;
import static org.jooq.impl.DSL.table;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.records.Retention.KeptForAWhile;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;

/** Where somebody is signed in, and an end to it. */
@Repository
public class OpenSessions implements KeptForAWhile {
  /**
   * A session by the company's clock.
   *
   * @param browser what it says of itself
   * @param lastSeenAt to the minute
   * @param here whether it is the one that asks
   */
  record OpenSession(
      long id,
      LocalDateTime signedInAt,
      LocalDateTime lastSeenAt,
      String address,
      String browser,
      boolean here) {}

  private static final int LONGEST_BROWSER = 300;
  private static final Table<?> SESSIONS = table(name("spring_session"));
  private static final Field<String> SESSION_ID =
      field(name("spring_session", "session_id"), String.class);
  private static final Field<Long> LAST_ACCESS =
      field(name("spring_session", "last_access_time"), Long.class);

  private final DSLContext database;

  OpenSessions(DSLContext database) {
    this.database = database;
  }

  /** Notes from where a session is begun. */
  void note(String sessionId, long personId, HttpServletRequest request) {
    String browser =
        Objects.requireNonNullElse(request.getHeader("User-Agent"), "").replaceAll("\\p{Cc}", "");
    database
        .insertInto(SIGN_IN)
        .set(SIGN_IN.SESSION_ID, sessionId)
        .set(SIGN_IN.PERSON_ID, personId)
        .set(SIGN_IN.ADDRESS, request.getRemoteAddr())
        .set(SIGN_IN.BROWSER, browser.substring(0, Math.min(browser.length(), LONGEST_BROWSER)))
        .execute();
  }

  /** Somebody's, the one that was used last first. */
  List<OpenSession> list(long personId, String here, ZoneId zone) {
    return database
        .select(
            SIGN_IN.ID,
            SIGN_IN.SIGNED_IN_AT,
            LAST_ACCESS,
            SIGN_IN.ADDRESS,
            SIGN_IN.BROWSER,
            field(SIGN_IN.SESSION_ID.eq(here)))
        .from(SIGN_IN)
        .join(SESSIONS)
        .on(SESSION_ID.eq(SIGN_IN.SESSION_ID))
        .where(SIGN_IN.PERSON_ID.eq(personId))
        .orderBy(LAST_ACCESS.desc(), SIGN_IN.ID.desc())
        .fetch(
            row ->
                new OpenSession(
                    row.value1(),
                    LocalDateTime.ofInstant(row.value2(), zone),
                    LocalDateTime.ofInstant(Instant.ofEpochMilli(row.value3()), zone),
                    row.value4(),
                    row.value5(),
                    row.value6()));
  }

  /** Ends one of somebody's own; refused when there is none of this number. */
  @Transactional
  public void end(long personId, long id) {
    String session =
        database
            .select(SIGN_IN.SESSION_ID)
            .from(SIGN_IN)
            .where(SIGN_IN.ID.eq(id).and(SIGN_IN.PERSON_ID.eq(personId)))
            .fetchOne(SIGN_IN.SESSION_ID);
    int ended =
        session == null ? 0 : database.deleteFrom(SESSIONS).where(SESSION_ID.eq(session)).execute();
    if (ended == 0) {
      throw new Refused(Rule.NOT_FOUND, "This session is over already.");
    }
  }

  /** Ends all sessions of somebody but one of them; all when that is null. */
  public void endAll(long personId, @Nullable String except) {
    database.execute(
        "delete from spring_session where principal_name = {0} and session_id is distinct from {1}",
        val(Long.toString(personId)), val(except));
  }

  @Override
  public void forget(Instant now) {
    database
        .deleteFrom(SIGN_IN)
        .where(SIGN_IN.SESSION_ID.notIn(database.select(SESSION_ID).from(SESSIONS)))
        .execute();
  }
}
