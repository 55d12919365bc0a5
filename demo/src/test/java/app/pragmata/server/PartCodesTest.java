package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The codes on parts' boxes, which are known once somebody has scanned one and taken the part. */
class PartCodesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");

  @BeforeEach
  void on_site() {
    gate.onSite();
  }

  @AfterEach
  void over() {
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  private Visitor.Answer take(String part, String code) {
    return gate.tap("parts", Map.of("partId", gate.part(part), "quantity", "1", "code", code));
  }

  private List<String> found(String typed) {
    return texts(gate.technician().get("/api/pocket/parts?q=" + typed).json(), "number");
  }

  @Test
  void a_scanned_code_is_known_once_its_part_was_taken() {
    assertThat(found("5012345678900")).isEmpty();
    assertThat(take("PHO-02", "5012345678900").status()).isEqualTo(200);
    assertThat(found("5012345678900")).containsExactly("PHO-02");
  }

  @Test
  void whoever_says_it_last_is_believed() {
    take("PHO-02", "5012345678917");
    take("LMP-F", "5012345678917");
    assertThat(found("5012345678917")).containsExactly("LMP-F");
  }

  private String codes(String part) {
    return "/api/held-parts/" + gate.part(part) + "/codes";
  }

  @Test
  void the_office_sees_who_said_what_a_code_is_and_takes_it_off() {
    take("PHO-02", "5012345678931");
    var code =
        gate.office()
            .get(codes("PHO-02"))
            .json()
            .valueStream()
            .filter(each -> each.path("code").asString().equals("5012345678931"))
            .findFirst()
            .orElseThrow();
    assertThat(code.path("by").asString()).isEqualTo("Dilys Marrant");
    Visitor.Answer left =
        gate.office().post(codes("PHO-02") + "/take-off", Map.of("code", "5012345678931"));
    assertThat(texts(left.json(), "code")).doesNotContain("5012345678931");
    assertThat(found("5012345678931")).isEmpty();
  }

  @Test
  void the_office_says_what_a_code_is_also_in_place_of_what_it_was() {
    take("PHO-02", "5012345678948");
    assertThat(
            texts(
                gate.office().post(codes("LMP-F"), Map.of("code", "5012345678948")).json(), "code"))
        .contains("5012345678948");
    assertThat(found("5012345678948")).containsExactly("LMP-F");
  }

  @Test
  void taking_a_code_off_another_part_leaves_it_where_it_is() {
    take("PHO-02", "5012345678955");
    gate.office().post(codes("LMP-F") + "/take-off", Map.of("code", "5012345678955"));
    assertThat(found("5012345678955")).containsExactly("PHO-02");
  }

  @Test
  void no_code_and_one_that_is_too_short_are_told_at_the_field() {
    assertThat(gate.office().post(codes("LMP-F"), Map.of()).pointer()).isEqualTo("/code");
    assertThat(gate.office().post(codes("LMP-F"), Map.of("code", "12")).pointer())
        .isEqualTo("/code");
    assertThat(gate.office().post("/api/held-parts/0/codes", Map.of("code", "50123")).status())
        .isEqualTo(404);
  }

  @Test
  void a_phone_without_a_network_knows_the_codes() {
    take("PHO-02", "5012345678924");
    assertThat(gate.technician().get("/api/pocket/carried-parts").text()).contains("5012345678924");
  }

  @Test
  void a_part_taken_without_a_scan_says_nothing_of_codes() {
    take("PHO-02", "");
    assertThat(gate.sheet().path("visits").path(0).path("parts")).hasSize(1);
  }

  @Test
  void a_code_that_is_none_is_told_at_its_field_and_nothing_is_taken() {
    assertThat(take("PHO-02", "12").pointer()).isEqualTo("/code");
    assertThat(take("PHO-02", "1".repeat(81)).pointer()).isEqualTo("/code");
    assertThat(gate.sheet().path("visits").path(0).path("parts")).isEmpty();
  }
}
