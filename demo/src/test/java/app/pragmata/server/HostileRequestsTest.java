package app.pragmata.server;

import static app.pragmata.server.generated.Tables.REQUEST_COUNT;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.sum;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.math.BigDecimal;
import java.net.Socket;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.HashMap;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Requests that no browser sends, and a database that goes away. */
class HostileRequestsTest {
  private static final String MANY_WORDS = "gate+".repeat(800) + "gate";

  private final RunningPragmata program = RunningPragmata.forTests();

  /** Everything that comes back for these bytes. */
  private String raw(String... sent) throws IOException {
    URI address = URI.create(program.address());
    try (var socket = new Socket(address.getHost(), address.getPort())) {
      socket.setSoTimeout(20_000);
      for (String part : sent) {
        socket.getOutputStream().write(part.getBytes(StandardCharsets.ISO_8859_1));
      }
      socket.getOutputStream().flush();
      InputStream answer = socket.getInputStream();
      return new String(answer.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  private String get(String path, String... headers) throws IOException {
    return raw(
        "GET "
            + path
            + " HTTP/1.1\r\nHost: x\r\nConnection: close\r\n"
            + String.join("", headers)
            + "\r\n");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "SESSION=%00%ff",
        "SESSION=====",
        "SESSION=\"",
        "=;;,;==",
        "SESSION=//////////8=",
        "XSRF-TOKEN=\u00e9"
      })
  void a_malformed_cookie_is_as_good_as_none(String cookie) throws IOException {
    assertThat(get("/api/session", "Cookie: " + cookie + "\r\n")).startsWith("HTTP/1.1 200");
  }

  @ParameterizedTest
  @ValueSource(strings = {"/error", "/error?status=500"})
  void the_address_of_errors_is_none_by_itself(String path) throws IOException {
    assertThat(get(path)).startsWith("HTTP/1.1 404").contains("application/problem+json");
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "//",
        "//api/session",
        "/api/session;x=1",
        "/api/%2e%2e/session",
        "/api/jobs/%00",
        "/api/%",
        "/api/ session"
      })
  void an_address_that_is_a_trick_is_refused_in_our_words(String path) throws IOException {
    assertThat(get(path))
        .startsWith("HTTP/1.1 400")
        .contains("\"detail\":\"This request cannot be read.")
        .doesNotContain("Tomcat");
  }

  @Test
  void what_is_no_request_is_refused_in_our_words() throws IOException {
    assertThat(raw("HELLO THERE\r\n\r\n")).contains("cannot be read").doesNotContain("Tomcat");
  }

  @Test
  void a_form_longer_than_any_is_refused_before_it_is_read() throws IOException {
    assertThat(
            raw(
                """
                POST /api/sign-in HTTP/1.1\r
                Host: x\r
                Connection: close\r
                Content-Type: application/json\r
                Content-Length: 3000000\r
                \r
                """,
                " ".repeat(3_000_000)))
        .startsWith("HTTP/1.1 413")
        .contains("longer than any form");
  }

  @Test
  void a_form_of_unknown_length_is_read_no_further_than_the_longest() {
    var visitor = new Visitor(program);
    assertThat(
            visitor.stream(
                    "/api/sign-in",
                    "application/json",
                    () ->
                        new ByteArrayInputStream(
                            " ".repeat(3_000_000).getBytes(StandardCharsets.US_ASCII)))
                .status())
        .isEqualTo(413);
  }

  @Test
  void an_address_written_in_another_way_counts_as_well() throws IOException {
    BigDecimal before = requests();
    get("/api/%6fffers/guessed-by-another-way");
    assertThat(requests()).isEqualByComparingTo(before.add(BigDecimal.ONE));
  }

  private BigDecimal requests() {
    return program
        .database()
        .select(sum(REQUEST_COUNT.REQUESTS))
        .from(REQUEST_COUNT)
        .where(REQUEST_COUNT.ADDRESS.eq("127.0.0.1"))
        .fetchOptional(0, BigDecimal.class)
        .orElse(BigDecimal.ZERO);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "/api/people/3/days/+999999999-12-31",
        "/api/people/3/days/-999999999-01-01",
        "/api/people/3/days/2026-02-30",
        "/api/books/journal?from=31+dec+9999999",
        "/api/terms?on=1+jan+-4",
        "/api/to-dos?whose=all&after=KzE5OTk5OTk5OS0xMi0zMR8x",
        "/api/to-dos?whose=all&after=AAAA",
        "/api/customers?after=%00",
        "/api/jobs/99999999999999999999",
        "/api/documents/job/-1"
      })
  void an_absurd_day_number_or_page_is_refused_and_no_error(String path) {
    assertThat(Visitor.signedIn(program, "hester").get(path).status()).isBetween(400, 422);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "/api/customers?filter=",
        "/api/customers/file?filter=",
        "/api/to-dos?whose=all&filter=",
        "/api/to-dos/file?whose=all&filter=",
        "/api/worklists/worked?filter=",
        "/api/worklists/worked/file?filter=",
        "/api/parts?q="
      })
  void nobody_searches_by_eight_hundred_words(String list) {
    assertThat(Visitor.signedIn(program, "hester").get(list + MANY_WORDS).rule())
        .isEqualTo("TOO_LONG");
  }

  @ParameterizedTest
  @ValueSource(strings = {"/api/find?q=", "/api/sites?q=", "/api/customers/doubles?name="})
  void what_is_looked_up_while_it_is_typed_takes_the_first_words_only(String path) {
    assertThat(Visitor.signedIn(program, "hester").get(path + MANY_WORDS).status()).isEqualTo(200);
  }

  @Test
  void the_description_of_the_api_is_for_those_who_work_here() {
    assertThat(new Visitor(program).get("/api/description").status()).isEqualTo(401);
  }

  @ParameterizedTest
  @ValueSource(strings = {"/", "/offer/some-link", "/api/session", "/assets/nothing.js"})
  void no_address_goes_on_to_anybody(String path) {
    assertThat(new Visitor(program).header(path, "Referrer-Policy")).isEqualTo("no-referrer");
  }

  @Test
  void without_a_proxy_nobody_says_where_a_request_comes_from() throws IOException {
    get("/api/offers/none", "X-Forwarded-For: 203.0.113.9\r\n");
    assertThat(
            program.database().fetchExists(REQUEST_COUNT, REQUEST_COUNT.ADDRESS.eq("203.0.113.9")))
        .isFalse();
  }

  @Test
  void while_the_database_is_away_everybody_is_told_what_holds() throws SQLException {
    Visitor office = Visitor.signedInAt(program.address(), "hester");
    var form = new HashMap<String, Object>();
    form.put("day", "24 dec 2027");
    form.put("name", "Never kept");
    databaseTakesConnections(false);
    try {
      Visitor.Answer read = office.get("/api/money-line");
      Visitor.Answer written = office.post("/api/settings/holidays", form);
      assertThat(read.status()).isEqualTo(503);
      assertThat(written.status()).isEqualTo(503);
      assertThat(written.json().path("detail").asString())
          .contains("The database does not answer")
          .contains("Press again");
      assertThat(new Visitor(program).get("/").status()).isEqualTo(200);
    } finally {
      databaseTakesConnections(true);
    }
    RunningPragmata.until(() -> office.get("/api/money-line").status() == 200);
    assertThat(office.get("/api/settings/holidays").text()).doesNotContain("Never kept");
  }

  private static void databaseTakesConnections(boolean taken) throws SQLException {
    String database = RunningPragmata.databaseForTests();
    try (var connection =
            DriverManager.getConnection(
                System.getProperty("pragmata.database.url") + "postgres",
                System.getProperty("pragmata.database.user"),
                System.getProperty("pragmata.database.password"));
        var statement = connection.createStatement()) {
      statement.execute("alter database " + database + " allow_connections " + taken);
      if (!taken) {
        statement.execute(
            "select pg_terminate_backend(pid) from pg_stat_activity where datname = '"
                + database
                + "'");
      }
    }
  }
}
