package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class RolesTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void a_technician_does_not_see_another_ones_visit() {
    var gate = new SwingGate(program, "ngozi").planned();
    Visitor other = Visitor.signedIn(program, "piet");
    assertThat(other.get("/api/pocket/visits/" + gate.visit()).status()).isEqualTo(404);
    assertThat(other.post("/api/pocket/visits/" + gate.visit() + "/drive", Map.of()).status())
        .isEqualTo(404);
  }

  @Test
  void what_a_technician_gets_holds_no_money() {
    var gate = new SwingGate(program, "ngozi").onSite();
    String seen =
        gate.technician().get("/api/pocket/visits/" + gate.visit()).text()
            + gate.technician().get("/api/pocket/parts").text();
    assertThat(
            seen.replaceAll("\"(promisedNet|told)Minor\":null", "")
                .toLowerCase(java.util.Locale.ROOT))
        .doesNotContain("minor", "cost", "price", "margin", "wage");
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  @Test
  void a_bookkeeper_reads_everything_but_changes_no_job() {
    Visitor maud = Visitor.signedIn(program, "maud");
    assertThat(maud.get("/api/jobs/1").status()).isEqualTo(200);
    assertThat(maud.put("/api/jobs/1/basis", Map.of("version", 1, "basis", "fixed_price")).status())
        .isEqualTo(403);
  }

  @Test
  void what_somebody_may_not_do_is_refused_in_words_that_say_so() {
    Visitor maud = Visitor.signedIn(program, "maud");
    assertThat(maud.put("/api/jobs/1/basis", Map.of("version", 1)).json().path("detail").asString())
        .startsWith("This is for others to do");
  }

  @Test
  void a_bookkeeper_gives_no_money_back_and_answers_no_customer() {
    Visitor maud = Visitor.signedIn(program, "maud");
    assertThat(maud.post("/api/receipts/1/give-back", Map.of("version", 1)).status())
        .isEqualTo(403);
    assertThat(maud.post("/api/quote-questions/1/answer", Map.of("answer", "Yes")).status())
        .isEqualTo(403);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "/api/quotes/1",
        "/api/quotes/1/document",
        "/api/quotes/1/pdf",
        "/api/quotes/1/comparison?before=1&after=2",
        "/api/mail-stand-in"
      })
  void a_customers_link_is_no_way_to_anything_else(String path) {
    assertThat(new Visitor(program).get(path).status()).isEqualTo(401);
  }

  @Test
  void nobody_signs_in_as_the_customer() {
    var answer =
        new Visitor(program)
            .post("/api/sign-in", Map.of("username", "customer", "password", "none"));
    assertThat(answer.status()).isEqualTo(403);
  }

  @Test
  void the_office_does_not_tap_for_a_technician() {
    assertThat(Visitor.signedIn(program, "hester").get("/api/pocket/day").status()).isEqualTo(403);
  }

  @Test
  void nobody_gets_in_without_signing_in() {
    assertThat(new Visitor(program).get("/api/money-line").status()).isEqualTo(401);
  }

  @Test
  void a_wrong_password_is_refused_in_words() {
    var answer =
        new Visitor(program)
            .post("/api/sign-in", Map.of("username", "hester", "password", "wrong"));
    assertThat(answer.status()).isEqualTo(403);
    assertThat(answer.json().path("detail").asString()).contains("not right");
  }

  @Test
  void a_forged_request_without_the_token_is_refused() {
    assertThat(
            Visitor.signedIn(program, "hester")
                .send("POST", "/api/quotes/1/job", "{}", "forged-key-1")
                .status())
        .isEqualTo(403);
  }

  @Test
  void signing_out_ends_the_session() {
    Visitor orla = Visitor.signedIn(program, "orla");
    orla.post("/api/sign-out", Map.of());
    assertThat(orla.get("/api/money-line").status()).isEqualTo(401);
  }
}
