package app.pragmata.server;

import static app.pragmata.server.generated.Tables.REQUEST_COUNT;
import static org.assertj.core.api.Assertions.assertThat;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;

/** What is installed at a firm: the program without the module of the demo, behind a proxy. */
class ProductAloneTest {
  private static SentQuote offered;
  private static ConfigurableApplicationContext product;

  /** A quote with a deposit, accepted while the demo ran; then the product on the same database. */
  @BeforeAll
  static void startOnTheSameDatabase() {
    offered = new SentQuote();
    offered.sent();
    offered.accept(1, List.of());
    product =
        RunningPragmata.start(
            RunningPragmata.databaseForTests(),
            RunningPragmata.forTests().clock(),
            List.of(Pragmata.class),
            "server.forward-headers-strategy=native");
  }

  @AfterAll
  static void stop() {
    product.close();
  }

  private static Visitor visitor() {
    return Visitor.at(RunningPragmata.address(product));
  }

  @Test
  void without_a_card_terminal_no_card_payment_is_offered() {
    var page = visitor().get(offered.gate().offerPath()).json();
    assertThat(page.path("depositDueMinor").asLong()).isPositive();
    assertThat(page.path("cardNotice").isNull()).isTrue();
  }

  @Test
  void without_a_card_terminal_no_card_is_taken() {
    var answer =
        visitor().post(offered.gate().offerPath() + "/deposit", Map.of("card", "4000000000000001"));
    assertThat(answer.rule()).isEqualTo("NO_CARD_TERMINAL");
    assertThat(offered.page().path("depositHeldMinor").asLong()).isZero();
  }

  @Test
  void behind_a_proxy_that_encrypts_cookies_go_nowhere_else() throws Exception {
    var answer = throughTheProxy("/api/session");
    assertThat(answer.headers().allValues("Set-Cookie"))
        .isNotEmpty()
        .allMatch(cookie -> cookie.contains("; Secure"));
    assertThat(answer.headers().firstValue("Strict-Transport-Security")).isPresent();
  }

  @Test
  void behind_a_proxy_the_visitors_own_address_is_the_one_that_counts() throws Exception {
    throughTheProxy("/api/offers/none");
    assertThat(
            RunningPragmata.forTests()
                .database()
                .fetchExists(REQUEST_COUNT, REQUEST_COUNT.ADDRESS.eq("203.0.113.77")))
        .isTrue();
  }

  private static HttpResponse<String> throughTheProxy(String path) throws Exception {
    try (var client = HttpClient.newHttpClient()) {
      return client.send(
          HttpRequest.newBuilder(URI.create(RunningPragmata.address(product) + path))
              .header("X-Forwarded-For", "203.0.113.77")
              .header("X-Forwarded-Proto", "https")
              .build(),
          BodyHandlers.ofString());
    }
  }

  @Test
  void nobodys_mail_can_be_read_on_a_page() {
    assertThat(
            Visitor.signedInAt(RunningPragmata.address(product), "hester")
                .get("/api/mail-stand-in")
                .status())
        .isEqualTo(404);
  }
}
