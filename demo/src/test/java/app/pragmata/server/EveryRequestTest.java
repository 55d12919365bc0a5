package app.pragmata.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.UUID;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Every request that the API describes: who may make it, and what becomes of an absurd one. */
class EveryRequestTest {
  private static final JsonNode API = api();
  private static final int DEEPEST = 5;

  private final RunningPragmata program = RunningPragmata.forTests();

  private static JsonNode api() {
    try {
      return JsonMapper.shared().readTree(Files.readString(Path.of("../docs/openapi.json")));
    } catch (IOException unreadable) {
      throw new IllegalStateException(unreadable);
    }
  }

  /** One request of the description. */
  record Request(String method, String path, @Nullable JsonNode form) {
    @Override
    public String toString() {
      return method + " " + path;
    }
  }

  /** How a form is filled in. */
  private record Filling(
      @Nullable Object text, @Nullable Object number, @Nullable Supplier<List<?>> list) {}

  static Stream<Request> requests() {
    return API.path("paths").properties().stream()
        .filter(path -> !path.getKey().startsWith("/api/sign-"))
        // It has no end; who may listen is asked in LiveTest.
        .filter(path -> !path.getKey().equals("/api/live"))
        .flatMap(
            path ->
                path.getValue().properties().stream()
                    .map(
                        operation ->
                            new Request(
                                operation.getKey().toUpperCase(Locale.ROOT),
                                path.getKey(),
                                form(operation.getValue()))));
  }

  private static @Nullable JsonNode form(JsonNode operation) {
    JsonNode schema =
        operation.path("requestBody").path("content").path("application/json").path("schema");
    return schema.isMissingNode() ? null : schema;
  }

  @ParameterizedTest
  @MethodSource("requests")
  void is_answered_in_words_however_absurd_it_is(Request request) {
    program.clock().set("2026-11-24T10:00");
    Visitor visitor =
        Visitor.signedIn(program, request.path().contains("/pocket") ? "imre" : "hester");
    for (Object body : bodies(request)) {
      Visitor.Answer answer =
          visitor.send(request.method(), address(request), body, UUID.randomUUID().toString());
      assertThat(answer.status()).as("%s: %s", request, answer.text()).isLessThan(500);
    }
  }

  @ParameterizedTest
  @MethodSource("requests")
  void is_refused_to_whoever_is_not_signed_in_unless_it_is_the_customers(Request request) {
    int status = ask(new Visitor(program), request);
    if (request.path().startsWith("/api/offers/") || request.path().equals("/api/session")) {
      assertThat(status).isNotIn(401, 403);
    } else {
      assertThat(status).isEqualTo(401);
    }
  }

  @ParameterizedTest
  @MethodSource("requests")
  void is_refused_to_a_technician_unless_it_is_of_the_days_work(Request request) {
    int status = ask(Visitor.signedIn(program, "imre"), request);
    boolean open =
        Stream.of("/api/pocket/", "/api/offers/", "/api/session")
            .anyMatch(request.path()::startsWith);
    assertThat(status == 403).isEqualTo(!open);
  }

  @ParameterizedTest
  @MethodSource("requests")
  void changes_nothing_for_a_bookkeeper_but_to_dos_and_money_received(Request request) {
    int status = ask(Visitor.signedIn(program, "maud"), request);
    boolean open =
        request.method().equals("GET")
            || request.path().equals("/api/receipts")
            || request.path().startsWith("/api/receipts/{id}/allocations")
            || Stream.of("/api/to-dos", "/api/offers/").anyMatch(request.path()::startsWith);
    assertThat(status == 403).isEqualTo(!open || request.path().startsWith("/api/pocket/"));
  }

  private int ask(Visitor visitor, Request request) {
    return visitor
        .send(request.method(), address(request), Map.of(), UUID.randomUUID().toString())
        .status();
  }

  private static String address(Request request) {
    return request.path().replaceAll("\\{[^}]*}", "999999999");
  }

  private static List<Object> bodies(Request request) {
    if (request.form() == null) {
      return List.of(Map.of());
    }
    return Stream.of(
            new Filling(null, null, null),
            new Filling(null, 1, null),
            new Filling("", -1, List::of),
            new Filling("\0", 999_999_999, List::of),
            new Filling("-1", 999_999_999, () -> java.util.Arrays.asList((Object) null)),
            new Filling("9".repeat(60), 999_999_999, null))
        .<Object>map(filling -> filled(request.form(), filling, 0))
        .toList();
  }

  private static @Nullable Object filled(JsonNode schema, Filling filling, int depth) {
    String named = schema.path("$ref").asString("");
    JsonNode shape =
        named.isEmpty()
            ? schema
            : API.path("components")
                .path("schemas")
                .path(named.substring(named.lastIndexOf('/') + 1));
    return switch (shape.path("type").asString("")) {
      case "array" ->
          filling.list() != null || depth > DEEPEST
              ? filling.list() == null ? List.of() : filling.list().get()
              : filling.text() == null
                  ? null
                  : List.of(filled(shape.path("items"), filling, depth + 1));
      case "integer", "number" -> filling.number();
      case "boolean" -> true;
      case "object" -> {
        var object = new HashMap<String, @Nullable Object>();
        shape
            .path("properties")
            .properties()
            .forEach(
                field -> object.put(field.getKey(), filled(field.getValue(), filling, depth + 1)));
        yield object;
      }
      default -> filling.text();
    };
  }
}
