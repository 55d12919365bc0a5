package app.pragmata.server;

import static app.pragmata.server.generated.Tables.PASSWORD_LINK;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Starters, leavers, and the passwords that they set themselves. */
class StaffTest {
  private static final String PASSWORD = "harbour teapot seven";
  private static int made;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor orla = Visitor.signedIn(program, "orla");
  private final Visitor hester = Visitor.signedIn(program, "hester");
  private final String username = "starter" + ++made;

  @BeforeEach
  void tuesdayMorning() {
    program.clock().set("2026-11-24T10:00");
  }

  private Map<String, Object> form(String role) {
    var form = new HashMap<String, Object>();
    form.put("version", 0);
    form.put("name", "Starter " + made);
    form.put("username", username);
    form.put("role", role);
    if (role.equals("technician")) {
      form.put("wagePerHour", "17.25");
      form.put("onCostPercent", "23");
    }
    return form;
  }

  private long add(String role) {
    Visitor.Answer added = orla.post("/api/staff", form(role));
    assertThat(added.status()).as(added.text()).isEqualTo(200);
    return added.json().path("id").asLong();
  }

  private String link(long id) {
    return orla.post("/api/staff/" + id + "/password-link", Map.of())
        .json()
        .path("path")
        .asString()
        .replace("/password/", "/api/password-links/");
  }

  private Visitor.Answer signIn(String password) {
    return new Visitor(program)
        .post("/api/sign-in", Map.of("username", username, "password", password));
  }

  private Visitor signedIn(long id) {
    new Visitor(program).post(link(id), Map.of("password", PASSWORD));
    var visitor = new Visitor(program);
    visitor.post("/api/sign-in", Map.of("username", username, "password", PASSWORD));
    return visitor;
  }

  private JsonNode person(long id) {
    for (JsonNode person : orla.get("/api/staff").json()) {
      if (person.path("id").asLong() == id) {
        return person;
      }
    }
    throw new AssertionError("not listed");
  }

  private Visitor.Answer leave(long id, String lastDay) {
    return orla.post(
        "/api/staff/" + id + "/leave",
        Map.of("version", person(id).path("version").asInt(), "lastDay", lastDay));
  }

  @Test
  void a_starter_sets_a_password_with_the_link_and_signs_in() {
    long id = add("office");
    String link = link(id);
    assertThat(new Visitor(program).get(link).json().path("username").asString())
        .isEqualTo(username);
    assertThat(signIn(PASSWORD).status()).isEqualTo(403);
    assertThat(new Visitor(program).post(link, Map.of("password", PASSWORD)).status())
        .isEqualTo(204);
    assertThat(signIn(PASSWORD).status()).isEqualTo(200);
    assertThat(person(id).path("signsIn").asBoolean()).isTrue();
  }

  @Test
  void a_link_is_good_once() {
    String link = link(add("office"));
    new Visitor(program).post(link, Map.of("password", PASSWORD));
    Visitor.Answer again = new Visitor(program).post(link, Map.of("password", "another one 99"));
    assertThat(again.status()).isEqualTo(404);
    assertThat(signIn(PASSWORD).status()).isEqualTo(200);
  }

  @Test
  void a_link_of_two_days_ago_is_good_no_more() {
    String link = link(add("office"));
    program.clock().advance(Duration.ofHours(49));
    assertThat(new Visitor(program).get(link).status()).isEqualTo(404);
  }

  @Test
  void a_new_link_is_in_the_place_of_the_one_before() {
    long id = add("office");
    String before = link(id);
    String now = link(id);
    assertThat(new Visitor(program).get(before).status()).isEqualTo(404);
    assertThat(new Visitor(program).get(now).status()).isEqualTo(200);
  }

  @Test
  void the_link_of_somebody_who_left_is_good_no_more() {
    long id = add("office");
    String link = link(id);
    leave(id, "today");
    assertThat(new Visitor(program).get(link).status()).isEqualTo(404);
  }

  @Test
  void of_a_link_only_its_sum_is_stored() {
    String link = link(add("office"));
    String secret = link.substring(link.lastIndexOf('/') + 1);
    assertThat(program.database().select(PASSWORD_LINK.SECRET_HASH).from(PASSWORD_LINK).fetch())
        .noneMatch(row -> row.value1().contains(secret));
  }

  @Test
  void a_weak_password_is_refused_and_the_link_stays_good() {
    String link = link(add("office"));
    Visitor.Answer refused = new Visitor(program).post(link, Map.of("password", "password1234"));
    assertThat(refused.rule()).isEqualTo("EASILY_GUESSED");
    assertThat(refused.pointer()).isEqualTo("/password");
    assertThat(new Visitor(program).get(link).status()).isEqualTo(200);
  }

  @Test
  void a_technician_has_a_wage_and_a_van_and_can_be_planned() {
    long id = add("technician");
    assertThat(person(id).path("wagePerHour").decimalValue()).isEqualByComparingTo("17.25");
    assertThat(orla.get("/api/choices").text()).contains("Starter " + made);
    assertThat(signedIn(id).get("/api/pocket/parts").status()).isEqualTo(200);
  }

