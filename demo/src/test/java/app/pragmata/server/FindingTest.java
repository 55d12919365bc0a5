package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static org.assertj.core.api.Assertions.assertThat;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

class FindingTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  private JsonNode find(String said) {
    return office.get("/api/find?q=" + URLEncoder.encode(said, StandardCharsets.UTF_8)).json();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "01632 960121",
        "+44 1632 960 121",
        "0044 (0)1632 960121",
        "960121",
        "60 121",
        "tansy row",
        "row tans",
        "TANSY ROW GARAGES",
        "tanzy row",
        "tansey gararges",
        "tansy.row.garages@example.com",
        "Ines Tansy",
        "C 104"
      })
  void a_customer_is_found_first_by_whatever_is_said(String said) {
    JsonNode hits = find(said.replaceFirst("^C ", ""));
    assertThat(texts(hits, "title")).first().asString().startsWith("Tansy Row Garages");
  }

  @ParameterizedTest
  @CsvSource({
    "FQ 19977, equipment, 'FQ 19977, Swing gate, two leaves'",
    "fq19977, equipment, 'FQ 19977, Swing gate, two leaves'",
    "19977, equipment, 'FQ 19977, Swing gate, two leaves'",
    "J 2001, job, Job 2001",
    "job no 2001, job, Job 2001",
    "invoice 4001, job, Invoice 4001",
    "quote 1201, quote, Quote 1201"
  })
  void things_and_documents_are_found_by_their_numbers(String said, String kind, String title) {
    JsonNode first = find(said).path(0);
    assertThat(first.path("kind").asString()).isEqualTo(kind);
    assertThat(first.path("title").asString()).startsWith(title);
  }

  @ParameterizedTest
  @CsvSource({"job, 2001, job", "invoice, 4001, job", "quote, 1201, quote"})
  void a_document_is_known_by_its_number_alone(String kind, long number, String seenOn) {
    JsonNode found = office.get("/api/documents/" + kind + "/" + number).json();
    assertThat(found.path("kind").asString()).isEqualTo(seenOn);
    JsonNode sheet = office.get("/api/" + seenOn + "s/" + found.path("id").asLong()).json();
    assertThat(sheet.toString()).contains("\"number\":" + number);
  }

  @Test
  void a_number_that_was_never_given_is_not_found_and_it_is_said_how_to_find_it() {
    var answer = office.get("/api/documents/quote/999999");
    assertThat(answer.rule()).isEqualTo("NOT_FOUND");
    assertThat(answer.text()).contains("no quote 999999", "any words of it");
  }

  @Test
  void a_job_is_found_by_free_words_of_what_was_noted_on_site() {
    assertThat(texts(find("seized fixings second attempt"), "kind"))
        .isNotEmpty()
        .containsOnly("job");
  }

  @Test
  void a_new_name_is_found_at_once_and_the_old_one_no_more() {
    long id =
        office
            .post(
                "/api/customers",
                Map.of("name", "Zanzibar Kites", "phone", "01632 960930", "place", "Kiln Bank"))
            .json()
            .path("id")
            .asLong();
    assertThat(texts(find("zanzibar"), "id")).contains(Long.toString(id));
    office.put(
        "/api/customers/" + id,
        Map.of(
            "version", 1, "name", "Quetzal Kites", "phone", "01632 960930", "paymentDays", "14"));
    assertThat(texts(find("quetzal"), "id")).contains(Long.toString(id));
    assertThat(texts(find("zanzibar"), "title")).doesNotContain("Zanzibar Kites");
  }

  @ParameterizedTest
  @ValueSource(strings = {"%", "_", "' or 1=1 --", ":*", "a & | !", "\\", "()", "-", "\u0000x"})
  void whatever_is_typed_is_searched_and_never_run(String typed) {
    assertThat(find(typed).isArray()).isTrue();
  }

  @Test
  void an_accent_or_an_apostrophe_is_no_obstacle() {
    office.post(
        "/api/customers",
        Map.of("name", "Café O’Hara", "phone", "01632 960931", "place", "Kiln Bank"));
    assertThat(texts(find("cafe ohara"), "title")).contains("Café O’Hara");
  }

  @Test
  void sites_to_quote_for_are_found_by_the_words_of_their_customer() {
    assertThat(texts(office.get("/api/sites?q=tansy%20row").json(), "customer"))
        .contains("Tansy Row Garages");
  }

  @ParameterizedTest
  @CsvSource({
    "+353 1 632 1234, 01 632 1234",
    "+41 44 632 1299, 044 632 12 99",
    "+1 212 632 1277, 212 632 1277"
  })
  void a_number_from_abroad_is_found_however_long_its_countrys_code_is(String kept, String said) {
    long id =
        office
            .post(
                "/api/customers",
                Map.of("name", "Abroad", "phone", kept, "place", "Weir Street, OS6 1AB"))
            .json()
            .path("id")
            .asLong();
    assertThat(texts(find(said), "title")).contains("Abroad");
    office.delete("/api/customers/" + id + "?version=1");
    assertThat(texts(find(said), "title")).doesNotContain("Abroad");
  }
}
