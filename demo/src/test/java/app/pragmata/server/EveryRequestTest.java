package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Map;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Every request that the API describes: who may make it, and what becomes of an absurd one. */
class EveryRequestTest {
  private final RunningPragmata program = RunningPragmata.forTests();

  @ParameterizedTest
  @MethodSource("app.pragmata.server.DescribedRequests#all")
  void is_answered_in_words_however_absurd_it_is(DescribedRequests.Request request) {
    program.clock().set("2026-11-24T10:00");
    Visitor visitor =
        Visitor.signedIn(program, request.path().contains("/pocket") ? "imre" : "hester");
    for (Object body : DescribedRequests.absurdForms(request)) {
      Visitor.Answer answer =
          visitor.send(request.method(), address(request), body, UUID.randomUUID().toString());
      assertThat(answer.status()).as("%s: %s", request, answer.text()).isLessThan(500);
    }
  }

  @ParameterizedTest
  @MethodSource("app.pragmata.server.DescribedRequests#all")
  void is_refused_to_whoever_is_not_signed_in_unless_it_is_for_everybody(
      DescribedRequests.Request request) {
    int status = ask(new Visitor(program), request);
    if (isForEverybody(request)) {
      assertThat(status).isNotIn(401, 403);
    } else {
      assertThat(status).isEqualTo(401);
    }
  }

  @ParameterizedTest
  @MethodSource("app.pragmata.server.DescribedRequests#all")
  void is_refused_to_a_technician_unless_it_is_of_the_days_work(DescribedRequests.Request request) {
    int status = ask(Visitor.signedIn(program, "imre"), request);
    boolean open =
        isForEverybody(request)
            || request.path().equals("/api/password")
            || request.path().startsWith("/api/sessions")
            || request.path().startsWith("/api/pocket/");
    assertThat(status == 403).isEqualTo(!open);
  }

  @ParameterizedTest
  @MethodSource("app.pragmata.server.DescribedRequests#all")
  void changes_nothing_for_a_bookkeeper_but_to_dos_and_money_received(
      DescribedRequests.Request request) {
    int status = ask(Visitor.signedIn(program, "maud"), request);
    boolean open =
        request.method().equals("GET")
            || request.path().equals("/api/receipts")
            || request.path().startsWith("/api/receipts/{id}/allocations")
            || request.path().equals("/api/password")
            || request.path().startsWith("/api/to-dos")
            || request.path().startsWith("/api/sessions")
            || isForEverybody(request);
    assertThat(status == 403).isEqualTo(!open || request.path().startsWith("/api/pocket/"));
  }

  /** What customers, starters and founders do, and what any page asks first. */
  private static boolean isForEverybody(DescribedRequests.Request request) {
    return Stream.of(
                "/api/offers/",
                "/api/job-pages/",
                "/api/founding",
                "/api/password-links/",
                "/api/calendars/")
            .anyMatch(request.path()::startsWith)
        || request.path().equals("/api/session");
  }

  private int ask(Visitor visitor, DescribedRequests.Request request) {
    return visitor
        .send(request.method(), address(request), Map.of(), UUID.randomUUID().toString())
        .status();
  }

  private static String address(DescribedRequests.Request request) {
    return request.path().replaceAll("\\{[^}]*}", "999999999");
  }
}
