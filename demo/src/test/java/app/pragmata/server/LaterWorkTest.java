package app.pragmata.server;

import static app.pragmata.server.generated.Tables.IMPORT_ROW;
import static app.pragmata.server.generated.Tables.MAIL;
import static app.pragmata.server.generated.Tables.REPEATABLE_REQUEST;
import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.demo.MailStandIn;
import app.pragmata.server.mail.MailQueue;
import app.pragmata.server.records.Act;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.transaction.support.TransactionTemplate;

/** What the program does by itself, later or over and over. */
class LaterWorkTest {
  private static final int MESSAGES = 40;

  private final RunningPragmata program = RunningPragmata.forTests();
  private final DSLContext database = program.database();
  private final Visitor office = Visitor.signedIn(program, "hester");

  @BeforeEach
  void tuesdayMorning() {
    program.clock().set("2026-11-24T10:00");
  }

  private List<Long> queued(String name, int count) {
    var act = Act.ofProgram(program.clock().instant(), ZoneId.of("Europe/London"));
    return program
        .bean(TransactionTemplate.class)
        .execute(
            status ->
                IntStream.range(0, count)
                    .mapToObj(
                        i ->
                            program
                                .bean(MailQueue.class)
                                .queue(
                                    act,
                                    MailQueue.Letter.of(
                                        "somebody@example.org", name + " " + i, "Text", null)))
                    .toList());
  }

  @Test
  void servers_that_send_at_once_hand_each_message_over_once() {
    var standIn = program.bean(MailStandIn.class);
    program.sendMail();
    int before = standIn.received();
    queued("At once", MESSAGES);
    try (var threads = Executors.newVirtualThreadPerTaskExecutor()) {
      for (int i = 0; i < 4; i++) {
        threads.execute(program::sendMailFromHere);
      }
    }
    program.sendMail();
    assertThat(standIn.received() - before).isEqualTo(MESSAGES);
  }

  @Test
  void a_message_that_a_server_took_up_and_never_handed_over_is_sent_a_minute_later() {
    program.mailServer(false);
    long id;
    try {
      id = queued("Taken up", 1).getFirst();
      program.sendMail();
      database.execute(
          "update mail set state = 'going_out', next_attempt_at = ?::timestamptz where id = ?",
          program.clock().instant().plus(Duration.ofSeconds(45)).toString(),
          id);
    } finally {
      program.mailServer(true);
    }
    program.sendMailFromHere();
    assertThat(state(id)).isEqualTo("going_out");
    program.clock().advance(Duration.ofMinutes(1));
    program.sendMail();
    assertThat(state(id)).isEqualTo("sent");
  }

  private String state(long id) {
    return database.fetchSingle("select state from mail where id = ?", id).get(0, String.class);
  }

  @Test
  void a_list_whose_run_fails_again_and_again_says_so_and_can_be_taken_in_once_it_is_mended() {
    long id =
        office
            .upload(
                "/api/imports?kind=customers",
                "reference,name\nFAIL-1,Fails at first\n".getBytes(StandardCharsets.UTF_8))
            .json()
            .path("id")
            .asLong();
    // A formula beyond the last column, as no list that was read can have.
    formulas(id, (short) 9);
    take(id, List.of("reference", "name"));
    RunningPragmata.until(() -> isIn(id, "failed"));
    assertThat(office.get("/api/imports/" + id).json().path("problem").asString())
        .contains("Take it in again");
    formulas(id);
    take(id, List.of("reference", "name"));
    RunningPragmata.until(() -> isIn(id, "taken"));
  }

  private void formulas(long id, Short... places) {
    database
        .update(IMPORT_ROW)
        .set(IMPORT_ROW.FORMULAS, places)
        .where(IMPORT_ROW.IMPORT_ID.eq(id))
        .execute();
  }

  private void take(long id, List<String> mapping) {
    Visitor.Answer taken = office.post("/api/imports/" + id + "/take", Map.of("mapping", mapping));
    assertThat(taken.status()).as(taken.text()).isEqualTo(200);
  }

  private boolean isIn(long id, String state) {
    return office.get("/api/imports/" + id).json().path("state").asString().equals(state);
  }

  @Test
  void what_was_kept_long_enough_is_deleted_and_nothing_else() {
    String old = UUID.randomUUID().toString();
    String young = UUID.randomUUID().toString();
    request(old, 31);
    request(young, 29);
    List<Long> mail = queued("Kept", 2);
    program.sendMail();
    age("mail", "queued_at", mail.getFirst(), 2 * 365 + 1);
    List<Long> lists = List.of(list(), list());
    age("import", "uploaded_at", lists.getFirst(), 31);
    program.forget();
    assertThat(requests(old)).isZero();
    assertThat(requests(young)).isEqualTo(1);
    assertThat(database.fetchCount(MAIL, MAIL.ID.eq(mail.getFirst()))).isZero();
    assertThat(database.fetchCount(MAIL, MAIL.ID.eq(mail.getLast()))).isEqualTo(1);
    assertThat(rows(lists.getFirst())).isZero();
    assertThat(rows(lists.getLast())).isEqualTo(1);
  }

  private void request(String key, int days) {
    database.execute(
        """
        insert into repeatable_request (person_id, key, operation, content, at)
          select id, ?, 'test', '', ?::timestamptz from person where username = 'hester'
        """,
        key,
        program.clock().instant().minus(Duration.ofDays(days)).toString());
  }

  private int requests(String key) {
    return database.fetchCount(REPEATABLE_REQUEST, REPEATABLE_REQUEST.KEY.eq(key));
  }

  private long list() {
    return office
        .upload("/api/imports?kind=customers", "name\nKept\n".getBytes(StandardCharsets.UTF_8))
        .json()
        .path("id")
        .asLong();
  }

  private int rows(long importId) {
    return database.fetchCount(IMPORT_ROW, IMPORT_ROW.IMPORT_ID.eq(importId));
  }

  private void age(String table, String column, long id, int days) {
    database.execute(
        "update %s set %s = ?::timestamptz where id = ?".formatted(table, column),
        program.clock().instant().minus(Duration.ofDays(days)).toString(),
        id);
  }
}
