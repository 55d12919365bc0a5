package app.pragmata.demo;

import java.awt.BasicStroke;
import java.awt.Color;
import java.awt.Font;
import java.awt.GradientPaint;
import java.awt.Graphics2D;
import java.awt.RenderingHints;
import java.awt.geom.Line2D;
import java.awt.geom.Rectangle2D;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Random;
import javax.imageio.ImageIO;

/** Pictures of gates, shutters and rating plates, drawn: nothing that exists is shown. */
final class DrawnPhotos {
  private static final int WIDTH = 960;
  private static final int HEIGHT = 720;
  private static final int GROUND = 560;
  private static final int GRAIN = 8;
  private static final int PLATE_TEXT = 470;

  private DrawnPhotos() {}

  /** Two leaves between posts, a ram on the left one. */
  static byte[] gate(int seed, boolean open) {
    return photo(
        seed,
        pen -> {
          yard(pen);
          post(pen, 150);
          post(pen, 780);
          leaf(pen, 180, open ? 300 : 475);
          leaf(pen, open ? 660 : 485, 780);
          pen.setColor(new Color(0x3a3f45));
          pen.setStroke(new BasicStroke(16, BasicStroke.CAP_ROUND, BasicStroke.JOIN_ROUND));
          pen.draw(new Line2D.Double(172, 470, open ? 270 : 330, 455));
          pen.setColor(new Color(0xb9bec4));
          pen.setStroke(new BasicStroke(7));
          pen.draw(new Line2D.Double(open ? 232 : 270, 461, open ? 270 : 330, 455));
        });
  }

  /** A curtain of slats below its box, down or half up. */
  static byte[] shutter(int seed, boolean open) {
    return photo(
        seed,
        pen -> {
          yard(pen);
          pen.setColor(new Color(0x9a5f45));
          pen.fill(new Rectangle2D.Double(80, 90, 800, GROUND - 90));
          pen.setColor(new Color(0x2a2d31));
          pen.fill(new Rectangle2D.Double(230, 190, 500, GROUND - 190));
          int bottom = open ? 340 : GROUND - 6;
          for (int y = 190; y < bottom; y += 16) {
            pen.setPaint(
                new GradientPaint(0, y, new Color(0xc9ced3), 0, y + 15, new Color(0x868d95)));
            pen.fill(new Rectangle2D.Double(230, y, 500, 14));
          }
          pen.setColor(new Color(0x5b626a));
          pen.fill(new Rectangle2D.Double(215, 130, 530, 62));
          pen.fill(new Rectangle2D.Double(215, 190, 16, GROUND - 190));
          pen.fill(new Rectangle2D.Double(729, 190, 16, GROUND - 190));
        });
  }

  /** A rating plate on a painted housing. */
  static byte[] plate(int seed, String type, String serial) {
    return photo(
        seed,
        pen -> {
          pen.setPaint(
              new GradientPaint(0, 0, new Color(0x47525c), WIDTH, HEIGHT, new Color(0x2c343b)));
          pen.fillRect(0, 0, WIDTH, HEIGHT);
          pen.rotate(-0.03, WIDTH / 2.0, HEIGHT / 2.0);
          pen.setPaint(
              new GradientPaint(200, 180, new Color(0xd5d8da), 760, 540, new Color(0xa9afb4)));
          pen.fillRoundRect(190, 190, 580, 330, 24, 24);
          pen.setColor(new Color(0x6b7278));
          for (int[] rivet : new int[][] {{214, 214}, {734, 214}, {214, 484}, {734, 484}}) {
            pen.fillOval(rivet[0], rivet[1], 14, 14);
          }
          pen.setColor(new Color(0x22272b));
          var font = new Font(Font.SANS_SERIF, Font.BOLD, 44);
          int width = pen.getFontMetrics(font).stringWidth(type);
          pen.setFont(font.deriveFont(44f * Math.min(1, (float) PLATE_TEXT / width)));
          pen.drawString(type, 250, 290);
          pen.setFont(new Font(Font.MONOSPACED, Font.PLAIN, 38));
          pen.drawString("No. " + serial, 250, 360);
          pen.drawString("24 V   90 W   IP 54", 250, 430);
        });
  }

  private interface Scene {
    void draw(Graphics2D pen);
  }

  private static byte[] photo(int seed, Scene scene) {
    var picture = new BufferedImage(WIDTH, HEIGHT, BufferedImage.TYPE_INT_RGB);
    Graphics2D pen = picture.createGraphics();
    pen.setRenderingHint(RenderingHints.KEY_ANTIALIASING, RenderingHints.VALUE_ANTIALIAS_ON);
    scene.draw(pen);
    pen.dispose();
    grain(picture, new Random(seed));
    var jpeg = new ByteArrayOutputStream();
    try {
      ImageIO.write(picture, "jpeg", jpeg);
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return jpeg.toByteArray();
  }

  /** Sky over a wall and a drive. */
  private static void yard(Graphics2D pen) {
    pen.setPaint(new GradientPaint(0, 0, new Color(0xb4c4d2), 0, 380, new Color(0xe4e6e3)));
    pen.fillRect(0, 0, WIDTH, 400);
    pen.setPaint(new GradientPaint(0, 330, new Color(0x8d9a76), 0, GROUND, new Color(0x6f7b5c)));
    pen.fillRect(0, 330, WIDTH, GROUND - 330);
    pen.setPaint(new GradientPaint(0, GROUND, new Color(0x8c8983), 0, HEIGHT, new Color(0x6d6a65)));
    pen.fillRect(0, GROUND, WIDTH, HEIGHT - GROUND);
  }

  private static void post(Graphics2D pen, int x) {
    pen.setPaint(new GradientPaint(x, 0, new Color(0xa27a62), x + 40, 0, new Color(0x7c5b48)));
    pen.fill(new Rectangle2D.Double(x, 200, 40, GROUND - 200));
    pen.setColor(new Color(0xb8b2a8));
    pen.fill(new Rectangle2D.Double(x - 6, 184, 52, 18));
  }

  private static void leaf(Graphics2D pen, int from, int to) {
    pen.setColor(new Color(0x2f4a3d));
    pen.fill(new Rectangle2D.Double(from, 270, to - from, 14));
    pen.fill(new Rectangle2D.Double(from, 440, to - from, 14));
    pen.fill(new Rectangle2D.Double(from, GROUND - 34, to - from, 14));
    double step = (to - from) / 9.0;
    for (int bar = 0; bar <= 9; bar++) {
      pen.fill(new Rectangle2D.Double(from + bar * step - 3, 250, 7, GROUND - 270));
    }
  }

  /** As a phone's picture has it on a dull day. */
  private static void grain(BufferedImage picture, Random random) {
    for (int y = 0; y < HEIGHT; y++) {
      for (int x = 0; x < WIDTH; x++) {
        int shift = random.nextInt(GRAIN) - GRAIN / 2;
        int point = picture.getRGB(x, y);
        picture.setRGB(
            x,
            y,
            shifted(point >> 16, shift) << 16
                | shifted(point >> 8, shift) << 8
                | shifted(point, shift));
      }
    }
  }

  private static int shifted(int value, int shift) {
    return Math.clamp((value & 0xff) + shift, 0, 255);
  }
}
