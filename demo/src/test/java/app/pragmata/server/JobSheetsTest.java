package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.time.format.DateTimeFormatter;
import java.util.Arrays;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.stream.IntStream;
import org.apache.pdfbox.Loader;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Rounds and job sheets on paper. */
class JobSheetsTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private SwingGate gate;

  @BeforeEach
  void prepare() {
    gate = new SwingGate(program, "piet").planned();
  }

  private String asked(String more) {
    return "?from=" + gate.day() + more;
  }

  private String pages(String more) {
    return PrintedText.of(gate.office().bytes("/api/job-sheets/pdf" + asked(more)));
  }

  @Test
  void a_round_and_a_sheet_say_where_to_go_and_what_to_do() {
    String pages = pages("");
    assertThat(pages)
        .contains("Piet Osei, " + gate.day().getDayOfMonth())
        .contains("Job " + gate.sheet().path("number").asLong())
        .contains("To be done")
        .contains("serial number");
    assertThat(pages("&priced=true").length()).isGreaterThan(pages.length());
  }

  @Test
  void whoever_listens_hears_of_every_page_and_then_gets_them() throws IOException {
    String[] told =
        gate.office().events("/api/job-sheets/pdf" + asked("")).strip().split("\n\n", -1);
    List<String> pages =
        Arrays.stream(told)
            .limit(told.length - 1)
            .map(each -> each.split("data: ", -1)[1])
            .toList();
    int all = told.length - 2;
    assertThat(all).isPositive();
    assertThat(pages)
        .isEqualTo(
            IntStream.rangeClosed(0, all)
                .mapToObj(set -> "{\"set\":%d,\"all\":%d}".formatted(set, all))
                .toList());
    try (var document =
        Loader.loadPDF(
            Base64.getDecoder().decode(told[all + 1].split("event: pdf\ndata: ", -1)[1]))) {
      assertThat(document.getNumberOfPages()).isEqualTo(all);
    }
  }

  @Test
  void what_was_here_before_is_earlier_than_the_sheet() {
    gate = new SwingGate(program, "tobias").finished();
    String day = DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.UK).format(gate.day());
    List<String> sheets = List.of(pages("").split("Here before", -1));
    assertThat(sheets.getFirst()).contains(day);
    assertThat(sheets.subList(1, sheets.size()))
        .isNotEmpty()
        .allSatisfy(sheet -> assertThat(sheet.split("Began, finished", 2)[0]).doesNotContain(day));
    assertThat(gate.office().get("/api/job-sheets" + asked("&onlyPlanned=true")).status())
        .isEqualTo(200);
  }

  @Test
  void the_count_is_told_before_anything_is_printed() {
    var count = gate.office().get("/api/job-sheets" + asked("")).json();
    assertThat(count.path("sheets").asInt()).isGreaterThanOrEqualTo(count.path("rounds").asInt());
    assertThat(count.path("rounds").asInt()).isPositive();
    assertThat(
            gate.office()
                .get("/api/job-sheets" + asked("&areas=Nowhere"))
                .json()
                .path("sheets")
                .asInt())
        .isZero();
  }

  @ParameterizedTest
  @CsvSource({
    "from=blursday, /from, UNREADABLE",
    "from=, /from, MISSING",
    "from=tomorrow&to=yesterday, /to, ENDS_BEFORE_START",
    "from=tomorrow&to=2099-01-01, /to, TOO_LARGE",
    "from=2 jan&areas=Nowhere, /from, MISSING"
  })
  void what_cannot_be_printed_says_why(String asked, String pointer, String rule) {
    Visitor.Answer refused = gate.office().get("/api/job-sheets/pdf?" + asked.replace(" ", "%20"));
    assertThat(refused.pointer()).isEqualTo(pointer);
    assertThat(refused.rule()).isEqualTo(rule);
  }
}
