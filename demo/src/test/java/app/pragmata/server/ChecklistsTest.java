package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** What is gone through and measured on site, from the office's list to the job's sheet. */
class ChecklistsTest {
  private static final Map<String, Object> FORCE =
      Map.of(
          "question", "Closing force",
          "asks", "measurement",
          "unit", "N",
          "most", "400",
          "required", true,
          "raisesToDo", true);
  private static final Map<String, Object> OBSTACLE =
      Map.of(
          "question",
          "Stops at an obstacle",
          "asks",
          "yes_no",
          "wrong",
          List.of("no"),
          "required",
          false,
          "raisesToDo",
          false);
  private static final Map<String, Object> PLATE =
      Map.of(
          "question", "The rating plate", "asks", "photo", "required", false, "raisesToDo", false);

  private final RunningPragmata program = RunningPragmata.forTests();
  private final SwingGate gate = new SwingGate(program, "dilys");
  private long list;

  @BeforeEach
  void a_list_of_the_gates_kind() {
    gate.onSite();
    gate.at("15:30");
    list = save(0, form(0, FORCE, OBSTACLE, PLATE)).json().path("id").asLong();
  }

  @AfterEach
  void out_of_use() {
    useNoMore();
    gate.at("16:00");
    gate.tap("finish", Map.of("outcome", "come_again", "reason", "Test is over"));
  }

  private void useNoMore() {
    JsonNode now = sheet();
    var form = new HashMap<>(form(now.path("version").asInt(), FORCE));
    form.put("name", now.path("name").asString());
    form.put("active", false);
    assertThat(save(list, form).status()).isEqualTo(200);
  }

  @SafeVarargs
  private Map<String, Object> form(int version, Map<String, Object>... items) {
    var asked = new ArrayList<Map<String, Object>>();
    for (Map<String, Object> item : items) {
      asked.add(item);
    }
    var form = new HashMap<String, Object>();
    form.put("version", version);
    form.put("name", "List of visit " + gate.visit());
    form.put("kindOfJobId", kindOfJob());
    form.put("active", true);
    form.put("items", asked);
    return form;
  }

  private long kindOfJob() {
    return program
        .database()
        .fetchSingle("select kind_of_job_id from job where id = ?", gate.job())
        .get(0, Long.class);
  }

  private Visitor.Answer save(long id, Map<String, Object> form) {
    return id == 0
        ? gate.office().post("/api/checklists", form)
        : gate.office().put("/api/checklists/" + id, form);
  }

  private JsonNode sheet() {
    return gate.office().get("/api/checklists/" + list).json();
  }

  @SafeVarargs
  private void change(Map<String, Object>... items) {
    Visitor.Answer answer = save(list, form(sheet().path("version").asInt(), items));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
  }

  private JsonNode onPhone() {
    return own(
        gate.technician().get("/api/pocket/visits/" + gate.visit()).json().path("checklists"));
  }

  private JsonNode onSheet() {
    for (JsonNode visit : gate.office().get("/api/jobs/" + gate.job() + "/checklists").json()) {
      return own(visit.path("checklists"));
    }
    return gate.sheet().path("nothing");
  }

  private JsonNode own(JsonNode lists) {
    for (JsonNode each : lists) {
      if (each.path("checklistId").asLong() == list) {
        return each;
      }
    }
    return lists.path("nothing");
  }

  private JsonNode item(JsonNode checklist, String question) {
    for (JsonNode each : checklist.path("items")) {
      if (each.path("question").asString().equals(question)) {
        return each;
      }
    }
    return checklist.path("nothing");
  }

  private long itemId(String question) {
    return item(onPhone(), question).path("id").asLong();
  }

  private Map<String, Object> said(long item, String answer, String word) {
    return Map.of("checklistItemId", item, "answer", answer, "doesNotApply", false, "word", word);
  }

  private Visitor.Answer answer(String question, String answer, String word) {
    return gate.tap("checklist-answers", said(itemId(question), answer, word));
  }

  @Test
  void a_visit_goes_through_the_lists_of_its_kind_of_job() {
    assertThat(texts(onPhone().path("items"), "question"))
        .containsExactly("Closing force", "Stops at an obstacle", "The rating plate");
  }

  @Test
  void one_of_another_kind_of_equipment_is_not_gone_through_and_takes_no_answer() {
    long force = itemId("Closing force");
    var form = new HashMap<>(form(1, FORCE));
    form.put("equipmentKindId", otherEquipmentKind());
    assertThat(save(list, form).status()).isEqualTo(200);
    assertThat(onPhone().isMissingNode()).isTrue();
    Visitor.Answer answer = gate.tap("checklist-answers", said(force, "380", ""));
    assertThat(answer.status()).isEqualTo(404);
    assertThat(texts(answer.json().path("errors"), "pointer")).containsExactly("/checklistItemId");
  }

