package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.PART;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** A part that becomes equipment of its site, from the phone. */
class FittedEquipmentTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");
  private final String serial = "DRV-" + System.nanoTime();
  private long use;

  @BeforeEach
  void a_ram_that_is_kept_on_record_is_fitted() {
    keptOnRecord(1L);
    gate.onSite();
    gate.at("15:40");
    gate.tap("parts", Map.of("partId", gate.part("RAM-230"), "quantity", "2"));
    use = used().path("id").asLong();
  }

  @AfterEach
  void over() {
    keptOnRecord(null);
    gate.at("16:00");
    gate.tap("finish", Map.of());
  }

  private void keptOnRecord(@org.jspecify.annotations.Nullable Long kind) {
    program
        .database()
        .update(PART)
        .set(PART.EQUIPMENT_KIND_ID, kind)
        .where(PART.NUMBER.eq("RAM-230"))
        .execute();
  }

  private JsonNode used() {
    return gate.technician().get("/api/pocket/visits/" + gate.visit()).json().path("parts").path(0);
  }

  private Visitor.Answer note(String serialNumber, boolean replaces) {
    return gate.tap(
        "serial-numbers",
        Map.of("visitPartId", use, "serialNumber", serialNumber, "replaces", replaces));
  }

  private JsonNode onSite() {
    long customer = gate.sheet().path("customerId").asLong();
    return gate.office().get("/api/customers/" + customer).json().path("sites");
  }

  @Test
  void the_phone_says_how_many_are_to_be_put_on_record_until_each_is() {
    assertThat(used().path("unrecorded").asInt()).isEqualTo(2);
    assertThat(note(serial, false).status()).isEqualTo(200);
    assertThat(used().path("unrecorded").asInt()).isEqualTo(1);
    assertThat(note(serial + "B", false).status()).isEqualTo(200);
    assertThat(note(serial + "C", false).rule()).isEqualTo("ALL_ON_RECORD");
  }

  @Test
  void it_stands_at_the_site_with_its_serial_number() {
    note(serial, false);
    assertThat(onSite().toString()).contains(serial);
  }

  @Test
  void in_the_place_of_the_jobs_equipment_it_takes_that_off_and_only_once() {
    long old =
        program
            .database()
            .fetchSingle("select equipment_id from job where id = ?", gate.job())
            .get(0, Long.class);
    assertThat(note(serial, true).status()).isEqualTo(200);
    assertThat(
            program
                .database()
                .fetchSingle(
                    "select n.serial_number from equipment e join equipment n on n.id = e.replaced_by_id where e.id = ?",
                    old)
                .get(0))
        .isEqualTo(serial);
    assertThat(note(serial + "B", true).rule()).isEqualTo("EQUIPMENT_REPLACED");
    program
        .database()
        .execute("update equipment set replaced_by_id = null, removed_on = null where id = ?", old);
  }

  @Test
  void a_serial_number_that_is_missing_or_on_record_already_is_told_at_its_field() {
    assertThat(note(" ", false).pointer()).isEqualTo("/serialNumber");
    note(serial, false);
    assertThat(note(serial, false).status()).isEqualTo(422);
  }

  @Test
  void a_part_of_another_visit_is_refused() {
    Map<String, Object> form =
        Map.of("visitPartId", use + 100_000, "serialNumber", serial, "replaces", false);
    Visitor.Answer answer = gate.tap("serial-numbers", form);
    assertThat(texts(answer.json().path("errors"), "pointer")).containsExactly("/visitPartId");
  }
}
