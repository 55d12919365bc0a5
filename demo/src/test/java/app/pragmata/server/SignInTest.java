package app.pragmata.server;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.REFUSED_SIGN_IN;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.people.Role;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Guessing at passwords, and how long a session is worth something. */
class SignInTest {
  private static int made;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final String nobody = "nobody-" + ++made;
  private final Visitor guesser = Visitor.from(program, "127.0.1." + made);

  @AfterEach
  void nobodyWaitsForThis() {
    program.database().deleteFrom(REFUSED_SIGN_IN).execute();
  }

  private Visitor.Answer guess(String username) {
    return guesser.post("/api/sign-in", Map.of("username", username, "password", "guessed"));
  }

  private List<Integer> guesses(int count) {
    return IntStream.range(0, count).mapToObj(i -> guess(nobody).status()).toList();
  }

  @Test
  void whoever_guesses_thirty_times_at_one_name_is_heard_a_few_times() {
    List<Integer> answers = guesses(30);
    assertThat(answers.subList(0, 5)).containsOnly(403);
    // On a slow machine the first short waits pass meanwhile.
    assertThat(answers).filteredOn(status -> status == 429).hasSizeGreaterThan(18);
  }

  @Test
  void whoever_has_to_wait_is_told_for_how_long() {
    guesses(5);
    assertThat(guess(nobody).json().path("detail").asString()).contains("Wait 1 second,");
  }

  @Test
  void a_wait_passes() {
    guesses(5);
    program
        .database()
        .update(REFUSED_SIGN_IN)
        .set(REFUSED_SIGN_IN.REFUSED_AT, Instant.now().minus(Duration.ofSeconds(2)))
        .where(REFUSED_SIGN_IN.USERNAME.eq(nobody))
        .execute();
    assertThat(guess(nobody).status()).isEqualTo(403);
  }

  @Test
  void a_wait_for_one_name_is_none_for_another() {
    guesses(6);
    assertThat(
            new Visitor(program)
                .post("/api/sign-in", Map.of("username", "maud", "password", "ostmere"))
                .status())
        .isEqualTo(200);
  }

  @Test
  void whoever_guesses_at_many_names_waits_too() {
    List<Integer> answers =
        IntStream.range(0, 21).mapToObj(i -> guess(nobody + "-" + i).status()).toList();
    assertThat(answers.subList(0, 20)).containsOnly(403);
    assertThat(answers.getLast()).isEqualTo(429);
  }

  @Test
  void a_right_password_waits_as_long_as_a_wrong_one() {
    for (int i = 0; i < 5; i++) {
      guess("piet");
    }
    assertThat(
            new Visitor(program)
                .post("/api/sign-in", Map.of("username", "piet", "password", "ostmere"))
                .status())
        .isEqualTo(429);
  }

  @Test
  void a_password_longer_than_any_is_wrong_and_no_error() {
    assertThat(
            guesser
                .post("/api/sign-in", Map.of("username", "orla", "password", "å".repeat(40)))
                .status())
        .isEqualTo(403);
  }

  @Test
  void each_refused_sign_in_is_on_record_with_where_it_came_from() {
    guess(nobody);
    assertThat(
            program
                .database()
                .select(REFUSED_SIGN_IN.ADDRESS)
                .from(REFUSED_SIGN_IN)
                .where(REFUSED_SIGN_IN.USERNAME.eq(nobody))
                .fetch(REFUSED_SIGN_IN.ADDRESS))
        .containsExactly("127.0.1." + made);
  }

  @Test
  void whoever_leaves_is_out_at_the_next_request() {
    Visitor piet = signedIn("piet");
    assertThat(piet.get("/api/pocket/day").status()).isEqualTo(200);
    set("piet", Role.TECHNICIAN, false);
    try {
      assertThat(piet.get("/api/pocket/day").status()).isEqualTo(401);
    } finally {
      set("piet", Role.TECHNICIAN, true);
    }
  }

  @Test
  void another_role_holds_from_the_next_request_on() {
    Visitor maud = signedIn("maud");
    Map<String, Object> day = Map.of("day", "");
    assertThat(maud.post("/api/settings/holidays", day).status()).isEqualTo(403);
    set("maud", Role.OWNER, true);
    try {
      assertThat(maud.post("/api/settings/holidays", day).status()).isEqualTo(422);
    } finally {
      set("maud", Role.BOOKKEEPER, true);
    }
  }

  @ParameterizedTest
  @CsvSource({
    "orla, 11, /api/money-line, 200",
    "orla, 13, /api/money-line, 401",
    "piet, 13, /api/pocket/day, 200",
    "piet, 25, /api/pocket/day, 401"
  })
  void a_session_ends_some_hours_after_the_sign_in_however_much_it_is_used(
      String username, int hours, String path, int status) {
    Visitor visitor = signedIn(username);
    program
        .database()
        .execute(
            "update spring_session set creation_time = ? where principal_name = ?",
            Instant.now().minus(Duration.ofHours(hours)).toEpochMilli(),
            Long.toString(id(username)));
    assertThat(visitor.get(path).status()).isEqualTo(status);
  }

  @Test
  void a_session_from_before_the_sign_in_is_worth_nothing_after_it() {
    var visitor = new Visitor(program);
    visitor.post("/api/sign-in", Map.of("username", "orla", "password", "ostmere"));
    String before = visitor.cookies().get("SESSION");
    visitor.post("/api/sign-in", Map.of("username", "orla", "password", "ostmere"));
    assertThat(visitor.cookies().get("SESSION")).isNotEqualTo(before);
  }

  private Visitor signedIn(String username) {
    return Visitor.signedInAt(program.address(), username);
  }

  private long id(String username) {
    return program
        .database()
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq(username))
        .fetchSingle(PERSON.ID);
  }

  private void set(String username, Role role, boolean active) {
    program
        .database()
        .update(PERSON)
        .set(PERSON.ROLE, role)
        .set(PERSON.ACTIVE, active)
        .where(PERSON.USERNAME.eq(username))
        .execute();
  }
}
