package app.pragmata.server;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.InetAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Somebody who talks to the program over HTTP as a browser would, cookies and all. */
public final class Visitor {
  /** What came back. */
  public record Answer(int status, String text) {
    public JsonNode json() {
      return JSON.readTree(text);
    }

    /** The rule that a refusal names; empty when it names none. */
    public String rule() {
      return json().path("rule").asString("");
    }

    /** The first wrong field as a JSON Pointer; empty when the refusal names none. */
    public String pointer() {
      return json().path("errors").path(0).path("pointer").asString("");
    }
  }

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final CookieManager cookies = new CookieManager();
  private final HttpClient client;
  private final String address;

  public Visitor(RunningPragmata program) {
    this(program.address(), HttpClient.newBuilder());
  }

  private Visitor(String address, HttpClient.Builder builder) {
    client = builder.cookieHandler(cookies).build();
    this.address = address;
    get("/api/session");
  }

  /** Somebody with an address of their own on loopback, such as 127.0.0.7. */
  static Visitor from(RunningPragmata program, String ownAddress) {
    return new Visitor(
        program.address(), HttpClient.newBuilder().localAddress(InetAddress.ofLiteral(ownAddress)));
  }

  /** A demo person, signed in; one who is signed in already goes on with the same session. */
  public static Visitor signedIn(RunningPragmata program, String username) {
    return program
        .visitors()
        .compute(
            username,
            (name, visitor) ->
                visitor != null && visitor.isSignedIn()
                    ? visitor
                    : signedInAt(program.address(), name));
  }

  private boolean isSignedIn() {
    return get("/api/session").json().path("person").isObject();
  }

  /** Somebody who is not signed in, where some program listens. */
  public static Visitor at(String address) {
    return new Visitor(address, HttpClient.newBuilder());
  }

  /** A demo person, signed in where some program listens. */
  public static Visitor signedInAt(String address, String username) {
    Visitor visitor = at(address);
    Answer answer =
        visitor.post("/api/sign-in", Map.of("username", username, "password", "ostmere"));
    if (answer.status() != 200) {
      throw new IllegalStateException("Sign-in failed: " + answer);
    }
    visitor.get("/api/session");
    return visitor;
  }

  public Answer get(String path) {
    return send("GET", path, null, null);
  }

  public Answer post(String path, Object body) {
    return send("POST", path, body, UUID.randomUUID().toString());
  }

  public Answer post(String path, Object body, String key) {
    return send("POST", path, body, key);
  }

  /** Sends one tap that a phone has kept, under its key; gives what became of it. */
  public JsonNode late(String key, Map<String, Object> tap) {
    var kept = new HashMap<String, Object>(tap);
    kept.put("key", key);
    Answer answer = post("/api/pocket/late-acts", Map.of("acts", List.of(kept)));
    if (answer.status() != 200) {
      throw new AssertionError(answer.toString());
    }
    return answer.json().path(0);
  }

  public Answer put(String path, Object body) {
    return send("PUT", path, body, null);
  }

  public Answer put(String path, Object body, String key) {
    return send("PUT", path, body, key);
  }

  public Answer delete(String path) {
    return send("DELETE", path, null, null);
  }

  /** Sends a file as it is. */
  public Answer upload(String path, byte[] content) {
    return upload(path, () -> new java.io.ByteArrayInputStream(content));
  }

  /** Sends a file of any length without holding it. */
  public Answer upload(
      String path, java.util.function.Supplier<? extends java.io.InputStream> content) {
    return stream(path, "application/octet-stream", content);
  }

  /** Sends a photo under a key. */
  public Answer photo(String path, byte[] jpeg, String key) {
    return exchange(
        HttpRequest.newBuilder(URI.create(address + path))
            .header("Content-Type", "image/jpeg")
            .header("X-XSRF-TOKEN", token())
            .header("Idempotency-Key", key)
            .POST(BodyPublishers.ofByteArray(jpeg))
            .build());
  }

  /** Sends something of this kind without saying how long it is. */
  Answer stream(
      String path,
      String mediaType,
      java.util.function.Supplier<? extends java.io.InputStream> content) {
    return stream("POST", path, mediaType, content);
  }

  /** The same in place of what is there. */
  Answer putStream(
      String path,
      String mediaType,
      java.util.function.Supplier<? extends java.io.InputStream> content) {
    return stream("PUT", path, mediaType, content);
  }

  private Answer stream(
      String method,
      String path,
      String mediaType,
      java.util.function.Supplier<? extends java.io.InputStream> content) {
    var request =
        HttpRequest.newBuilder(URI.create(address + path))
            .header("Content-Type", mediaType)
            .header("X-XSRF-TOKEN", token())
            .method(method, BodyPublishers.ofInputStream(content))
            .build();
    return exchange(request);
  }

  /** The body of a read as it came. */
  public byte[] bytes(String path) {
    try {
      return client
          .send(
              HttpRequest.newBuilder(URI.create(address + path)).build(),
              BodyHandlers.ofByteArray())
          .body();
    } catch (IOException exception) {
      throw new UncheckedIOException(exception);
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(interrupted);
    }
  }

  /** What a stream of server-sent events says until it ends. */
  String events(String path) {
    return exchange(
            HttpRequest.newBuilder(URI.create(address + path))
                .header("Accept", "text/event-stream")
                .build())
        .text();
  }

  /** Any request, without the token against forged requests when {@code body} is a plain string. */
  public Answer send(String method, String path, @Nullable Object body, @Nullable String key) {
    var request =
        HttpRequest.newBuilder(URI.create(address + path))
            .header("Content-Type", "application/json");
    if (!(body instanceof String)) {
      request.header("X-XSRF-TOKEN", token());
    }
    if (key != null) {
      request.header("Idempotency-Key", key);
    }
    String text =
        body == null ? "{}" : body instanceof String raw ? raw : JSON.writeValueAsString(body);
    request.method(
        method, method.equals("GET") ? BodyPublishers.noBody() : BodyPublishers.ofString(text));
    return exchange(request.build());
  }

  private Answer exchange(HttpRequest request) {
    try {
      var answer = client.send(request, BodyHandlers.ofString());
      return new Answer(answer.statusCode(), answer.body());
    } catch (IOException exception) {
      throw new UncheckedIOException(exception);
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(interrupted);
    }
  }

  /**
   * Follows a stream of server-sent events, until the program ends it or the listener is closed.
   */
  Listener listen(String path) {
    var request = HttpRequest.newBuilder(URI.create(address + path)).build();
    return new Listener(client.sendAsync(request, BodyHandlers.ofLines()).join());
  }

  /** A header of the answer to a read; empty when it has none of this name. */
  public String header(String path, String name) {
    try {
      return client
          .send(
              HttpRequest.newBuilder(URI.create(address + path)).build(), BodyHandlers.discarding())
          .headers()
          .firstValue(name)
          .orElse("");
    } catch (IOException exception) {
      throw new UncheckedIOException(exception);
    } catch (InterruptedException interrupted) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(interrupted);
    }
  }

  /** The cookies by name, for somebody who goes on in a browser. */
  public Map<String, String> cookies() {
    return cookies.getCookieStore().getCookies().stream()
        .collect(java.util.stream.Collectors.toMap(HttpCookie::getName, HttpCookie::getValue));
  }

  private String token() {
    return cookies.getCookieStore().getCookies().stream()
        .filter(cookie -> cookie.getName().equals("XSRF-TOKEN"))
        .map(HttpCookie::getValue)
        .findFirst()
        .orElse("");
  }
}