  @Test
  void whoever_leaves_is_signed_out_at_once_and_stays_on_record() {
    long id = add("office");
    Visitor starter = signedIn(id);
    assertThat(starter.get("/api/money-line").status()).isEqualTo(200);
    assertThat(leave(id, "today").status()).isEqualTo(200);
    assertThat(starter.get("/api/money-line").status()).isEqualTo(401);
    assertThat(signIn(PASSWORD).status()).isEqualTo(403);
    assertThat(person(id).path("lastDay").asString()).isEqualTo("2026-11-24");
  }

  @Test
  void the_open_pages_of_whoever_leaves_hear_nothing_more() throws InterruptedException {
    long id = add("office");
    Visitor starter = signedIn(id);
    try (Listener listener = starter.listen("/api/live")) {
      listener.await(Duration.ofSeconds(20), heard -> heard.name().equals("everything"));
      leave(id, "today");
      assertThat(listener.ends(Duration.ofSeconds(20))).isTrue();
    }
    assertThat(starter.get("/api/live").status()).isEqualTo(401);
  }

  @Test
  void whoever_comes_back_signs_in_again() {
    long id = add("office");
    signedIn(id);
    leave(id, "today");
    orla.post(
        "/api/staff/" + id + "/come-back", Map.of("version", person(id).path("version").asInt()));
    assertThat(signIn(PASSWORD).status()).isEqualTo(200);
  }

  @Test
  void whoever_leaves_on_a_day_to_come_works_here_until_then_and_may_stay() {
    long id = add("office");
    leave(id, "27 nov");
    assertThat(person(id).path("active").asBoolean()).isTrue();
    assertThat(person(id).path("lastDay").asString()).isEqualTo("2026-11-27");
    orla.post(
        "/api/staff/" + id + "/come-back", Map.of("version", person(id).path("version").asInt()));
    assertThat(person(id).path("lastDay").isNull()).isTrue();
  }

  @Test
  void the_last_owner_does_not_leave() {
    long id = id("orla");
    assertThat(leave(id, "today").rule()).isEqualTo("LAST_OWNER");
  }

  @Test
  void the_last_owner_becomes_nothing_else() {
    long id = id("orla");
    Visitor.Answer refused =
        orla.put(
            "/api/staff/" + id,
            Map.of(
                "version",
                person(id).path("version").asInt(),
                "name",
                "Orla Ferrow",
                "role",
                "office"));
    assertThat(refused.rule()).isEqualTo("LAST_OWNER");
  }

  @Test
  void only_an_owner_makes_an_owner() {
    assertThat(hester.post("/api/staff", form("owner")).rule()).isEqualTo("OWNER_ONLY");
  }

  @Test
  void a_name_to_sign_in_with_is_somebodys_only_once() {
    add("office");
    Visitor.Answer refused = orla.post("/api/staff", form("office"));
    assertThat(refused.rule()).isEqualTo("REPEATED");
    assertThat(refused.pointer()).isEqualTo("/username");
  }

  @ParameterizedTest
  @CsvSource({
    "name, '', MISSING",
    "username, two words, UNREADABLE",
    "wagePerHour, '', MISSING",
    "wagePerHour, 0, MISSING",
    "onCostPercent, much, UNREADABLE"
  })
  void what_cannot_be_is_refused_by_its_field(String field, String typed, String rule) {
    Map<String, Object> form = form("technician");
    form.put(field, typed);
    Visitor.Answer refused = orla.post("/api/staff", form);
    assertThat(refused.pointer()).isEqualTo("/" + field);
    assertThat(refused.rule()).isEqualTo(rule);
  }

  @Test
  void another_password_of_ones_own_ends_the_other_sessions_and_not_this_one() {
    long id = add("office");
    Visitor here = signedIn(id);
    Visitor elsewhere = signedIn(id);
    // The link signed the first one out, as it does whoever may have been somebody else.
    assertThat(here.get("/api/money-line").status()).isEqualTo(401);
    var third = new Visitor(program);
    third.post("/api/sign-in", Map.of("username", username, "password", PASSWORD));
    assertThat(
            third
                .post(
                    "/api/password", Map.of("present", PASSWORD, "password", "quay lantern eleven"))
                .status())
        .isEqualTo(204);
    assertThat(elsewhere.get("/api/money-line").status()).isEqualTo(401);
    assertThat(third.get("/api/money-line").status()).isEqualTo(200);
  }

  @Test
  void the_present_password_is_asked_for() {
    Visitor starter = signedIn(add("office"));
    Visitor.Answer refused =
        starter.post(
            "/api/password", Map.of("present", "guessed", "password", "quay lantern eleven"));
    assertThat(refused.pointer()).isEqualTo("/present");
    assertThat(signIn(PASSWORD).status()).isEqualTo(200);
  }

  @Test
  void what_was_done_to_somebody_is_told_and_no_password_with_it() {
    long id = add("office");
    signedIn(id);
    assertThat(orla.get("/api/history/person/" + id).text())
        .contains("person_added", "password_link_made", "password_set")
        .doesNotContain("$2a$");
  }

  private long id(String name) {
    return program
        .database()
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq(name))
        .fetchSingle(PERSON.ID);
  }
}
