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
