package app.pragmata.server.finding;

import app.pragmata.server.Bench;
import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** Searches as people make them, on 100,000 customers, 150,000 sites and 500,000 jobs. */
@Tag("bench")
class FindBenchTest {
  private static final List<String> SAID =
      List.of(
          "barberby",
          "bar",
          "mr denlan",
          "tarsalton bakery",
          "tarsaltn bakry",
          "weswoodshaw",
          "01632 960123",
          "960 555",
          "+44 113 496 0123",
          "OS12 3",
          "10 Yar",
          "ostmere quay",
          "LG 0012345",
          "0045678",
          "J 300000",
          "invoice 50000",
          "quote 150000",
          "swing gate grinding",
          "seized fixings",
          "asked for weswoodshaw",
          "wasps housing",
          "ms corholton",
          "dairy",
          "bakry");

  private final RunningPragmata program = RunningPragmata.large();

  @Test
  void searches_against_their_bare_statements() {
    Visitor office = Visitor.signedIn(program, "hester");
    var database = program.database();
    var bare =
        SAID.stream()
            .map(said -> Bench.statements(database, dsl -> new FindStore(dsl).find(said)))
            .toList();
    Bench.compare(
        "search, large company",
        i ->
            office.get(
                "/api/find?q="
                    + URLEncoder.encode(SAID.get(i % SAID.size()), StandardCharsets.UTF_8)),
        i -> Bench.runBare(database, bare.get(i % SAID.size())));
  }
}
