package app.pragmata.server.http;

import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;

/** A refusal that is about the request itself rather than about a rule of the work. */
public final class Problem extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final HttpStatus status;
  private final @Nullable Duration wait;

  public Problem(HttpStatus status, String message) {
    this(status, message, null);
  }

  private Problem(HttpStatus status, String message, @Nullable Duration wait) {
    super(message);
    this.status = status;
    this.wait = wait;
  }

  /** Too many requests (RFC 6585, 4): the same one may be sent again after this wait. */
  public static Problem tooMany(String message, Duration wait) {
    return new Problem(HttpStatus.TOO_MANY_REQUESTS, message, wait);
  }

  /** Whether whoever asked may not, as opposed to whether they have to wait. */
  public boolean isForbidden() {
    return status == HttpStatus.FORBIDDEN;
  }

  HttpStatus status() {
    return status;
  }

  /** How long to wait before the same is asked again (RFC 9110, 10.2.3); null when it is no use. */
  @Nullable Duration waiting() {
    return wait;
  }
}
