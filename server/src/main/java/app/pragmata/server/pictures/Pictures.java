package app.pragmata.server.pictures;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import com.drew.imaging.jpeg.JpegMetadataReader;
import com.drew.imaging.jpeg.JpegProcessingException;
import com.drew.metadata.exif.ExifIFD0Directory;
import com.drew.metadata.exif.ExifReader;
import java.awt.Color;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.AffineTransform;
import java.awt.image.BufferedImage;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import java.util.Iterator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import javax.imageio.ImageIO;
import javax.imageio.ImageReadParam;
import javax.imageio.ImageReader;
import javax.imageio.stream.ImageInputStream;

/**
 * Pictures that somebody sends. None is kept as it came: its size is asked before it is drawn, then
 * it is written anew, so that where and with what it was taken is not in it any more, nor anything
 * else that is no picture. A photo that needs neither turning nor scaling loses all of that without
 * losing anything of the picture.
 */
public final class Pictures {
  /** The longer side of a photo as it is kept, in points. */
  public static final int LONGEST_SIDE = 1_600;

  private static final int LONGEST_SIDE_IN_A_LIST = 320;

  /** As a camera is held that writes its rows from above (Exif 2.3, Orientation). */
  private static final int UPRIGHT = 1;

  private static final long MOST_POINTS = 30_000_000;
  private static final long MOST_POINTS_OF_A_DRAWING = 2_000_000;
  private static final int FAINT = 30;
  private static final int NEARLY_WHITE = 200;
  private static final int DOT = 12;
  private static final String JPEG = "jpeg";
  private static final String PNG = "png";

  static {
    // Nothing of a picture goes to the disk.
    ImageIO.setUseCache(false);
  }

  private Pictures() {}

  /**
   * A photo as JPEG, upright, no longer than {@link #LONGEST_SIDE}.
   *
   * @param content JPEG or PNG, whatever its name says; refused when it is anything else
   */
  public static byte[] photo(byte[] content) {
    return large(content, read(content, Set.of(JPEG, PNG), MOST_POINTS), orientation(content));
  }

  private static byte[] large(byte[] content, Points read, int orientation) {
    BufferedImage picture = read.picture();
    if (orientation == UPRIGHT
        && read.all()
        && Math.max(picture.getWidth(), picture.getHeight()) <= LONGEST_SIDE) {
      Optional<byte[]> bare = BareJpeg.of(content);
      if (bare.isPresent()) {
        return bare.get();
      }
    }
    return write(upright(picture, orientation, LONGEST_SIDE), JPEG);
  }

  /** A photo as it is kept, with a small one for lists. */
  public static final class Kept {
    private final byte[] large;
    private final byte[] small;
    private final String hash;

    private Kept(byte[] large, byte[] small, String hash) {
      this.large = large;
      this.small = small;
      this.hash = hash;
    }

    public byte[] large() {
      return large.clone();
    }

    public byte[] small() {
      return small.clone();
    }

    /** Of the photo as it came (SHA-256), to tell whether it is the same. */
    public String hash() {
      return hash;
    }
  }

  /**
   * A photo as JPEG, upright, in two sizes.
   *
   * @param content JPEG or PNG, whatever its name says; refused when it is anything else
   */
  public static Kept kept(byte[] content) {
    Points read = read(content, Set.of(JPEG, PNG), MOST_POINTS);
    int orientation = orientation(content);
    return new Kept(
        large(content, read, orientation),
        write(upright(read.picture(), orientation, LONGEST_SIDE_IN_A_LIST), JPEG),
        hash(content));
  }

  private static String hash(byte[] content) {
    try {
      return HexFormat.of().formatHex(MessageDigest.getInstance("SHA-256").digest(content));
    } catch (NoSuchAlgorithmException impossible) {
      throw new IllegalStateException(impossible);
    }
  }

  /**
   * A drawing, such as a signature, as PNG.
   *
   * @param content PNG; refused when it is anything else, and when there is no more than a dot on
   *     it
   */
  public static byte[] drawing(byte[] content) {
    BufferedImage drawing = read(content, Set.of(PNG), MOST_POINTS_OF_A_DRAWING).picture();
    if (!isMoreThanADot(drawing)) {
      throw new Refused(Rule.TOO_SHORT, "There is no more than a dot on it. Draw it again.");
    }
    return write(drawing, PNG);
  }

  /** Whether its ink, which is neither open nor nearly white, reaches over some points. */
  private static boolean isMoreThanADot(BufferedImage drawing) {
    int left = Integer.MAX_VALUE;
    int right = -1;
    int top = Integer.MAX_VALUE;
    int bottom = -1;
    for (int y = 0; y < drawing.getHeight(); y++) {
      for (int x = 0; x < drawing.getWidth(); x++) {
        var point = new Color(drawing.getRGB(x, y), true);
        int darkest = Math.min(point.getRed(), Math.min(point.getGreen(), point.getBlue()));
        if (point.getAlpha() > FAINT && darkest < NEARLY_WHITE) {
          left = Math.min(left, x);
          right = Math.max(right, x);
          top = Math.min(top, y);
          bottom = Math.max(bottom, y);
        }
      }
    }
    return right >= 0 && (right - left >= DOT || bottom - top >= DOT);
  }