  private long otherEquipmentKind() {
    return program
        .database()
        .fetchSingle(
            """
            select min(k.id) from equipment_kind k where k.id is distinct from
              (select e.equipment_kind_id from job j join equipment e on e.id = j.equipment_id where j.id = ?)
            """,
            gate.job())
        .get(0, Long.class);
  }

  @Test
  void an_answer_stands_on_the_jobs_sheet_in_its_plain_form_with_who_gave_it() {
    answer("Closing force", "380.0 N", "");
    JsonNode given = item(onSheet(), "Closing force").path("given");
    assertThat(given.path("answer").asString()).isEqualTo("380");
    assertThat(given.path("outOfLimits").asBoolean()).isFalse();
    assertThat(given.path("answeredBy").asString()).startsWith("Dilys");
    assertThat(gate.toDos()).isEmpty();
  }

  @Test
  void what_is_out_of_limits_takes_a_word_before_it_is_noted() {
    Visitor.Answer answer = answer("Closing force", "412", "");
    assertThat(answer.status()).isEqualTo(422);
    assertThat(texts(answer.json().path("errors"), "pointer")).containsExactly("/word");
    assertThat(texts(answer.json().path("errors"), "rule")).containsExactly("OUT_OF_LIMITS");
    assertThat(item(onPhone(), "Closing force").path("given").isNull()).isTrue();
  }

  @Test
  void the_office_hears_of_it_with_what_was_done_until_it_is_answered_anew() {
    answer("Closing force", "412", "Limiter set, measure again");
    assertThat(gate.toDos())
        .singleElement()
        .asString()
        .contains("Closing force: 412 N", "Limiter set");
    answer("Closing force", "372", "");
    assertThat(gate.toDos()).isEmpty();
  }

  @Test
  void what_the_list_does_not_want_the_office_to_hear_only_stands_on_the_sheet() {
    answer("Stops at an obstacle", "no", "Photocell moved");
    assertThat(
            item(onSheet(), "Stops at an obstacle").path("given").path("outOfLimits").asBoolean())
        .isTrue();
    assertThat(gate.toDos()).isEmpty();
  }

  @Test
  void the_same_answer_again_under_one_key_and_under_another_is_one() {
    var form = said(itemId("Closing force"), "412", "Set anew");
    String path = "/api/pocket/visits/" + gate.visit() + "/checklist-answers";
    gate.technician().post(path, form, "answer-once-" + gate.visit());
    gate.technician().post(path, form, "answer-once-" + gate.visit());
    gate.technician().post(path, form, "answer-again-" + gate.visit());
    assertThat(gate.toDos()).hasSize(1);
    assertThat(item(onPhone(), "Closing force").path("given").path("version").asInt()).isEqualTo(1);
  }

  @Test
  void a_question_that_does_not_apply_takes_a_word_and_counts_as_answered() {
    var form = new HashMap<String, Object>(said(itemId("Closing force"), "", ""));
    form.put("doesNotApply", true);
    assertThat(gate.tap("checklist-answers", form).status()).isEqualTo(422);
    form.put("word", "A barrier without an edge");
    assertThat(gate.tap("checklist-answers", form).status()).isEqualTo(200);
    assertThat(gate.tap("finish", Map.of()).status()).isEqualTo(200);
  }

  @Test
  void what_is_asked_for_is_said_before_the_end_and_come_again_needs_none_of_it() {
    Visitor.Answer answer = gate.tap("finish", Map.of());
    assertThat(answer.status()).isEqualTo(422);
    assertThat(texts(answer.json().path("errors"), "pointer")).containsExactly("/checklists");
    assertThat(answer.text()).contains("Closing force").doesNotContain("Stops at an obstacle");
    assertThat(
            gate.tap("finish", Map.of("outcome", "come_again", "reason", "No gauge here")).status())
        .isEqualTo(200);
  }

  @Test
  void a_photo_answers_the_question_for_which_it_was_taken() {
    var plate = new HashMap<>(PLATE);
    plate.put("required", true);
    change(plate);
    assertThat(gate.tap("finish", Map.of()).text()).contains("The rating plate");
    Visitor.Answer taken = photo(itemId("The rating plate"));
    assertThat(taken.json().path("photos").path(0).path("checklistItemId").asLong())
        .isEqualTo(itemId("The rating plate"));
    assertThat(gate.tap("finish", Map.of()).status()).isEqualTo(200);
  }

  private Visitor.Answer photo(long item) {
    return gate.technician()
        .photo(
            "/api/pocket/visits/" + gate.visit() + "/photos?checklistItemId=" + item,
            VisitPhotosTest.picture(40, 30),
            "plate-" + item + "-" + gate.visit());
  }

