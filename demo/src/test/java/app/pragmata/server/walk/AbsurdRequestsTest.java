package app.pragmata.server.walk;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.server.DescribedRequests;
import app.pragmata.server.DescribedRequests.Request;
import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import app.pragmata.server.laws.Laws;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Requests that make no sense, to records that are there: of each kind the latest ones. */
class AbsurdRequestsTest {
  private static final int STEPS = 400;
  private static final long SEED = 7;
  private static final int OF_EACH_KIND = 2;
  private static final int VERSIONS = 3;

  /** In which table the records are whose id follows a word of an address. */
  private static final Map<String, String> TABLES =
      Map.ofEntries(
          Map.entry("customers", "customer"),
          Map.entry("contacts", "contact"),
          Map.entry("customer-notes", "customer_note"),
          Map.entry("sites", "site"),
          Map.entry("equipment", "equipment"),
          Map.entry("quotes", "quote"),
          Map.entry("quote-questions", "quote_question"),
          Map.entry("jobs", "job"),
          Map.entry("visits", "visit"),
          Map.entry("visit-parts", "visit_part"),
          Map.entry("time-entries", "time_entry"),
          Map.entry("people", "person"),
          Map.entry("technicians", "person"),
          Map.entry("invoices", "invoice"),
          Map.entry("receipts", "receipt"),
          Map.entry("allocations", "receipt_allocation"),
          Map.entry("to-dos", "to_do"),
          Map.entry("imports", "import"),
          Map.entry("price-lists", "price_list"),
          Map.entry("response-terms", "response_terms"));

  private static WalkedCompany company;

  @BeforeAll
  static void walk() {
    company = new WalkedCompany(RunningPragmata.databaseForTests() + "_absurd");
    Steps.draw(STEPS, SEED).forEach(step -> step.move().make(company, new Dice(step.thrown())));
  }

  @AfterAll
  static void nothing_of_it_broke_a_law() {
    try {
      assertThat(Laws.check(company.database())).allMatch(Laws.Finding::holds);
      assertThat(company.wrongStandings()).isEmpty();
    } finally {
      company.close();
    }
  }

  @ParameterizedTest
  @MethodSource("app.pragmata.server.DescribedRequests#all")
  void are_answered_in_words(Request request) {
    Visitor visitor =
        request.path().contains("/pocket") ? company.technician("abe") : company.office();
    for (int which = 0; which < OF_EACH_KIND; which++) {
      String address = address(request.path(), which);
      for (Object form : forms(request)) {
        Visitor.Answer answer =
            visitor.send(request.method(), address, form, UUID.randomUUID().toString());
        assertThat(answer.status()).as("%s: %s", address, answer.text()).isLessThan(500);
      }
    }
  }

  /** The absurd ones, as of each of the first versions that a record may have. */
  private static List<Object> forms(Request request) {
    return DescribedRequests.absurdForms(request).stream()
        .flatMap(AbsurdRequestsTest::asOfVersions)
        .toList();
  }

  private static Stream<Object> asOfVersions(Object form) {
    if (!(form instanceof Map<?, ?> fields) || !fields.containsKey("version")) {
      return Stream.of(form);
    }
    return IntStream.rangeClosed(1, VERSIONS)
        .mapToObj(
            version -> {
              var current = new HashMap<Object, Object>(fields);
              current.put("version", version);
              return current;
            });
  }

  private static String address(String path, int which) {
    var address = new StringBuilder();
    String before = "";
    for (String word : path.substring(1).split("/", -1)) {
      address.append('/').append(word.startsWith("{") ? id(before, which) : word);
      before = word;
    }
    return address.toString();
  }

  private static String id(String kind, int which) {
    if (kind.equals("offers")) {
      return latest("select token from quote_link order by quote_id desc", which);
    }
    String table = TABLES.get(kind);
    return table == null
        ? "1"
        : latest("select id from %s order by id desc".formatted(table), which);
  }

  private static String latest(String query, int which) {
    var found = company.database().fetchOne(query + " limit 1 offset " + which);
    return found == null ? "1" : found.get(0, String.class);
  }
}
