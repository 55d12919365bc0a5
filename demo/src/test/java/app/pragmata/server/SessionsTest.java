package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class SessionsTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @ParameterizedTest
  @CsvSource({"hester,office", "imre,technician", "maud,bookkeeper", "orla,owner"})
  void each_of_the_demo_people_signs_in_and_is_known_by_role(String username, String role) {
    assertThat(
            Visitor.signedIn(program, username)
                .get("/api/session")
                .json()
                .path("person")
                .path("role")
                .asString())
        .isEqualTo(role);
  }

  @ParameterizedTest
  @CsvSource({"' Hester '", "HESTER"})
  void a_name_is_taken_whatever_its_case_and_blanks(String typed) {
    assertThat(
            new Visitor(program)
                .post("/api/sign-in", Map.of("username", typed, "password", "ostmere"))
                .status())
        .isEqualTo(200);
  }

  @Test
  void a_password_is_taken_exactly_as_it_is() {
    assertThat(
            new Visitor(program)
                .post("/api/sign-in", Map.of("username", "hester", "password", "Ostmere"))
                .status())
        .isEqualTo(403);
  }

  @Test
  void an_unknown_name_gets_the_same_answer_as_a_wrong_password() {
    var unknown =
        new Visitor(program)
            .post("/api/sign-in", Map.of("username", "nobody", "password", "ostmere"));
    var wrong =
        new Visitor(program).post("/api/sign-in", Map.of("username", "hester", "password", "x"));
    assertThat(unknown).isEqualTo(wrong);
  }

  @Test
  void an_empty_sign_in_is_refused_and_not_an_error() {
    assertThat(new Visitor(program).post("/api/sign-in", Map.of()).status()).isEqualTo(403);
  }

  @Test
  void nobody_signed_in_is_told_the_company_and_nothing_more() {
    var session = new Visitor(program).get("/api/session").json();
    assertThat(session.path("company").asString()).isEqualTo("Ferrow Gate & Shutter");
    assertThat(session.path("person").isNull() || session.path("person").isMissingNode()).isTrue();
  }

  @Test
  void a_session_that_was_ended_elsewhere_answers_that_it_has_ended() {
    Visitor orla = Visitor.signedIn(program, "orla");
    program.database().execute("delete from spring_session");
    assertThat(orla.get("/api/money-line").status()).isEqualTo(401);
  }

  @Test
  void pages_may_load_nothing_from_anywhere_else() {
    assertThat(new Visitor(program).header("/", "Content-Security-Policy"))
        .contains("default-src 'self'");
  }

  @Test
  void an_address_of_the_api_that_does_not_exist_is_not_answered_with_a_page() {
    assertThat(Visitor.signedIn(program, "hester").get("/api/nowhere").status()).isEqualTo(404);
  }
}
