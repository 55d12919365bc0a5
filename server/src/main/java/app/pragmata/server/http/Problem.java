package app.pragmata.server.http;

import org.springframework.http.HttpStatus;

/** A refusal that is about the request itself rather than about a rule of the work. */
public final class Problem extends RuntimeException {
  private static final long serialVersionUID = 1L;

  private final HttpStatus status;

  public Problem(HttpStatus status, String message) {
    super(message);
    this.status = status;
  }

  HttpStatus status() {
    return status;
  }
}
