package app.pragmata.server.pictures;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.awt.Color;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.zip.CRC32;
import java.util.zip.Deflater;
import java.util.zip.DeflaterOutputStream;
import javax.imageio.ImageIO;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class PicturesTest {
  private static final byte[] PNG_MARK = {(byte) 0x89, 'P', 'N', 'G', '\r', '\n', 0x1a, '\n'};

  /** Red in its upper left corner, white elsewhere. */
  private static byte[] picture(int width, int height, String format) throws IOException {
    var picture = new BufferedImage(width, height, BufferedImage.TYPE_INT_RGB);
    var pen = picture.createGraphics();
    pen.setColor(Color.WHITE);
    pen.fillRect(0, 0, width, height);
    pen.setColor(Color.RED);
    pen.fillRect(0, 0, width / 4, height / 4);
    pen.dispose();
    var bytes = new ByteArrayOutputStream();
    ImageIO.write(picture, format, bytes);
    return bytes.toByteArray();
  }

  @Test
  void a_drawing_of_one_dot_is_refused() throws IOException {
    var picture = new BufferedImage(340, 110, BufferedImage.TYPE_INT_ARGB);
    var pen = picture.createGraphics();
    pen.setColor(Color.BLACK);
    pen.fillOval(100, 50, 5, 5);
    var dot = new ByteArrayOutputStream();
    ImageIO.write(picture, "png", dot);
    pen.drawLine(100, 50, 180, 60);
    var stroke = new ByteArrayOutputStream();
    ImageIO.write(picture, "png", stroke);
    assertThatThrownBy(() -> Pictures.drawing(dot.toByteArray()))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(Rule.TOO_SHORT));
    assertThat(Pictures.drawing(stroke.toByteArray())).isNotEmpty();
  }

  private static BufferedImage read(byte[] content) throws IOException {
    return ImageIO.read(new ByteArrayInputStream(content));
  }

  /** The same JPEG with an Exif part that says how the camera was held, and where it was. */
  private static byte[] held(byte[] jpeg, int orientation) throws IOException {
    var exif = new ByteArrayOutputStream();
    var data = new DataOutputStream(exif);
    data.writeBytes("Exif\0\0MM");
    data.writeShort(42);
    data.writeInt(8);
    data.writeShort(1);
    data.writeShort(0x0112);
    data.writeShort(3);
    data.writeInt(1);
    data.writeShort(orientation);
    data.writeShort(0);
    data.writeInt(0);
    data.writeBytes("59.8944 N 22.9722 E");
    var held = new ByteArrayOutputStream();
    held.write(jpeg, 0, 2);
    held.write(0xff);
    held.write(0xe1);
    held.write((exif.size() + 2) >> 8);
    held.write(exif.size() + 2);
    exif.writeTo(held);
    held.write(jpeg, 2, jpeg.length - 2);
    return held.toByteArray();
  }

  @ParameterizedTest
  @CsvSource({"4000, 3000", "3200, 2400", "1700, 1275"})
  void a_large_photo_becomes_as_long_as_photos_are(int width, int height) throws IOException {
    BufferedImage kept = read(Pictures.photo(picture(width, height, "jpeg")));
    assertThat(kept.getWidth()).isEqualTo(1600);
    assertThat(kept.getHeight()).isEqualTo(1200);
  }

  @Test
  void a_small_photo_keeps_its_size() throws IOException {
    assertThat(read(Pictures.photo(picture(40, 30, "png"))).getWidth()).isEqualTo(40);
  }

  @ParameterizedTest
  @CsvSource({
    "1, 80, 60, 2, 2",
    "2, 80, 60, 77, 2",
    "3, 80, 60, 77, 57",
    "4, 80, 60, 2, 57",
    "5, 60, 80, 2, 2",
    "6, 60, 80, 57, 2",
    "7, 60, 80, 57, 77",
    "8, 60, 80, 2, 77"
  })
  void a_photo_stands_upright_however_the_camera_was_held(
      int orientation, int width, int height, int redX, int redY) throws IOException {
    BufferedImage kept = read(Pictures.photo(held(picture(80, 60, "jpeg"), orientation)));
    assertThat(kept.getWidth()).isEqualTo(width);
    assertThat(kept.getHeight()).isEqualTo(height);
    var red = new Color(kept.getRGB(redX, redY));
    assertThat(red.getRed() - red.getGreen()).isGreaterThan(100);
  }

  @Test
  void where_a_photo_was_taken_is_not_in_it_any_more() throws IOException {
    byte[] kept = Pictures.photo(held(picture(80, 60, "jpeg"), 1));
    assertThat(new String(kept, StandardCharsets.ISO_8859_1)).doesNotContain("Exif", "59.8944");
  }

  @Test
  void a_photo_that_is_upright_and_small_enough_loses_nothing_of_its_picture() throws IOException {
    byte[] jpeg = picture(80, 60, "jpeg");
    assertThat(Pictures.photo(held(jpeg, 1))).isEqualTo(jpeg);
  }

  /** A second part of an application can say that the colours are others. */
  @Test
  void a_photo_with_parts_that_nobody_knows_is_written_anew() throws IOException {
    byte[] jpeg = picture(80, 60, "jpeg");
    byte[] unknown = held(jpeg, 1);
    unknown[3] = (byte) 0xec;
    assertThat(new String(Pictures.photo(unknown), StandardCharsets.ISO_8859_1))
        .doesNotContain("59.8944");
    assertThat(read(Pictures.photo(unknown)).getWidth()).isEqualTo(80);
  }

  /** A decoder draws what it got, and leaves the rest grey. */
  @Test
  void a_photo_that_was_cut_off_is_written_anew_as_a_whole() throws IOException {
    byte[] jpeg = picture(800, 600, "jpeg");
    byte[] kept = Pictures.photo(Arrays.copyOf(jpeg, jpeg.length - 300));
    assertThat(kept).endsWith((byte) 0xff, (byte) 0xd9);
    assertThat(read(kept).getWidth()).isEqualTo(800);
  }

  @Test
  void what_hangs_on_behind_a_picture_is_lost() throws IOException {
    var bytes = new ByteArrayOutputStream();
    bytes.writeBytes(picture(40, 30, "jpeg"));
    bytes.writeBytes("<script>alert(1)</script>".getBytes(StandardCharsets.US_ASCII));
    assertThat(new String(Pictures.photo(bytes.toByteArray()), StandardCharsets.ISO_8859_1))
        .doesNotContain("script");
  }

  @Test
  void a_picture_of_more_points_than_any_is_refused_by_its_head() throws IOException {
    var bytes = new ByteArrayOutputStream();
    bytes.writeBytes(PNG_MARK);
    chunk(bytes, "IHDR", head(30_000, 30_000));
    chunk(bytes, "IDAT", packed(1 << 20));
    chunk(bytes, "IEND", new byte[0]);
    refuses(bytes.toByteArray(), Rule.TOO_LARGE);
  }

  @Test
  void text_in_a_picture_that_unpacks_without_end_is_not_unpacked() throws IOException {
    byte[] png = picture(4, 4, "png");
    var bytes = new ByteArrayOutputStream();
    int afterHead = PNG_MARK.length + 25;
    bytes.write(png, 0, afterHead);
    var text = new ByteArrayOutputStream();
    text.writeBytes("Comment\0\0".getBytes(StandardCharsets.ISO_8859_1));
    // A gigabyte of nothing.
    text.writeBytes(packed(1 << 30));
    chunk(bytes, "zTXt", text.toByteArray());
    bytes.write(png, afterHead, png.length - afterHead);
    assertThat(read(Pictures.photo(bytes.toByteArray())).getWidth()).isEqualTo(4);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "no picture",
        "<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>",
        "\u00ff\u00d8\u00ff",
        "\u0089PNG\r\n\u001a\n"
      })
  void what_is_no_picture_is_refused(String content) {
    refuses(content.getBytes(StandardCharsets.ISO_8859_1), Rule.UNREADABLE);
  }

  @ParameterizedTest
  @ValueSource(strings = {"gif", "bmp"})
  void formats_that_no_camera_writes_are_refused(String format) throws IOException {
    refuses(picture(40, 30, format), Rule.UNREADABLE);
  }

  @Test
  void a_drawing_is_written_anew_as_png() throws IOException {
    byte[] kept = Pictures.drawing(picture(300, 100, "png"));
    assertThat(kept).startsWith(PNG_MARK);
    assertThat(read(kept).getWidth()).isEqualTo(300);
  }

  private static void refuses(byte[] content, Rule rule) {
    assertThatThrownBy(() -> Pictures.photo(content))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(rule));
  }

  private static byte[] head(int width, int height) throws IOException {
    var bytes = new ByteArrayOutputStream();
    var head = new DataOutputStream(bytes);
    head.writeInt(width);
    head.writeInt(height);
    head.write(new byte[] {8, 2, 0, 0, 0});
    return bytes.toByteArray();
  }

  private static byte[] packed(int zeros) throws IOException {
    var bytes = new ByteArrayOutputStream();
    var fast = new Deflater(Deflater.BEST_SPEED);
    try (var packing = new DeflaterOutputStream(bytes, fast)) {
      byte[] some = new byte[1 << 16];
      for (int i = 0; i < zeros; i += some.length) {
        packing.write(some);
      }
    } finally {
      fast.end();
    }
    return bytes.toByteArray();
  }

  private static void chunk(ByteArrayOutputStream png, String kind, byte[] content)
      throws IOException {
    var checked = new ByteArrayOutputStream();
    checked.writeBytes(kind.getBytes(StandardCharsets.US_ASCII));
    checked.writeBytes(content);
    var sum = new CRC32();
    sum.update(checked.toByteArray());
    var out = new DataOutputStream(png);
    out.writeInt(content.length);
    out.write(checked.toByteArray());
    out.writeInt((int) sum.getValue());
  }
}
