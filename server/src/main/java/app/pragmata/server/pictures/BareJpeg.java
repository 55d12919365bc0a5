package app.pragmata.server.pictures;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.util.Optional;

/**
 * What of a JPEG file draws its picture, and nothing else: its segments one after the other (ITU-T
 * T.81, Annex B), without words, numbers and small pictures that cameras and programs write beside
 * it.
 */
final class BareJpeg {
  private static final int START = 0xd8;
  private static final int END = 0xd9;
  private static final int SCAN = 0xda;
  private static final int BASELINE_FRAME = 0xc0;
  private static final int HUFFMAN_TABLES = 0xc4;
  private static final int QUANTIZATION_TABLES = 0xdb;
  private static final int RESTART_INTERVAL = 0xdd;
  private static final int FIRST_RESTART = 0xd0;
  private static final int LAST_RESTART = 0xd7;
  private static final int COMMENT = 0xfe;

  /** Its application segment says that the colours are as every reader expects them (T.871). */
  private static final int JFIF = 0xe0;

  private static final byte[] JFIF_MARK = "JFIF\0".getBytes(StandardCharsets.US_ASCII);
  private static final int JFIF_LENGTH = 16;
  private static final int EXIF = 0xe1;

  private final byte[] file;
  private final ByteArrayOutputStream bare = new ByteArrayOutputStream();
  private int at;

  private BareJpeg(byte[] file) {
    this.file = file;
  }

  /**
   * The file without what does not draw; empty where it has segments without which nobody can be
   * sure how it is drawn, where it is drawn scan over scan, which may be thousands, and where it is
   * no whole JPEG file.
   */
  static Optional<byte[]> of(byte[] file) {
    try {
      return new BareJpeg(file).read();
    } catch (IndexOutOfBoundsException endsTooEarly) {
      return Optional.empty();
    }
  }

  private Optional<byte[]> read() {
    if (marker() != START) {
      return Optional.empty();
    }
    keep(at - 2, at);
    boolean coloursKnown = false;
    while (true) {
      int marker = marker();
      switch (marker) {
        case END -> {
          keep(at - 2, at);
          return coloursKnown ? Optional.of(bare.toByteArray()) : Optional.empty();
        }
        case JFIF -> {
          if (!isBareJfif()) {
            return Optional.empty();
          }
          coloursKnown = true;
          keepSegment();
        }
        case BASELINE_FRAME, HUFFMAN_TABLES, QUANTIZATION_TABLES, RESTART_INTERVAL -> keepSegment();
        case SCAN -> {
          keepSegment();
          keepScan();
        }
        case EXIF, COMMENT -> at += length();
        default -> {
          return Optional.empty();
        }
      }
    }
  }

  /** The next marker; what is none is no marker that is known. */
  private int marker() {
    int first = file[at] & 0xff;
    int second = file[at + 1] & 0xff;
    at += 2;
    return first == 0xff ? second : 0;
  }

  /** Of the segment whose marker was just read, with the two bytes that say so. */
  private int length() {
    int length = ((file[at] & 0xff) << 8) | (file[at + 1] & 0xff);
    if (length < 2) {
      throw new IndexOutOfBoundsException(length);
    }
    return length;
  }

  private boolean isBareJfif() {
    if (length() != JFIF_LENGTH) {
      return false;
    }
    for (int i = 0; i < JFIF_MARK.length; i++) {
      if (file[at + 2 + i] != JFIF_MARK[i]) {
        return false;
      }
    }
    return true;
  }

  private void keepSegment() {
    int end = at + length();
    keep(at - 2, end);
    at = end;
  }

  /** Up to the next marker that is not part of a scan (B.1.1.5). */
  private void keepScan() {
    int from = at;
    while (!((file[at] & 0xff) == 0xff && endsScan(file[at + 1] & 0xff))) {
      at++;
    }
    keep(from, at);
  }

  private static boolean endsScan(int marker) {
    return marker != 0 && (marker < FIRST_RESTART || marker > LAST_RESTART);
  }

  private void keep(int from, int to) {
    if (to > file.length) {
      throw new IndexOutOfBoundsException(to);
    }
    bare.write(file, from, to - from);
  }
}
