package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.BankAccount;
import app.pragmata.core.people.Role;
import app.pragmata.server.founding.Founding;
import app.pragmata.server.founding.NewCompany;
import app.pragmata.server.founding.NewPerson;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.util.FileSystemUtils;

/** The launcher keeps a company in one file and brings it back, in a cluster of its own. */
class BackupTest {
  /** What the launcher said, and how it ended. */
  private record Said(int exit, String words) {}

  private static Path folder;
  private static Path backup;
  private static Said withoutACompany;

  @BeforeAll
  static void aCompanyIsKept() throws IOException, SQLException {
    folder = Files.createTempDirectory("pragmata-backup");
    Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString("rwxr-xr-x"));
    backup = folder.resolve("kept");
    withoutACompany = launcher("backup", backup.toString());
    try (var connection = connect("postgres");
        var statement = connection.createStatement()) {
      statement.execute("create database pragmata");
    }
    try (var program =
        RunningPragmata.start(
            url("pragmata"),
            read("password"),
            new SettableClock(Instant.parse("2026-11-24T06:00:00Z")),
            List.of(Pragmata.class))) {
      program
          .getBean(Founding.class)
          .found(
              new NewCompany(
                  "FI",
                  "Kivirannan Portti Oy",
                  "Satamakatu 4",
                  "",
                  "",
                  "",
                  BankAccount.NONE,
                  LocalDate.of(2026, 11, 23),
                  Map.of(),
                  NewCompany.Differs.NOTHING),
              List.of(
                  new NewPerson("Aino Kivi", "aino", "harbour teapot seven", Role.OWNER, null)));
      Visitor owner = Visitor.at(RunningPragmata.address(program));
      owner.post("/api/sign-in", Map.of("username", "aino", "password", "harbour teapot seven"));
    }
    Said kept = launcher("backup", backup.toString());
    assertThat(kept.exit()).as(kept.words()).isZero();
  }

  @AfterAll
  static void takeAway() throws IOException {
    launcher("stop");
    FileSystemUtils.deleteRecursively(folder);
  }

  private static Said launcher(String... command) throws IOException {
    var words = new ProcessBuilder("../pragmata");
    words.command().addAll(Arrays.asList(command));
    words.environment().put("PRAGMATA_HOME", folder.toString());
    words.redirectErrorStream(true);
    // To a file, for the cluster that it starts would keep a pipe open.
    Path said = Files.createTempFile(folder, "said", "");
    words.redirectOutput(said.toFile());
    try {
      return new Said(words.start().waitFor(), Files.readString(said));
    } catch (InterruptedException stopped) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(stopped);
    }
  }

  private static String read(String file) throws IOException {
    return Files.readString(folder.resolve("own").resolve(file)).strip();
  }

  private static String url(String database) throws IOException {
    return "jdbc:postgresql://127.0.0.1:" + read("database-port") + "/" + database;
  }

  private static Connection connect(String database) throws IOException, SQLException {
    return DriverManager.getConnection(url(database), "pragmata", read("password"));
  }

  private static String ask(String database, String sql) throws IOException, SQLException {
    try (var connection = connect(database);
        var statement = connection.createStatement();
        var answer = statement.executeQuery(sql)) {
      answer.next();
      return answer.getString(1);
    }
  }

  @Test
  void without_a_company_there_is_nothing_to_keep() {
    assertThat(withoutACompany.exit()).isEqualTo(1);
    assertThat(withoutACompany.words()).contains("there is no company to keep");
  }

  @Test
  void that_a_backup_was_made_is_noted() throws IOException, SQLException {
    assertThat(ask("pragmata", "select backed_up_at is not null from company")).isEqualTo("t");
  }

  @Test
  void nobody_else_on_the_machine_reads_a_backup() throws IOException {
    assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(backup)))
        .isEqualTo("rw-------");
  }

  @Test
  void a_backup_is_never_written_over() throws IOException {
    byte[] before = Files.readAllBytes(backup);
    assertThat(launcher("backup", backup.toString()).words()).contains("is there already");
    assertThat(Files.readAllBytes(backup)).isEqualTo(before);
  }

  @Test
  void a_backup_that_was_cut_changes_nothing() throws IOException {
    byte[] whole = Files.readAllBytes(backup);
    Path cut = folder.resolve("cut");
    Files.write(cut, Arrays.copyOf(whole, whole.length - 100));
    Said said = launcher("restore", cut.toString(), "--replace");
    assertThat(said.exit()).isEqualTo(1);
    assertThat(said.words()).contains("cut or damaged");
  }

  @Test
  void a_file_that_is_no_backup_changes_nothing() throws IOException {
    Path foreign = folder.resolve("foreign");
    Files.write(foreign, "PGDMP or something like it".getBytes(StandardCharsets.UTF_8));
    Said said = launcher("restore", foreign.toString(), "--replace");
    assertThat(said.exit()).isEqualTo(1);
    assertThat(said.words()).contains("is no backup of Pragmata");
  }

  @Test
  void a_company_is_not_replaced_without_saying_so() throws IOException {
    Said said = launcher("restore", backup.toString());
    assertThat(said.exit()).isEqualTo(1);
    assertThat(said.words()).contains("there is a company here already").contains("--replace");
  }

  @Test
  void what_was_done_since_is_gone_when_the_backup_is_back_and_nobody_is_signed_in()
      throws IOException, SQLException {
    assertThat(ask("pragmata", "select count(*) from spring_session")).isEqualTo("1");
    try (var connection = connect("pragmata");
        var statement = connection.createStatement()) {
      statement.execute("update company set name = 'Changed since'");
    }
    Said said = launcher("restore", backup.toString(), "--replace");
    assertThat(said.exit()).as(said.words()).isZero();
    assertThat(ask("pragmata", "select name from company")).isEqualTo("Kivirannan Portti Oy");
    assertThat(ask("pragmata", "select count(*) from spring_session")).isEqualTo("0");
    assertThat(ask("pragmata_before", "select name from company")).isEqualTo("Changed since");
  }
}
