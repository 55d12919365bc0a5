package app.pragmata.server.people;

import static app.pragmata.server.generated.Tables.REFUSED_SIGN_IN;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.currentOffsetDateTime;
import static org.jooq.impl.DSL.max;

import app.pragmata.core.Fault;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.people.SignInWait;
import app.pragmata.server.http.Problem;
import app.pragmata.server.records.Retention.KeptForAWhile;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.http.HttpStatus;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;

/**
 * Tells whose name and password these are. Passwords are compared one at a time on a thread of
 * their own, so that nobody who guesses takes the processors from those who work; whoever guessed
 * wrong a few times waits, by name and by address.
 */
@Service
class SignIns implements KeptForAWhile, DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(SignIns.class);

  /** More of it than this is nobody's. */
  private static final int LONGEST_NAME = 100;

  /** BCrypt reads no more of a password. */
  private static final int LONGEST_PASSWORD_BYTES = 72;

  private static final int MOST_WAITING = 40;
  private static final Duration HELD = Duration.ofMillis(500);
  private static final Duration KEPT = Duration.ofDays(30);

  // Compared with when the name is unknown, so that the answer takes as long as for a known one.
  private static final String NOBODYS_HASH =
      "$2a$10$7EqJtq98hPqEX7fNZaFWoOhi5VYd0iDWyBFEaRgYHk3dTxu1ZWm1m";

  private final PeopleStore people;
  private final PasswordEncoder passwords;
  private final DSLContext database;
  private final ThreadPoolExecutor comparing =
      new ThreadPoolExecutor(
          1, 1, 0, TimeUnit.SECONDS, new LinkedBlockingQueue<>(MOST_WAITING), SignIns::thread);

  SignIns(PeopleStore people, PasswordEncoder passwords, DSLContext database) {
    this.people = people;
    this.passwords = passwords;
    this.database = database;
  }

  private static Thread thread(Runnable work) {
    return Thread.ofPlatform().name("sign-in").daemon().unstarted(work);
  }

  /**
   * The person of this name and password; refused, with the same words for all of them, when there
   * is none, and while there is a wait from earlier wrong ones.
   *
   * @param address where it is asked from
   */
  SignedIn signIn(String typedName, String password, String address) {
    String username = typedName.strip().toLowerCase(Locale.ROOT);
    Optional<Problem> waiting = findWait(kept(username), address);
    if (waiting.isPresent()) {
      // One who asks without a pause would keep the processors busy with nothing but refusals; a
      // thread that waits costs next to nothing.
      pause(HELD);
      throw waiting.get();
    }
    return inTurn(() -> compare(username, password, address));
  }

  private static void pause(Duration length) {
    try {
      Thread.sleep(length);
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
    }
  }

  private static String kept(String username) {
    return username.substring(0, Math.min(username.length(), LONGEST_NAME)).replace("\0", "");
  }

  /**
   * Refuses a password, at its field, that is not the one of whoever is signed in; guessing at it
   * means waiting too.
   */
  void requirePassword(String username, String password, String address) {
    try {
      signIn(username, password, address);
    } catch (Problem problem) {
      if (problem.isForbidden()) {
        throw new Refused(
            List.of(
                new Fault(
                    "present",
                    Rule.WRONG_WORD,
                    "This is not your present password. Type it again.")));
      }
      throw problem;
    }
  }

  private SignedIn inTurn(Callable<SignedIn> comparison) {
    try {
      return comparing.submit(comparison).get();
    } catch (RejectedExecutionException full) {
      throw Problem.tooMany(
          "Too many people sign in at this moment. Wait a few seconds, then try again.",
          Duration.ofSeconds(5));
    } catch (ExecutionException failed) {
      if (failed.getCause() instanceof RuntimeException told) {
        throw told;
      }
      throw new IllegalStateException(failed);
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(stopped);
    }
  }

  private SignedIn compare(String username, String password, String address) {
    String kept = kept(username);
    // Many may have asked at once before the first of them was compared.
    findWait(kept, address)
        .ifPresent(
            problem -> {
              throw problem;
            });
    var credentials = people.findCredentials(username);
    boolean comparable = password.getBytes(StandardCharsets.UTF_8).length <= LONGEST_PASSWORD_BYTES;
    long begun = System.nanoTime();
    boolean matches =
        passwords.matches(
            comparable ? password : "",
            credentials.map(PeopleStore.Credentials::passwordHash).orElse(NOBODYS_HASH));
    if (credentials.isPresent() && matches && comparable) {
      return credentials.get().person();
    }
    database
        .insertInto(REFUSED_SIGN_IN)
        .set(REFUSED_SIGN_IN.USERNAME, kept)
        .set(REFUSED_SIGN_IN.ADDRESS, address)
        .execute();
    LOG.warn("A sign-in from {} was refused", address);
    // The next comparison waits as long as this one took: half of one processor is the most that
    // guessing ever has.
    pause(Duration.ofNanos(System.nanoTime() - begun));
    throw new Problem(
        HttpStatus.FORBIDDEN, "The name or the password is not right. Check both and try again.");
  }

  /** The refusal of whoever has to wait after wrong passwords; empty where nobody has to. */
  private Optional<Problem> findWait(String username, String address) {
    Condition byName = REFUSED_SIGN_IN.USERNAME.eq(username);
    Condition byAddress = REFUSED_SIGN_IN.ADDRESS.eq(address);
    var refused =
        database
            .select(
                currentOffsetDateTime(),
                count().filterWhere(byName),
                max(REFUSED_SIGN_IN.REFUSED_AT).filterWhere(byName),
                count().filterWhere(byAddress),
                max(REFUSED_SIGN_IN.REFUSED_AT).filterWhere(byAddress))
            .from(REFUSED_SIGN_IN)
            .where(byName.or(byAddress))
            .and(REFUSED_SIGN_IN.REFUSED_AT.gt(Instant.now().minus(SignInWait.COUNTED)))
            .fetchSingle();
    Instant now = refused.value1().toInstant();
    Duration wait =
        longer(
            left(SignInWait.OF_A_NAME, refused.value2(), refused.value3(), now),
            left(SignInWait.OF_AN_ADDRESS, refused.value4(), refused.value5(), now));
    if (!wait.isPositive()) {
      return Optional.empty();
    }
    long seconds = wait.plusMillis(999).toSeconds();
    return Optional.of(
        Problem.tooMany(
            "There were too many wrong passwords. Wait %d second%s, then try again."
                .formatted(seconds, seconds == 1 ? "" : "s"),
            Duration.ofSeconds(seconds)));
  }

  private static Duration left(SignInWait wait, int refused, @Nullable Instant last, Instant now) {
    return last == null ? Duration.ZERO : Duration.between(now, last.plus(wait.after(refused)));
  }

  private static Duration longer(Duration one, Duration other) {
    return one.compareTo(other) < 0 ? other : one;
  }

  @Override
  public void forget(Instant now) {
    database
        .deleteFrom(REFUSED_SIGN_IN)
        .where(REFUSED_SIGN_IN.REFUSED_AT.lt(now.minus(KEPT)))
        .execute();
  }

  @Override
  public void destroy() {
    comparing.shutdownNow();
  }
}
