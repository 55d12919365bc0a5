package app.pragmata.server.records;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Documents that left the house, as text that never changes, each with its hash. */
@Component
public class FrozenText {
  /** A document as it is kept. */
  public record Frozen(String content, String hash) {}

  private final JsonMapper json;

  FrozenText(JsonMapper json) {
    this.json = json;
  }

  /** Writes a document down as JSON. */
  public Frozen freeze(Object document) {
    String content = json.writeValueAsString(document);
    return new Frozen(content, hash(content));
  }

  /** The document that was written down. */
  public <T> T read(String content, Class<T> document) {
    return json.readValue(content, document);
  }

  /** SHA-256 of the text in UTF-8, in small hexadecimal digits. */
  public static String hash(String content) {
    try {
      return HexFormat.of()
          .formatHex(
              MessageDigest.getInstance("SHA-256")
                  .digest(content.getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException missing) {
      throw new IllegalStateException("Every Java has SHA-256", missing);
    }
  }
}
