package app.pragmata.server;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.MAIL;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TEXT_MESSAGE;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_MESSAGE;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.generated.tables.records.MailRecord;
import app.pragmata.server.telling.ToldKind;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What customers and technicians' calendars are told of visits. */
class TellingTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate gate;
  private long customer;

  @BeforeEach
  void prepare() {
    gate = new SwingGate(program, "piet").waiting();
    customer =
        program
            .database()
            .select(JOB.CUSTOMER_ID)
            .from(JOB)
            .where(JOB.ID.eq(gate.job()))
            .fetchSingle()
            .value1();
    program
        .database()
        .update(CUSTOMER)
        .set(CUSTOMER.EMAIL, "gates@harbour.example")
        .set(CUSTOMER.PHONE, "01632 960100")
        .where(CUSTOMER.ID.eq(customer))
        .execute();
  }

  @AfterEach
  void tellNobody() {
    toldBy("nobody", "nobody");
  }

  private void toldBy(String plan, String coming) {
    assertThat(
            gate.office()
                .put(
                    "/api/customers/" + customer + "/told-by",
                    Map.of("plan", plan, "coming", coming, "reportCopy", "none"))
                .status())
        .isEqualTo(200);
  }

  private void plan(String start) {
    plan(gate, gate.day(), start);
  }

  private void plan(SwingGate gate, LocalDate day, String start) {
    var form = new HashMap<String, Object>();
    form.put("version", gate.visitVersion());
    form.put("technicianId", person());
    form.put("day", day.toString());
    form.put("start", start);
    form.put("expected", "1:30");
    form.put("overruled", SwingGate.ANYTHING);
    Visitor.Answer planned = gate.office().put("/api/visits/" + gate.visit() + "/plan", form);
    assertThat(planned.status()).as(planned.text()).isEqualTo(200);
  }

  private long person() {
    return program
        .database()
        .select(PERSON.ID)
        .from(PERSON)
        .where(PERSON.USERNAME.eq("piet"))
        .fetchSingle()
        .value1();
  }

  private void awaitTold(ToldKind kind) {
    awaitTold(gate, kind);
  }

  private void awaitTold(SwingGate gate, ToldKind kind) {
    RunningPragmata.until(() -> count(gate, kind) > 0);
  }

  private int count(SwingGate gate, ToldKind kind) {
    return program
        .database()
        .fetchCount(
            VISIT_MESSAGE,
            VISIT_MESSAGE.VISIT_ID.eq(gate.visit()).and(VISIT_MESSAGE.KIND.eq(kind)));
  }

  private MailRecord lastMail() {
    return program
        .database()
        .selectFrom(MAIL)
        .where(MAIL.CUSTOMER_ID.eq(customer))
        .orderBy(MAIL.ID.desc())
        .limit(1)
        .fetchSingle();
  }

  private JsonNode told() {
    return gate.office().get("/api/visits/" + gate.visit() + "/messages").json().path("messages");
  }

  @Test
  void a_planned_visit_is_confirmed_with_its_window_and_an_entry_for_the_calendar() {
    toldBy("mail", "nobody");
    plan("10:15");
    awaitTold(ToldKind.CONFIRMED);
    MailRecord mail = lastMail();
    assertThat(mail.getToAddress()).contains("@");
    assertThat(mail.getSubject()).startsWith("Our visit on").contains("between 10:00 and 11:00");
    assertThat(mail.getBody()).contains("Piet Osei comes on", "Expected to take: 1:30 h");
    assertThat(mail.getBody()).contains("It costs what we have quoted: ");
    assertThat(mail.getCalendar())
        .contains("METHOD:REQUEST", "UID:visit-" + gate.visit() + "@", "SEQUENCE:0");
  }

  @Test
  void a_change_is_told_with_the_same_entry_one_version_on_and_what_is_known_is_not_told_again() {
    toldBy("mail", "nobody");
    plan("10:15");
    awaitTold(ToldKind.CONFIRMED);
    plan("13:00");
    awaitTold(ToldKind.CHANGED);
    assertThat(lastMail().getCalendar())
        .contains("METHOD:REQUEST", "UID:visit-" + gate.visit() + "@", "SEQUENCE:1");
    Visitor.Answer again =
        gate.office().post("/api/visits/" + gate.visit() + "/messages", Map.of());
    assertThat(again.json().path("told").isNull()).isTrue();
    assertThat(told()).hasSize(2);
  }

  @Test
  void a_visit_that_is_taken_off_its_day_is_taken_out_of_the_calendar() {
    toldBy("mail", "nobody");
    plan("10:15");
    awaitTold(ToldKind.CONFIRMED);
    gate.office()
        .post("/api/visits/" + gate.visit() + "/unplan", Map.of("version", gate.visitVersion()));
    awaitTold(ToldKind.CALLED_OFF);
    assertThat(lastMail().getSubject()).startsWith("Called off");
    assertThat(lastMail().getCalendar()).contains("METHOD:CANCEL", "SEQUENCE:1");
  }

  @Test
  void whoever_wants_text_messages_gets_one_and_it_is_read_on_its_page() {
    toldBy("text", "text");
    plan("15");
    awaitTold(ToldKind.CONFIRMED);
    RunningPragmata.until(
        () ->
            program
                .database()
                .fetchExists(
                    TEXT_MESSAGE,
                    TEXT_MESSAGE
                        .BODY
                        .contains("comes on")
                        .and(TEXT_MESSAGE.SENT_AT.isNotNull())
                        .and(TEXT_MESSAGE.TO_NUMBER.eq("01632 960100"))));
    assertThat(gate.office().get("/api/texts").json().path("texts").path(0).path("body").asString())
        .startsWith("Our visit on");
  }

  @Test
  void who_was_told_of_a_visit_is_reminded_of_it_once_on_the_workday_before() {
    LocalDate before = SwingGate.takeDay(program);
    LocalDate day = SwingGate.takeDay(program);
    var other = gate.beside().waiting();
    toldBy("mail", "nobody");
    plan(gate, day, "10:15");
    awaitTold(ToldKind.CONFIRMED);
    plan(other, day, "13:00");
    awaitTold(other, ToldKind.CONFIRMED);
    knows(other, false);
    program.clock().set(before + "T16:00");
    awaitTold(ToldKind.REMINDED);
    assertThat(lastMail().getSubject())
        .startsWith("Reminder: our visit on")
        .contains("between 10:00 and 11:00");
    // By the time the other one is reminded the first has been looked at again.
    knows(other, true);
    awaitTold(other, ToldKind.REMINDED);
    assertThat(count(gate, ToldKind.REMINDED)).isEqualTo(1);
  }

  /** As if this visit's customer had been told of another time, or of this one. */
  private void knows(SwingGate gate, boolean asItIs) {
    program
        .database()
        .update(VISIT)
        .set(VISIT.TOLD_START, LocalTime.parse(asItIs ? "13:00" : "09:00"))
        .where(VISIT.ID.eq(gate.visit()))
        .execute();
  }

  @Test
  void who_was_told_that_very_day_is_not_reminded() {
    LocalDate before = SwingGate.takeDay(program);
    LocalDate day = SwingGate.takeDay(program);
    var toldEarlier = gate.beside().waiting();
    toldBy("mail", "nobody");
    plan(toldEarlier, day, "13:00");
    awaitTold(toldEarlier, ToldKind.CONFIRMED);
    program.clock().set(before + "T15:30");
    plan(gate, day, "10:15");
    awaitTold(ToldKind.CONFIRMED);
    program.clock().set(before + "T16:00");
    awaitTold(toldEarlier, ToldKind.REMINDED);
    assertThat(count(gate, ToldKind.REMINDED)).isZero();
  }

  @Test
  void whoever_sets_off_is_announced_at_once() {
    plan("15");
    toldBy("nobody", "text");
    gate.at("14:20");
    assertThat(gate.tap("drive", Map.of()).status()).isEqualTo(200);
    awaitTold(ToldKind.ON_THE_WAY);
    assertThat(gate.office().get("/api/texts").json().path("texts").path(0).path("body").asString())
        .startsWith("Piet Osei is on the way")
        .containsPattern("arrive at about 1[45]:[0-5][05]");
    gate.at("15:00");
    gate.tap("arrive", Map.of("miles", "3"));
    gate.tap("finish", Map.of("note", "Done"));
  }

  @Test
  void nobody_is_told_who_did_not_ask_for_it_but_the_office_can_tell_them() {
    plan("10:15");
    assertThat(told()).isEmpty();
    assertThat(
            gate.office()
                .post("/api/visits/" + gate.visit() + "/messages", Map.of())
                .json()
                .path("told")
                .asString())
        .isEqualTo("confirmed");
    assertThat(told()).hasSize(1);
  }

  @Test
  void work_that_is_written_down_afterwards_is_told_to_nobody() {
    gate.at("16:00");
    plan("10:15");
    Visitor.Answer told = gate.office().post("/api/visits/" + gate.visit() + "/messages", Map.of());
    assertThat(told.json().path("told").isNull()).isTrue();
    assertThat(told()).isEmpty();
  }

  @Test
  void a_customer_sees_the_next_visits() {
    plan("10:45");
    JsonNode next = gate.office().get("/api/customers/" + customer + "/visits").json().path("next");
    assertThat(next.valueStream().filter(visit -> visit.path("visitId").asLong() == gate.visit()))
        .singleElement()
        .satisfies(
            visit -> assertThat(visit.path("window").path("from").asString()).startsWith("10:30"));
  }

  private String feed() {
    String address =
        gate.technician().post("/api/pocket/calendar", Map.of()).json().path("address").asString();
    return address.substring(address.indexOf("/api/"));
  }

  @Test
  void a_technicians_calendar_follows_until_its_address_is_withdrawn() {
    plan("10:15");
    String address = feed();
    Visitor anybody = new Visitor(program);
    assertThat(anybody.get(address).text())
        .contains("BEGIN:VCALENDAR", "UID:stop-" + gate.visit() + "@")
        .doesNotContain("METHOD");
    String newer = feed();
    assertThat(anybody.get(address).status()).isEqualTo(404);
    assertThat(anybody.get(newer).status()).isEqualTo(200);
    gate.technician().delete("/api/pocket/calendar");
    gate.technician().delete("/api/pocket/calendar");
    assertThat(anybody.get(newer).status()).isEqualTo(404);
    assertThat(List.of("x", "%00", "a".repeat(5_000)))
        .allSatisfy(
            secret -> assertThat(anybody.get("/api/calendars/" + secret).status()).isIn(400, 404));
  }
}
