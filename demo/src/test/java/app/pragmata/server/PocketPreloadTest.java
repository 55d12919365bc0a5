package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What a phone is told with a technician's page, so that it need not find out step by step. */
class PocketPreloadTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @Test
  void the_page_of_a_day_names_the_scripts_of_the_day() {
    String page = Visitor.signedIn(program, "imre").get("/pocket").text();
    assertThat(page).containsPattern("rel=\"modulepreload\" crossorigin href=\"/assets/PocketDay-");
  }

  @Test
  void the_stops_of_a_day_do_not_wait_for_the_library_of_controls() {
    Visitor imre = Visitor.signedIn(program, "imre");
    List<String> scripts =
        Pattern.compile("/assets/[^\"]+\\.js")
            .matcher(imre.get("/pocket").text())
            .results()
            .map(MatchResult::group)
            .toList();
    assertThat(scripts).hasSizeGreaterThan(5);
    assertThat(scripts).noneMatch(script -> imre.get(script).text().contains("prefixCls"));
  }

  @Test
  void a_technicians_page_says_that_their_day_will_be_asked_for() {
    assertThat(Visitor.signedIn(program, "imre").header("/pocket", "Link"))
        .contains("</api/pocket/day>; rel=preload");
  }

  @Test
  void whoever_is_not_signed_in_is_not_sent_for_a_day_that_is_refused() {
    assertThat(new Visitor(program).header("/pocket", "Link")).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(strings = {"/", "/worked", "/pocket/week/2026-11-23"})
  void other_pages_are_the_one_page(String path) {
    assertThat(Visitor.signedIn(program, "hester").get(path).text()).doesNotContain("PocketDay-");
  }
}
