package app.pragmata.server.importing;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.io.ByteArrayInputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.Charset;
import java.nio.charset.CharsetDecoder;
import java.nio.charset.CoderResult;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.List;

/** How the letters of a text file are written, and where the first one stands. */
final class Letters {
  private final byte[] content;
  private final int start;
  private final Charset charset;

  private Letters(byte[] content, int start, Charset charset) {
    this.content = content;
    this.start = start;
    this.charset = charset;
  }

  /**
   * Finds out how they are written; refused when they are in none of the ways that are known.
   *
   * @param encoding as it was said; empty to find out
   */
  static Letters of(byte[] content, String encoding) {
    if (!encoding.isEmpty()) {
      if (!List.of("windows-1252", "iso-8859-15").contains(encoding)) {
        throw new Refused(Rule.NOT_FOUND, "Choose UTF-8, Windows-1252 or ISO 8859-15.");
      }
      return new Letters(content, 0, Charset.forName(encoding));
    }
    if (startsWith(content, 0xff, 0xfe)) {
      return new Letters(content, 2, StandardCharsets.UTF_16LE);
    }
    if (startsWith(content, 0xfe, 0xff)) {
      return new Letters(content, 2, StandardCharsets.UTF_16BE);
    }
    var letters =
        new Letters(content, startsWith(content, 0xef, 0xbb, 0xbf) ? 3 : 0, StandardCharsets.UTF_8);
    letters.refuseOthers();
    return letters;
  }

  private static boolean startsWith(byte[] content, int... first) {
    if (content.length < first.length) {
      return false;
    }
    for (int i = 0; i < first.length; i++) {
      if ((content[i] & 0xff) != first[i]) {
        return false;
      }
    }
    return true;
  }

  private void refuseOthers() {
    ByteBuffer bytes = ByteBuffer.wrap(content, start, content.length - start);
    CharBuffer some = CharBuffer.allocate(10_000);
    CharsetDecoder decoder =
        charset
            .newDecoder()
            .onMalformedInput(CodingErrorAction.REPORT)
            .onUnmappableCharacter(CodingErrorAction.REPORT);
    CoderResult result;
    do {
      result = decoder.decode(bytes, some, true);
      if (some.flip().chars().anyMatch(letter -> letter == 0)) {
        throw ListReader.notAList();
      }
      some.clear();
    } while (result.isOverflow());
    if (result.isError()) {
      throw new Refused(
          Rule.WRONG_ENCODING,
          "The letters of this file are not UTF-8 (first seen in line %d). Save it again as CSV UTF-8, or say below how they are written."
              .formatted(lineOf(bytes.position())));
    }
  }

  private int lineOf(int position) {
    int line = 1;
    for (int i = 0; i < position; i++) {
      line += content[i] == '\n' ? 1 : 0;
    }
    return line;
  }

  /** The text from its start. */
  Reader reader() {
    return new InputStreamReader(
        new ByteArrayInputStream(content, start, content.length - start), charset);
  }
}
