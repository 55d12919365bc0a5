package app.pragmata.server.printing;

import java.nio.ByteBuffer;
import java.util.zip.DataFormatException;
import java.util.zip.Inflater;

/** Unpacks a web font (WOFF File Format 1.0, W3C) into the font that it packs. */
final class Woff {
  private static final int SIGNATURE = 0x774F4646;
  private static final int HEADER = 44;
  private static final int PACKED_ENTRY = 20;
  private static final int ENTRY = 16;
  private static final int FONT_HEADER = 12;

  private Woff() {}

  /** The OpenType or TrueType font in it; throws {@link IllegalArgumentException} for others. */
  static byte[] unpack(byte[] packed) {
    ByteBuffer in = ByteBuffer.wrap(packed);
    if (in.getInt(0) != SIGNATURE) {
      throw new IllegalArgumentException("Not a WOFF 1.0 font");
    }
    int tables = in.getShort(12);
    ByteBuffer out = ByteBuffer.allocate(in.getInt(16));
    int power = Integer.highestOneBit(tables);
    out.putInt(in.getInt(4)).putShort((short) tables);
    out.putShort((short) (power * ENTRY)).putShort((short) Integer.numberOfTrailingZeros(power));
    out.putShort((short) ((tables - power) * ENTRY));
    int place = FONT_HEADER + tables * ENTRY;
    for (int i = 0; i < tables; i++) {
      int entry = HEADER + i * PACKED_ENTRY;
      int length = in.getInt(entry + 12);
      out.putInt(in.getInt(entry)).putInt(in.getInt(entry + 16)).putInt(place).putInt(length);
      byte[] table = table(packed, in.getInt(entry + 4), in.getInt(entry + 8), length);
      out.put(place, table);
      place += (length + 3) / 4 * 4;
    }
    return out.array();
  }

  private static byte[] table(byte[] packed, int from, int packedLength, int length) {
    byte[] table = new byte[length];
    if (packedLength == length) {
      System.arraycopy(packed, from, table, 0, length);
      return table;
    }
    var inflater = new Inflater();
    try {
      inflater.setInput(packed, from, packedLength);
      inflater.inflate(table);
      return table;
    } catch (DataFormatException broken) {
      throw new IllegalArgumentException("A table of the font is broken", broken);
    } finally {
      inflater.end();
    }
  }
}
