package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What others change is told to every open page. */
class LiveTest {
  private static final Duration PATIENCE = Duration.ofSeconds(60);

  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  @BeforeEach
  void tuesdayMorning() {
    program.clock().set("2026-11-24T10:00");
  }

  private void note(String what) {
    Visitor.Answer noted = office.post("/api/to-dos", toDo(what));
    assertThat(noted.status()).as(noted.text()).isEqualTo(200);
  }

  private Map<String, Object> toDo(String what) {
    long hester = office.get("/api/session").json().path("person").path("id").asLong();
    return Map.of("version", 0, "what", what, "forPersonId", hester, "due", "today");
  }

  /** A stream that is open: its first word was heard. */
  private static Listener listening(Visitor visitor) {
    Listener listener = visitor.listen("/api/live");
    listener.await(PATIENCE, heard -> heard.name().equals("everything"));
    return listener;
  }

  @ParameterizedTest
  @ValueSource(strings = {"hester", "maud", "imre"})
  void whoever_is_signed_in_hears_of_a_change(String username) {
    try (Listener listener = listening(Visitor.signedIn(program, username))) {
      note("Call the harbour office");
      listener.await(PATIENCE, heard -> heard.isChangeOf("to_do"));
    }
  }

  @Test
  void nobody_hears_who_is_not_signed_in() {
    try (Listener listener = new Visitor(program).listen("/api/live")) {
      assertThat(listener.status()).isEqualTo(401);
    }
  }

  @Test
  void a_page_of_another_server_on_the_same_database_hears_it_too() {
    try (var other = RunningPragmata.start(RunningPragmata.databaseForTests(), program.clock());
        Listener listener = listening(Visitor.signedInAt(RunningPragmata.address(other), "orla"))) {
      note("Call the brewery");
      listener.await(PATIENCE, heard -> heard.isChangeOf("to_do"));
    }
  }

  @Test
  void what_is_refused_is_told_to_nobody() {
    try (Listener listener = listening(office)) {
      var unreadable = new java.util.HashMap<>(toDo("Never noted"));
      unreadable.put("due", "some day");
      assertThat(office.post("/api/to-dos", unreadable).status()).isEqualTo(422);
      office.put("/api/settings/quoting", Map.of("version", 999));
      note("Noted");
      Listener.Heard first = listener.await(PATIENCE, heard -> heard.name().equals("changed"));
      assertThat(first.isChangeOf("to_do")).isTrue();
    }
  }

  @Test
  void whoever_begins_to_listen_is_told_to_read_everything_with_the_companys_day() {
    program.clock().set("2026-11-24T23:59");
    try (Listener listener = office.listen("/api/live")) {
      Listener.Heard first = listener.await(PATIENCE, heard -> true);
      assertThat(first.name()).isEqualTo("everything");
      assertThat(first.data().path("day").asString()).isEqualTo("2026-11-24");
    }
  }

  @Test
  void who_missed_nothing_since_the_session_was_read_need_not_read_twice() {
    try (Listener listener = office.listen("/api/live?told=" + told())) {
      listener.await(PATIENCE, heard -> heard.name().equals("day"));
      note("Call the sail loft");
      listener.await(PATIENCE, heard -> heard.isChangeOf("to_do"));
    }
  }

  @Test
  void who_missed_a_change_before_the_stream_was_open_is_told_to_read_everything() {
    try (Listener other = listening(office)) {
      String before = told();
      note("Call the cannery");
      other.await(PATIENCE, heard -> heard.isChangeOf("to_do"));
      try (Listener late = office.listen("/api/live?told=" + before)) {
        assertThat(late.await(PATIENCE, heard -> true).name()).isEqualTo("everything");
      }
    }
  }

  private String told() {
    return office.get("/api/session").json().path("told").asString();
  }

  @Test
  void a_page_that_is_open_over_midnight_hears_of_the_new_day() {
    program.clock().set("2026-11-24T23:59");
    try (Listener listener = listening(office)) {
      program.clock().set("2026-11-25T00:01");
      listener.await(
          PATIENCE,
          heard ->
              heard.name().equals("day")
                  && heard.data().path("day").asString().equals("2026-11-25"));
    }
  }

  @Test
  void a_connection_that_is_lost_is_made_anew_and_everything_is_to_be_read() {
    try (Listener listener = listening(office)) {
      program
          .database()
          .fetch(
              """
              select pg_terminate_backend(pid) from pg_stat_activity
                where datname = current_database() and application_name = 'pragmata live'
              """);
      listener.await(PATIENCE, heard -> heard.name().equals("everything"));
      note("Call the lock-up");
      listener.await(PATIENCE, heard -> heard.isChangeOf("to_do"));
    }
  }

  @Test
  void a_reader_who_leaves_is_forgotten_and_the_others_go_on() {
    try (Listener stays = listening(office)) {
      listening(office).close();
      for (String what : List.of("One", "Two", "Three")) {
        note(what);
        stays.await(PATIENCE, heard -> heard.isChangeOf("to_do"));
      }
    }
  }
}
