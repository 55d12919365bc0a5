package app.pragmata.server.records;

import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jooq.Cursor;
import org.jooq.ResultQuery;
import org.jooq.exception.DataAccessException;
import org.jspecify.annotations.Nullable;

/**
 * The cells of one row after the other, each row from its first in the order in which they are
 * selected. For what is read anew again and again with hundreds of rows: a record for each of them,
 * to be read once, takes longer than the database does.
 */
public final class Cells {
  /** Makes something of a row. */
  public interface RowReader<T> {
    T read(Cells cells) throws SQLException;
  }

  private final ResultSet rows;
  private int read;

  private Cells(ResultSet rows) {
    this.rows = rows;
  }

  /** What each row of an answer comes to, in its order. */
  public static <T> List<T> fetch(ResultQuery<?> query, RowReader<T> reader) {
    var found = new ArrayList<T>();
    try (Cursor<?> cursor = query.fetchLazy()) {
      var cells = new Cells(Objects.requireNonNull(cursor.resultSet()));
      while (cells.rows.next()) {
        cells.read = 0;
        found.add(reader.read(cells));
      }
    } catch (SQLException unreadable) {
      throw new DataAccessException("The rows cannot be read", unreadable);
    }
    return found;
  }

  public long number() throws SQLException {
    return rows.getLong(++read);
  }

  public int count() throws SQLException {
    return rows.getInt(++read);
  }

  public boolean truth() throws SQLException {
    return rows.getBoolean(++read);
  }

  public @Nullable Long optional() throws SQLException {
    long value = rows.getLong(++read);
    return rows.wasNull() ? null : value;
  }

  public @Nullable Integer optionalCount() throws SQLException {
    int value = rows.getInt(++read);
    return rows.wasNull() ? null : value;
  }

  public String text() throws SQLException {
    return rows.getString(++read);
  }

  public @Nullable BigDecimal decimal() throws SQLException {
    return rows.getBigDecimal(++read);
  }

  public @Nullable LocalDate day() throws SQLException {
    return rows.getObject(++read, LocalDate.class);
  }

  public @Nullable LocalTime time() throws SQLException {
    return rows.getObject(++read, LocalTime.class);
  }

  public @Nullable Instant moment() throws SQLException {
    OffsetDateTime moment = rows.getObject(++read, OffsetDateTime.class);
    return moment == null ? null : moment.toInstant();
  }
}
