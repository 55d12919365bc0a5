package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;

/** An answer to a change gives the version that the next change has to name. */
class VersionsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "imre");

  private static int version(Visitor.Answer answer) {
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return answer.json().path("version").asInt();
  }

  private int treat(int version, String vatCode) {
    return version(
        gate.office()
            .put(
                "/api/jobs/" + gate.job() + "/vat",
                Map.of("version", version, "vatCode", vatCode)));
  }

  @Test
  void a_change_goes_on_from_the_answer_to_the_one_before_without_reading_again() {
    gate.checked();
    int second = treat(treat(gate.version(), "reduced"), "zero");
    assertThat(gate.version()).isEqualTo(second);
    int last = treat(second, "");
    assertThat(
            version(
                gate.office()
                    .post("/api/jobs/" + gate.job() + "/invoice", Map.of("version", last))))
        .isGreaterThan(last);
  }

  @Test
  void what_was_just_made_can_be_changed_by_the_version_in_the_answer() {
    Visitor.Answer made =
        gate.office()
            .post(
                "/api/customers",
                Map.of("name", "Nutley", "phone", "01632 960555", "place", "Fen Road 9"));
    Map<String, Object> form =
        Map.of("version", version(made), "name", "Mr Nutley", "phone", "", "paymentDays", "14");
    String path = "/api/customers/" + made.json().path("id").asLong();
    assertThat(gate.office().put(path, form).status()).isEqualTo(200);
    assertThat(gate.office().put(path, form).status()).isEqualTo(409);
  }

  @Test
  void an_invoice_and_its_credit_tell_the_version_of_what_is_owed() {
    gate.checked();
    Visitor.Answer posted = StagedGate.post(gate, StagedGate.bill(gate, "final"));
    int owed = version(posted);
    Visitor.Answer credited =
        gate.office()
            .post(
                "/api/invoices/" + posted.json().path("id").asLong() + "/credits",
                Map.of("version", owed, "kind", "price", "reason", "Agreed on the phone"));
    assertThat(credited.status()).as(credited.text()).isEqualTo(200);
    assertThat(credited.json().path("invoiceVersion").asInt())
        .isEqualTo(gate.invoice().path("version").asInt())
        .isGreaterThan(owed);
  }
}
