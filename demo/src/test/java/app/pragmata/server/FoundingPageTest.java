package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.context.ConfigurableApplicationContext;
import tools.jackson.databind.JsonNode;

/** A company is founded by whoever started the program, from its first page. */
class FoundingPageTest {
  private static final String WORD = "amber-otter";
  private static final String PASSWORD = "harbour teapot seven";

  private static ConfigurableApplicationContext program;
  private static Visitor.Answer before;
  private static Visitor.Answer stranger;
  private static Visitor.Answer founded;

  @BeforeAll
  static void foundFromThePage() {
    String name = RunningPragmata.databaseForTests() + "_unfounded";
    DemoTemplate.makeEmpty(name);
    program =
        RunningPragmata.start(
            name,
            new SettableClock(Instant.parse("2026-11-24T06:00:00Z")),
            List.of(Pragmata.class),
            "pragmata.founding-word=" + WORD);
    before = visitor().get("/api/session");
    stranger = found(Map.of("word", "guessed"));
    founded = found(Map.of());
  }

  @AfterAll
  static void stop() {
    program.close();
  }

  private static Visitor visitor() {
    return Visitor.at(RunningPragmata.address(program));
  }

  private static Visitor.Answer found(Map<String, Object> differing) {
    var form =
        new HashMap<String, Object>(
            Map.of(
                "word", WORD,
                "template", "EU",
                "name", "Tuimala Gates",
                "address", "Kaivokatu 7, Tuimala",
                "currency", "EUR",
                "timeZone", "Europe/Tallinn",
                "language", "en-IE",
                "diallingCode", "372",
                "vatPercent", "24"));
    form.putAll(Map.of("ownerName", "Liis Tamm", "username", "Liis", "password", PASSWORD));
    form.putAll(differing);
    return visitor().post("/api/founding", form);
  }

  private static Visitor owner() {
    Visitor owner = visitor();
    owner.post("/api/sign-in", Map.of("username", "liis", "password", PASSWORD));
    return owner;
  }

  @Test
  void before_anybody_founded_a_company_every_request_is_told_so() {
    assertThat(before.status()).isEqualTo(409);
    assertThat(before.rule()).isEqualTo("NO_COMPANY");
  }

  @Test
  void a_stranger_without_the_word_founds_nothing() {
    assertThat(stranger.rule()).isEqualTo("WRONG_WORD");
    assertThat(stranger.pointer()).isEqualTo("/word");
  }

  @Test
  void whoever_founds_it_is_its_owner_and_signs_in() {
    assertThat(founded.status()).as(founded.text()).isEqualTo(200);
    JsonNode session = owner().get("/api/session").json();
    assertThat(session.path("person").path("role").asString()).isEqualTo("owner");
    assertThat(session.path("company").asString()).isEqualTo("Tuimala Gates");
  }

  @Test
  void it_counts_and_writes_as_was_said_and_not_as_the_template_does() {
    JsonNode session = owner().get("/api/session").json();
    assertThat(session.path("currency").asString()).isEqualTo("EUR");
    assertThat(session.path("locale").asString()).isEqualTo("en-IE");
    assertThat(session.path("now").asString()).startsWith("2026-11-24T08:00");
  }

  @Test
  void a_template_that_is_like_another_has_its_accounts() {
    assertThat(owner().get("/api/books/trial-balance?to=2026-11-24").text())
        .contains("Trade debtors");
  }

  @Test
  void the_founding_is_the_first_thing_that_the_history_tells() {
    assertThat(owner().get("/api/history/company/1").text()).contains("founded", "Liis Tamm");
  }

  @Test
  void a_new_company_is_told_what_to_do_next() {
    JsonNode steps = owner().get("/api/first-steps").json();
    assertThat(texts(steps, "step"))
        .containsExactly("people", "price_list", "customers", "mail", "backup");
    assertThat(texts(steps, "done")).containsOnly("false");
  }

  @Test
  void there_is_no_second_company() {
    assertThat(found(Map.of()).rule()).isEqualTo("COMPANY_FOUNDED");
    assertThat(visitor().get("/api/founding").json().path("founded").asBoolean()).isTrue();
  }

  @ParameterizedTest
  @CsvSource({
    "template, DE, NOT_FOUND",
    "name, '', MISSING",
    "address, '', MISSING",
    "email, nobody, UNREADABLE",
    "currency, JPY, UNKNOWN_WORD",
    "timeZone, Moon/Base, UNKNOWN_WORD",
    "language, xx-XX, UNKNOWN_WORD",
    "diallingCode, zero, UNREADABLE",
    "vatPercent, 0, UNREADABLE",
    "ownerName, '', MISSING",
    "username, two words, UNREADABLE",
    "password, short, TOO_SHORT",
    "password, password12345, EASILY_GUESSED"
  })
  void what_cannot_be_is_refused_by_its_field(String field, String typed, String rule) {
    Visitor.Answer refused = found(Map.of(field, typed));
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.rule()).isEqualTo(rule);
  }
}