  /**
   * A logo as PNG, so that paper shows through where it is open.
   *
   * @param content JPEG or PNG, whatever its name says; refused when it is anything else
   */
  public static byte[] logo(byte[] content) {
    return write(read(content, Set.of(JPEG, PNG), MOST_POINTS).picture(), PNG);
  }

  /**
   * A picture that was read.
   *
   * @param all whether it has all points of its file
   */
  private record Points(BufferedImage picture, boolean all) {}

  private static Points read(byte[] content, Set<String> formats, long mostPoints) {
    try (ImageInputStream in = ImageIO.createImageInputStream(new ByteArrayInputStream(content))) {
      Iterator<ImageReader> readers = ImageIO.getImageReaders(in);
      if (!readers.hasNext()) {
        throw noPicture();
      }
      ImageReader reader = readers.next();
      try {
        if (!formats.contains(reader.getFormatName().toLowerCase(Locale.ROOT))) {
          throw noPicture();
        }
        reader.setInput(in, true, true);
        long width = reader.getWidth(0);
        long height = reader.getHeight(0);
        if (width * height > mostPoints) {
          throw new Refused(
              Rule.TOO_LARGE,
              "This picture has %,d by %,d points; at most %d million altogether fit. Make it smaller, then add it again."
                  .formatted(width, height, mostPoints / 1_000_000));
        }
        ImageReadParam every = reader.getDefaultReadParam();
        // Points that would be lost anyway are not even read.
        int step = (int) Math.max(1, Math.max(width, height) / LONGEST_SIDE);
        every.setSourceSubsampling(step, step, 0, 0);
        return new Points(reader.read(0, every), step == 1);
      } finally {
        reader.dispose();
      }
    } catch (IOException | IllegalArgumentException | IndexOutOfBoundsException broken) {
      throw noPicture();
    }
  }

  private static Refused noPicture() {
    return new Refused(
        Rule.UNREADABLE, "This file is no picture that can be read. Choose a JPEG or PNG file.");
  }

  /** How the camera was held (Exif 2.3, Orientation); 1, upright, when it does not say. */
  private static int orientation(byte[] content) {
    try {
      // Only what can say so is read: other parts of a file can unpack to anything.
      var exif =
          JpegMetadataReader.readMetadata(
                  new ByteArrayInputStream(content), List.of(new ExifReader()))
              .getFirstDirectoryOfType(ExifIFD0Directory.class);
      Integer orientation =
          exif == null ? null : exif.getInteger(ExifIFD0Directory.TAG_ORIENTATION);
      return orientation == null || orientation < UPRIGHT || orientation > 8
          ? UPRIGHT
          : orientation;
    } catch (JpegProcessingException | IOException unsaid) {
      return UPRIGHT;
    }
  }

  private static BufferedImage upright(BufferedImage picture, int orientation, int longest) {
    boolean lies = orientation >= 5;
    double scale =
        Math.min(1.0, (double) longest / Math.max(picture.getWidth(), picture.getHeight()));
    int width = Math.max(1, (int) Math.round(picture.getWidth() * scale));
    int height = Math.max(1, (int) Math.round(picture.getHeight() * scale));
    var drawn =
        new BufferedImage(lies ? height : width, lies ? width : height, BufferedImage.TYPE_INT_RGB);
    Graphics2D pen = drawn.createGraphics();
    pen.setRenderingHint(
        RenderingHints.KEY_INTERPOLATION, RenderingHints.VALUE_INTERPOLATION_BILINEAR);
    // What a PNG leaves open is paper.
    pen.setColor(Color.WHITE);
    pen.fillRect(0, 0, drawn.getWidth(), drawn.getHeight());
    pen.transform(turn(orientation, width, height));
    pen.drawImage(picture, 0, 0, width, height, null);
    pen.dispose();
    return drawn;
  }

  /** Brings each corner of a picture of this size to where the orientation says that it belongs. */
  private static AffineTransform turn(int orientation, int width, int height) {
    return switch (orientation) {
      case 2 -> new AffineTransform(-1, 0, 0, 1, width, 0);
      case 3 -> new AffineTransform(-1, 0, 0, -1, width, height);
      case 4 -> new AffineTransform(1, 0, 0, -1, 0, height);
      case 5 -> new AffineTransform(0, 1, 1, 0, 0, 0);
      case 6 -> new AffineTransform(0, 1, -1, 0, height, 0);
      case 7 -> new AffineTransform(0, -1, -1, 0, height, width);
      case 8 -> new AffineTransform(0, -1, 1, 0, 0, width);
      default -> new AffineTransform();
    };
  }

  private static byte[] write(BufferedImage picture, String format) {
    var out = new ByteArrayOutputStream();
    try {
      if (!ImageIO.write(picture, format, out)) {
        throw noPicture();
      }
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return out.toByteArray();
  }
}
