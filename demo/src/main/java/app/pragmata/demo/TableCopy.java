package app.pragmata.demo;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.postgresql.PGConnection;
import org.postgresql.copy.CopyIn;

/**
 * Rows on their way into one table through COPY, on a connection of its own. Triggers do not fire:
 * whoever copies answers for what they would have seen to.
 */
final class TableCopy implements AutoCloseable {
  private static final int ENOUGH_TO_SEND = 1 << 16;

  private final Connection connection;
  private final CopyIn copy;
  private final StringBuilder text = new StringBuilder(ENOUGH_TO_SEND + 2_000);
  private long rows;

  /** Begins to copy; the columns are a comma-separated list. */
  TableCopy(DataSource source, String table, String columns) {
    try {
      connection = source.getConnection();
      try (var statement = connection.createStatement()) {
        statement.execute("set session_replication_role = replica");
        statement.execute("set synchronous_commit = off");
      }
      copy =
          connection
              .unwrap(PGConnection.class)
              .getCopyAPI()
              .copyIn("copy " + table + " (" + columns + ") from stdin");
    } catch (SQLException exception) {
      throw new IllegalStateException("Cannot copy into " + table, exception);
    }
  }

  /** One row; null is SQL's null. */
  void row(@Nullable Object... values) {
    for (int i = 0; i < values.length; i++) {
      if (i > 0) {
        text.append('\t');
      }
      append(values[i]);
    }
    text.append('\n');
    rows++;
    if (text.length() > ENOUGH_TO_SEND) {
      send();
    }
  }

  private void append(@Nullable Object value) {
    switch (value) {
      case null -> text.append("\\N");
      case String string -> escape(string);
      default -> text.append(value);
    }
  }

  private void escape(String string) {
    for (int i = 0; i < string.length(); i++) {
      char c = string.charAt(i);
      switch (c) {
        case '\\' -> text.append("\\\\");
        case '\t' -> text.append("\\t");
        case '\n' -> text.append("\\n");
        default -> text.append(c);
      }
    }
  }

  private void send() {
    byte[] bytes = text.toString().getBytes(StandardCharsets.UTF_8);
    try {
      copy.writeToCopy(bytes, 0, bytes.length);
    } catch (SQLException exception) {
      throw new IllegalStateException(exception);
    }
    text.setLength(0);
  }

  /** How many rows were written so far. */
  long rows() {
    return rows;
  }

  @Override
  public void close() {
    try (connection) {
      send();
      copy.endCopy();
      try (var statement = connection.createStatement()) {
        statement.execute("reset session_replication_role");
        statement.execute("reset synchronous_commit");
      }
    } catch (SQLException exception) {
      throw new IllegalStateException(exception);
    }
  }
}