  @Test
  void a_photo_is_refused_for_a_question_that_asks_for_none() {
    assertThat(photo(itemId("Closing force")).status()).isEqualTo(404);
  }

  @Test
  void a_visit_that_has_begun_keeps_the_questions_it_began_with() {
    answer("Closing force", "380", "");
    change(FORCE);
    assertThat(onPhone().path("edition").asInt()).isEqualTo(1);
    assertThat(onPhone().path("items")).hasSize(3);
    assertThat(sheet().path("edition").asInt()).isEqualTo(2);
  }

  @Test
  void one_that_has_not_begun_goes_through_the_new_ones() {
    change(FORCE);
    assertThat(onPhone().path("edition").asInt()).isEqualTo(2);
    assertThat(onPhone().path("items")).hasSize(1);
  }

  @Test
  void another_name_alone_makes_no_new_edition() {
    var form = form(1, FORCE, OBSTACLE, PLATE);
    form.put("name", "Renamed list of visit " + gate.visit());
    assertThat(save(list, form).json().path("edition").asInt()).isEqualTo(1);
  }

  @Test
  void an_answer_from_a_phone_that_knew_an_older_edition_goes_to_the_same_question_of_the_visits() {
    long old = itemId("Closing force");
    change(FORCE, PLATE);
    answer("Closing force", "390", "");
    assertThat(gate.tap("checklist-answers", said(old, "380", "")).status()).isEqualTo(200);
    assertThat(texts(onPhone().path("items"), "question"))
        .containsExactly("Closing force", "The rating plate");
    assertThat(item(onPhone(), "Closing force").path("given").path("answer").asString())
        .isEqualTo("380");
  }

  @Test
  void one_to_a_question_that_is_gone_stays_seen() {
    long gone = itemId("Stops at an obstacle");
    change(FORCE);
    answer("Closing force", "390", "");
    gate.tap("checklist-answers", said(gone, "yes", ""));
    assertThat(texts(onSheet().path("items"), "question"))
        .containsExactly("Closing force", "Stops at an obstacle");
  }

  @Test
  void the_next_visit_to_the_same_equipment_sees_what_was_measured_before() {
    answer("Closing force", "380", "");
    SwingGate next = gate.beside().waiting();
    program
        .database()
        .execute(
            "update visit set day = ?, technician_id = ?, start_time = '17:30', state = 'planned' where id = ?",
            gate.day().plusDays(1),
            program.database().fetchSingle("select id from person where username = 'dilys'").get(0),
            next.visit());
    program
        .database()
        .execute(
            "update job set equipment_id = (select equipment_id from job where id = ?), site_id = (select site_id from job where id = ?) where id = ?",
            gate.job(),
            gate.job(),
            next.job());
    JsonNode before =
        item(
                own(
                    gate.technician()
                        .get("/api/pocket/visits/" + next.visit())
                        .json()
                        .path("checklists")),
                "Closing force")
            .path("before");
    assertThat(before.path("answer").asString()).isEqualTo("380");
    assertThat(before.path("day").asString()).isEqualTo(gate.day().toString());
  }

  @Test
  void the_office_puts_an_answer_right_with_a_reason_that_the_history_keeps() {
    answer("Closing force", "38", "");
    var form = new HashMap<String, Object>(said(itemId("Closing force"), "380", ""));
    String path = "/api/visits/" + gate.visit() + "/checklist-answers";
    assertThat(gate.office().post(path, form).status()).isEqualTo(422);
    form.put("reason", "Read out again on the phone");
    assertThat(gate.office().post(path, form).status()).isEqualTo(200);
    assertThat(item(onSheet(), "Closing force").path("given").path("answer").asString())
        .isEqualTo("380");
    assertThat(gate.history().path(0).path("event").asString())
        .isEqualTo("checklist_answer_changed");
    assertThat(gate.history().path(0).path("reason").asString())
        .isEqualTo("Read out again on the phone");
  }

  @Test
  void an_answer_that_came_in_after_the_end_waits_for_the_office_and_is_written_down() {
    long force = itemId("Closing force");
    gate.at("16:00");
    gate.tap("finish", Map.of("outcome", "come_again", "reason", "No gauge here"));
    var late = new HashMap<String, Object>();
    late.put("step", "answer_checklist");
    late.put("visitId", gate.visit());
    late.put("tappedAt", moment("15:40"));
    late.put("sentAt", moment("16:00"));
    late.put("form", said(force, "380", ""));
    JsonNode came = gate.technician().late("late-answer-" + gate.visit(), late);
    assertThat(came.path("state").asString()).isEqualTo("waiting");
    Visitor.Answer written =
        gate.office().post("/api/late-acts/write-down", Map.of("lateActIds", waiting()));
    assertThat(written.status()).as(written.text()).isEqualTo(200);
    assertThat(item(onSheet(), "Closing force").path("given").path("answer").asString())
        .isEqualTo("380");
  }

