package app.pragmata.server;

import app.pragmata.core.money.Money;
import app.pragmata.demo.Demo;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.URISyntaxException;
import java.nio.file.FileSystem;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.CodeSource;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HexFormat;
import java.util.List;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.stream.Stream;

/**
 * A database that holds the demo as it stands at some moment, loaded once for the program as it is
 * now. Each process of the tests takes a copy of it instead of replaying the demo's months.
 */
public final class DemoTemplate {
  private static final long LOCK = 5_020_261_124L;

  private DemoTemplate() {}

  /**
   * Puts a fresh copy of the demo in place of this database.
   *
   * @param start the moment at which the demo ends, such as "2026-11-24T06:30"
   * @param load fills an empty database of the name that it is given
   */
  static void copyTo(String database, String start, Consumer<String> load) {
    String template = "pragmata_template_" + start.replaceAll("\\D", "");
    try (var connection = connect();
        var statement = connection.createStatement()) {
      // Processes that start side by side wait for the first, which loads it.
      statement.execute("select pg_advisory_lock(%d)".formatted(LOCK));
      String program = programHash();
      if (!program.equals(comment(statement, template))) {
        makeEmpty(statement, template, "");
        load.accept(template);
        statement.execute("comment on database %s is '%s'".formatted(template, program));
      }
      makeEmpty(statement, database, " template " + template);
    } catch (SQLException exception) {
      throw new IllegalStateException("No database for the tests", exception);
    }
  }

  /** A database of this name in which nothing is yet. */
  public static void makeEmpty(String database) {
    try (var connection = connect();
        var statement = connection.createStatement()) {
      makeEmpty(statement, database, "");
    } catch (SQLException exception) {
      throw new IllegalStateException("No database for the tests", exception);
    }
  }

  /** A copy of a database to which nobody is connected. */
  public static void copy(String database, String copy) {
    try (var connection = connect();
        var statement = connection.createStatement()) {
      makeEmpty(statement, copy, " template " + database);
    } catch (SQLException exception) {
      throw new IllegalStateException("No database for the tests", exception);
    }
  }

  private static Connection connect() throws SQLException {
    return connect("postgres");
  }

  /** A connection of one's own to one of the databases. */
  public static Connection connect(String database) throws SQLException {
    return DriverManager.getConnection(
        System.getProperty("pragmata.database.url") + database,
        System.getProperty("pragmata.database.user"),
        System.getProperty("pragmata.database.password"));
  }

  private static void makeEmpty(Statement statement, String database, String from)
      throws SQLException {
    statement.execute("drop database if exists %s with (force)".formatted(database));
    statement.execute("create database " + database + from);
    statement.execute("alter database %s set synchronous_commit = off".formatted(database));
  }

  private static String comment(Statement statement, String database) throws SQLException {
    try (var rows =
        statement.executeQuery(
            "select shobj_description(oid, 'pg_database') from pg_database where datname = '%s'"
                .formatted(database))) {
      return rows.next() ? Objects.requireNonNullElse(rows.getString(1), "") : "";
    }
  }

  /** Changes whenever anything in the program does that its data could depend on. */
  private static String programHash() {
    try {
      var digest = MessageDigest.getInstance("SHA-256");
      for (Class<?> one : List.of(Money.class, Pragmata.class, Demo.class)) {
        addClasses(digest, one.getProtectionDomain().getCodeSource());
      }
      return HexFormat.of().formatHex(digest.digest());
    } catch (NoSuchAlgorithmException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  private static void addClasses(MessageDigest digest, CodeSource source) {
    try {
      Path place = Path.of(source.getLocation().toURI());
      if (Files.isDirectory(place)) {
        addFiles(digest, place);
        return;
      }
      try (FileSystem jar = FileSystems.newFileSystem(place)) {
        addFiles(digest, jar.getPath("/"));
      }
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    } catch (URISyntaxException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  /** Classes and migrations, which are the same in the folder and in the jar. */
  private static void addFiles(MessageDigest digest, Path root) throws IOException {
    try (Stream<Path> files = Files.walk(root)) {
      List<Path> sorted =
          files
              .filter(
                  file -> file.toString().endsWith(".class") || file.toString().endsWith(".sql"))
              .sorted((one, other) -> one.toString().compareTo(other.toString()))
              .toList();
      for (Path file : sorted) {
        digest.update(Files.readAllBytes(file));
      }
    }
  }
}
