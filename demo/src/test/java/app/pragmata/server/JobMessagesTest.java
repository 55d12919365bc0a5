package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What technicians and the office say to each other about a job. */
class JobMessagesTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "ngozi").planned();

  private String onPhone() {
    return "/api/pocket/visits/" + gate.visit();
  }

  private Visitor.Answer fromSite(String text) {
    return gate.technician().post(onPhone() + "/messages", Map.of("text", text));
  }

  private Visitor.Answer fromOffice(String text) {
    return gate.office().post("/api/jobs/" + gate.job() + "/messages", Map.of("text", text));
  }

  private JsonNode onSheet() {
    return gate.office().get("/api/jobs/" + gate.job() + "/messages").json();
  }

  /** How often the office's words wait to be seen among the stops of the gate's day. */
  private int unseen() {
    gate.at("07:30");
    for (JsonNode stop : gate.technician().get("/api/pocket/day").json().path("stops")) {
      if (stop.path("visitId").asLong() == gate.visit()) {
        return stop.path("unseenMessages").asInt();
      }
    }
    throw new AssertionError("It is no stop of the day");
  }

  @Test
  void what_a_technician_writes_stands_on_the_sheet_and_is_a_to_do_until_it_is_answered() {
    assertThat(fromSite("Which code opens the yard?").status()).isEqualTo(200);
    assertThat(texts(onSheet(), "text")).containsExactly("Which code opens the yard?");
    assertThat(texts(onSheet(), "sentBy")).containsExactly("Ngozi Adair");
    assertThat(gate.toDos()).singleElement().asString().contains("Which code opens the yard?");
    assertThat(fromOffice("4711").status()).isEqualTo(200);
    assertThat(gate.toDos()).isEmpty();
  }

  @Test
  void two_questions_are_one_to_do() {
    fromSite("Which code opens the yard?");
    fromSite("Is anybody there before nine?");
    assertThat(gate.toDos()).hasSize(1);
    assertThat(onSheet()).hasSize(2);
  }

  @Test
  void what_the_office_writes_is_marked_on_the_phone_until_it_is_seen() {
    fromOffice("The customer comes at ten");
    assertThat(unseen()).isEqualTo(1);
    assertThat(texts(gate.technician().get(onPhone()).json().path("messages"), "text"))
        .containsExactly("The customer comes at ten");
    gate.technician().post(onPhone() + "/messages/seen", Map.of());
    assertThat(unseen()).isZero();
    assertThat(onSheet().path(0).path("seenAt").isNull()).isFalse();
  }

  @Test
  void a_message_that_is_sent_twice_under_one_key_stands_once() {
    String key = "message-twice-" + gate.visit();
    gate.technician().post(onPhone() + "/messages", Map.of("text", "Here"), key);
    gate.technician().post(onPhone() + "/messages", Map.of("text", "Here"), key);
    assertThat(onSheet()).hasSize(1);
  }

  @Test
  void nobody_writes_about_or_reads_a_visit_that_is_not_theirs() {
    Visitor other = Visitor.signedIn(program, "piet");
    assertThat(other.post(onPhone() + "/messages", Map.of("text", "Hm")).rule())
        .isEqualTo("NOT_FOUND");
    assertThat(other.post(onPhone() + "/messages/seen", Map.of()).rule()).isEqualTo("NOT_FOUND");
    assertThat(onSheet()).isEmpty();
  }

  @Test
  void an_empty_message_and_a_very_long_one_are_refused_at_their_field() {
    assertThat(fromSite("  ").pointer()).isEqualTo("/text");
    assertThat(fromOffice("x".repeat(1001)).pointer()).isEqualTo("/text");
  }

  @Test
  void it_is_in_the_jobs_history() {
    fromSite("Which code opens the yard?");
    assertThat(texts(gate.history(), "event")).contains("message_sent");
  }
}