  private String moment(String time) {
    return LocalDateTime.parse(gate.day() + "T" + time)
        .atZone(ZoneId.of("Europe/London"))
        .toInstant()
        .toString();
  }

  private List<Long> waiting() {
    return program
        .database()
        .fetch("select id from late_act where visit_id = ? and state = 'waiting'", gate.visit())
        .getValues(0, Long.class);
  }

  @Test
  void the_customers_report_says_what_was_measured() {
    answer("Closing force", "380", "");
    assertThat(PrintedText.of(gate.office().bytes("/api/visits/" + gate.visit() + "/report")))
        .contains("Closing force", "380 N")
        .doesNotContain("Stops at an obstacle");
  }

  @Test
  void every_fault_of_a_list_is_told_at_its_field() {
    Visitor.Answer answer =
        save(
            0,
            changed(
                form(
                    0,
                    item("", "text", null),
                    item("Pressure", "measurement", "8"),
                    item("Hinges", "choice", null),
                    Map.of(
                        "question",
                        "Hinges",
                        "asks",
                        "text",
                        "required",
                        false,
                        "raisesToDo",
                        true))));
    assertThat(answer.status()).isEqualTo(422);
    assertThat(texts(answer.json().path("errors"), "pointer"))
        .containsExactlyInAnyOrder(
            "/name",
            "/kindOfJobId",
            "/items/0/question",
            "/items/1/most",
            "/items/2/choices",
            "/items/3/raisesToDo",
            "/items/3/question");
  }

  private Map<String, Object> changed(Map<String, Object> form) {
    form.remove("kindOfJobId");
    return form;
  }

  private static Map<String, Object> item(String question, String asks, @Nullable String least) {
    var item = new HashMap<String, Object>();
    item.put("question", question);
    item.put("asks", asks);
    item.put("required", false);
    item.put("raisesToDo", false);
    if (least != null) {
      item.put("least", least);
      item.put("most", "2");
    }
    return item;
  }

  @Test
  void more_questions_than_anybody_answers_are_refused_before_they_are_read() {
    var items = new ArrayList<Map<String, Object>>();
    for (int i = 0; i < 61; i++) {
      items.add(item("Question " + i, "text", null));
    }
    var form = form(0);
    form.put("items", items);
    assertThat(save(0, form).text()).contains("at most 60");
  }

  @Test
  void a_list_that_a_colleague_saved_meanwhile_is_not_saved_over() {
    change(FORCE);
    assertThat(save(list, form(1, PLATE)).status()).isEqualTo(409);
  }

  /** A visit of the same kind that the office wrote down, with nothing answered. */
  private SwingGate writtenDown() {
    SwingGate other = new SwingGate(program, "tobias").planned();
    other.at("18:00");
    Visitor.Answer answer =
        gate.office()
            .post(
                "/api/visits/" + other.visit() + "/time-entries",
                Map.of("version", 0, "from", "14:30", "to", "15:30", "reason", "Never clocked"));
    assertThat(answer.status()).as(answer.text()).isEqualTo(200);
    return other;
  }

  @Test
  void a_visit_whose_checklist_nobody_went_through_is_odd_at_the_check() {
    assertThat(writtenDown().oddities()).contains("checklist_open");
  }

  @Test
  void questions_that_changed_after_a_visit_was_over_do_not_hide_that_nobody_went_through_it() {
    SwingGate other = writtenDown();
    other.at("19:00");
    change(OBSTACLE, PLATE);
    assertThat(other.oddities()).contains("checklist_open");
  }

  @Test
  void a_checklist_that_came_after_a_visit_was_over_is_not_missed_at_its_check() {
    useNoMore();
    SwingGate other = writtenDown();
    other.at("19:00");
    var form = new HashMap<>(form(0, FORCE));
    form.put("name", "Later list of visit " + gate.visit());
    list = save(0, form).json().path("id").asLong();
    assertThat(other.oddities()).doesNotContain("checklist_open");
  }

  @Test
  void a_checklist_that_wants_no_answer_is_not_missed_at_the_check() {
    change(OBSTACLE, PLATE);
    assertThat(writtenDown().oddities()).doesNotContain("checklist_open");
  }

  @Test
  void what_is_not_done_yet_is_not_missed_at_the_check() {
    gate.at("16:00");
    gate.tap("finish", Map.of("outcome", "come_again", "reason", "Too dark"));
    assertThat(gate.oddities()).doesNotContain("checklist_open");
  }
}
