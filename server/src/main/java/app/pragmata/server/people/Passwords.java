package app.pragmata.server.people;

import static app.pragmata.server.generated.Tables.PASSWORD;
import static app.pragmata.server.generated.Tables.PASSWORD_LINK;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.jooq.Records.mapping;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.people.Password;
import app.pragmata.server.http.Unguessable;
import app.pragmata.server.records.Retention.KeptForAWhile;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Duration;
import java.time.Instant;
import java.util.HexFormat;
import java.util.Objects;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Repository;

/** People's passwords, and the links with which they set them: each is good once, for two days. */
@Repository
public class Passwords implements KeptForAWhile {
  private static final Duration GOOD_FOR = Duration.ofDays(2);
  private static final Duration KEPT = Duration.ofDays(30);

  private final DSLContext database;
  private final PasswordEncoder encoder;

  Passwords(DSLContext database, PasswordEncoder encoder) {
    this.database = database;
    this.encoder = encoder;
  }

  /** What is stored of a password; slow to compute on purpose. */
  public String hash(String password) {
    return Objects.requireNonNull(encoder.encode(password));
  }

  /** Takes this password's hash in place of the one before. */
  public void store(long personId, String hash) {
    database
        .insertInto(PASSWORD)
        .values(personId, hash)
        .onConflict(PASSWORD.PERSON_ID)
        .doUpdate()
        .set(PASSWORD.HASH, hash)
        .execute();
  }

  /**
   * A password as it was typed; null, with a fault noted, when it is none that is taken. Not as
   * other fields are read, for blanks around it belong to it.
   */
  public static @Nullable String read(
      Reading reading, String field, @Nullable String typed, String username) {
    if (typed == null || typed.isEmpty()) {
      reading.fault(field, Rule.MISSING, "Choose a password.");
      return null;
    }
    try {
      return Password.parse(typed, username);
    } catch (Unreadable weak) {
      reading.fault(field, weak.rule(), weak.getMessage());
      return null;
    }
  }

  /** The secret of a new link for this person; an earlier link is good no more. */
  public String makeLink(long personId, Instant now) {
    database.deleteFrom(PASSWORD_LINK).where(PASSWORD_LINK.PERSON_ID.eq(personId)).execute();
    String secret = Unguessable.make();
    database
        .insertInto(PASSWORD_LINK)
        .set(PASSWORD_LINK.SECRET_HASH, sum(secret))
        .set(PASSWORD_LINK.PERSON_ID, personId)
        .set(PASSWORD_LINK.GOOD_UNTIL, now.plus(GOOD_FOR))
        .execute();
    return secret;
  }

  /** Whose link it is; empty when it was used, is too old, or is of somebody who left. */
  Optional<SignedIn> findByLink(String secret, Instant now) {
    return database
        .select(PERSON.ID, PERSON.NAME, PERSON.USERNAME, PERSON.ROLE)
        .from(PASSWORD_LINK)
        .join(PERSON)
        .on(PERSON.ID.eq(PASSWORD_LINK.PERSON_ID))
        .where(isGood(secret, now))
        .and(PERSON.ACTIVE)
        .fetchOptional(mapping(SignedIn::new));
  }

  private static Condition isGood(String secret, Instant now) {
    return PASSWORD_LINK
        .SECRET_HASH
        .eq(sum(secret))
        .and(PASSWORD_LINK.USED_AT.isNull())
        .and(PASSWORD_LINK.GOOD_UNTIL.gt(now));
  }

  /** Uses a link up; false when somebody else just did. */
  boolean use(String secret, Instant now) {
    return database
            .update(PASSWORD_LINK)
            .set(PASSWORD_LINK.USED_AT, now)
            .where(isGood(secret, now))
            .execute()
        == 1;
  }

  private static String sum(String secret) {
    try {
      return HexFormat.of()
          .formatHex(
              MessageDigest.getInstance("SHA-256").digest(secret.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  @Override
  public void forget(Instant now) {
    database
        .deleteFrom(PASSWORD_LINK)
        .where(PASSWORD_LINK.GOOD_UNTIL.lt(now.minus(KEPT)))
        .execute();
  }
}
