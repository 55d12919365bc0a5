package app.pragmata.server;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The requests that the API's description names, and forms that make no sense for each. */
public final class DescribedRequests {
  private static final JsonNode API = api();
  private static final int DEEPEST = 5;

  private DescribedRequests() {}

  private static JsonNode api() {
    try {
      return JsonMapper.shared().readTree(Files.readString(Path.of("../docs/openapi.json")));
    } catch (IOException unreadable) {
      throw new IllegalStateException(unreadable);
    }
  }

  /** One request of the description. */
  public record Request(String method, String path, @Nullable JsonNode form) {
    @Override
    public String toString() {
      return method + " " + path;
    }
  }

  /** How a form is filled in. */
  private record Filling(
      @Nullable Object text, @Nullable Object number, @Nullable Supplier<List<?>> list) {}

  /** All but signing in and out, and the stream that has no end. */
  public static Stream<Request> all() {
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

  /** With nothing, with numbers only, with texts too long, with lists of nothing, and so on. */
  public static List<Object> absurdForms(Request request) {
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
