package app.pragmata.server.http;

import java.sql.SQLException;
import java.sql.SQLTransientConnectionException;
import java.util.Optional;
import org.springframework.http.HttpStatus;
import org.springframework.jdbc.CannotGetJdbcConnectionException;
import org.springframework.transaction.CannotCreateTransactionException;
import org.springframework.transaction.TransactionSystemException;

/** The database's own troubles, as opposed to what it refuses: whoever asked can only wait. */
final class DatabaseTrouble {
  // Classes and codes of SQLSTATE (ISO/IEC 9075; PostgreSQL's appendix A).
  private static final String CONNECTION_EXCEPTION = "08";
  private static final String OPERATOR_INTERVENTION = "57P";
  private static final String QUERY_CANCELED = "57014";
  private static final String TOO_MANY_CONNECTIONS = "53300";
  private static final String DISK_FULL = "53100";

  private DatabaseTrouble() {}

  /** What to tell of a failure that is such a trouble; empty when it is none. */
  static Optional<Problem> find(Throwable failure) {
    boolean begun = true;
    for (Throwable cause = failure; cause != null; cause = cause.getCause()) {
      if (cause instanceof CannotCreateTransactionException
          || cause instanceof CannotGetJdbcConnectionException
          || cause instanceof SQLTransientConnectionException) {
        begun = false;
      }
      if (cause instanceof SQLTransientConnectionException
          || cause instanceof TransactionSystemException) {
        return Optional.of(unavailable(begun));
      }
      if (cause instanceof SQLException refused && refused.getSQLState() != null) {
        String state = refused.getSQLState();
        if (state.startsWith(CONNECTION_EXCEPTION)
            || state.startsWith(OPERATOR_INTERVENTION)
            || state.equals(TOO_MANY_CONNECTIONS)) {
          return Optional.of(unavailable(begun));
        }
        if (state.equals(QUERY_CANCELED)) {
          return Optional.of(
              new Problem(
                  HttpStatus.SERVICE_UNAVAILABLE,
                  "This took too long and was stopped; nothing was changed. Ask for less, such as fewer words or a shorter span of days."));
        }
        if (state.equals(DISK_FULL)) {
          return Optional.of(
              new Problem(
                  HttpStatus.INSUFFICIENT_STORAGE,
                  "The disk of the database is full, so this was not kept. Make room there, then press again."));
        }
      }
    }
    return Optional.empty();
  }

  private static Problem unavailable(boolean begun) {
    return new Problem(
        HttpStatus.SERVICE_UNAVAILABLE,
        begun
            ? "The database does not answer, so it is not known whether this was kept. Press again in a moment: the same press is safe, nothing is done twice."
            : "The database does not answer, so nothing was changed. Press again in a moment.");
  }
}
