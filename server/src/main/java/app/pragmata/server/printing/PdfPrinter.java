package app.pragmata.server.printing;

import com.openhtmltopdf.extend.FSSupplier;
import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FSFontUseCase;
import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.pdfboxout.PdfBoxRenderer;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.util.XRLog;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.charset.StandardCharsets;
import java.util.EnumSet;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Pattern;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.PDPage;
import org.apache.pdfbox.pdmodel.common.PDRectangle;
import org.springframework.stereotype.Component;
import org.springframework.web.util.HtmlUtils;

/** Sets XHTML with paged style sheets as a PDF whose fonts are embedded. */
@Component
public class PdfPrinter {
  private static final Pattern IN_THE_PAGE = Pattern.compile("data:image/(png|jpeg);base64,");

  private record Font(
      String family, int weight, FSFontUseCase use, FSSupplier<InputStream> content) {}

  /** Hears of each page that has been set. */
  @FunctionalInterface
  public interface Progress {
    /** This many of all pages are set. */
    void pages(int set, int all);
  }

  /** For a sign that no font here has, in the hope that its reader asks what was meant. */
  private static final String MISSING_SIGN = "\u25a1";

  private final List<Font> fonts =
      List.of(
          font("Source Sans 3", 400, FSFontUseCase.DOCUMENT, "SourceSans3_400Regular.ttf"),
          font("Source Sans 3", 600, FSFontUseCase.DOCUMENT, "SourceSans3_600SemiBold.ttf"),
          font("Source Serif 4", 600, FSFontUseCase.DOCUMENT, "SourceSerif4_600SemiBold.ttf"),
          font("DejaVu Sans", 400, FSFontUseCase.FALLBACK_FINAL, "DejaVuSans.ttf"));

  /** Reads the fonts that the program ships. */
  public PdfPrinter() {
    // It tells every font that it loads, for every page set.
    XRLog.setLoggingEnabled(false);
  }

  /** What was typed, safe in XHTML; signs that no page can hold are left out. */
  public static String text(String typed) {
    return HtmlUtils.htmlEscapeDecimal(typed.replaceAll("[\\p{Cntrl}&&[^\\n\\t]]", ""), "UTF-8");
  }

  /**
   * The pages of a well-formed XHTML document; it may refer to nothing outside itself, but may hold
   * pictures (PNG, as RFC 2397 writes them).
   */
  public byte[] print(String xhtml) {
    return print(xhtml, (set, all) -> {});
  }

  /**
   * The same, which tells how far it is.
   *
   * @param progress whatever it throws ends the printing
   */
  public byte[] print(String xhtml, Progress progress) {
    var out = new ByteArrayOutputStream();
    var builder = new PdfRendererBuilder();
    for (Font font : fonts) {
      builder.useFont(
          font.content(),
          font.family(),
          font.weight(),
          FontStyle.NORMAL,
          true,
          EnumSet.of(font.use()));
    }
    builder.useReplacementText(MISSING_SIGN);
    builder.useUriResolver((base, uri) -> IN_THE_PAGE.matcher(uri).lookingAt() ? uri : null);
    builder.withHtmlContent(xhtml, null);
    builder.toStream(out);
    var all = new AtomicInteger();
    builder.usePageSupplier(
        (document, width, height, page, shadow) -> {
          progress.pages(page, all.get());
          return newPage(document, width, height);
        });
    try (PdfBoxRenderer renderer = builder.buildPdfRenderer()) {
      renderer.layout();
      all.set(renderer.getRootBox().getLayer().getPages().size());
      renderer.createPDF();
      progress.pages(all.get(), all.get());
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    }
    return out.toByteArray();
  }

  private static PDPage newPage(PDDocument document, float width, float height) {
    var page = new PDPage(new PDRectangle(width, height));
    document.addPage(page);
    return page;
  }

  /**
   * The font without its table of glyphs that stand for others, such as the one letter for “fi”: to
   * look them up takes longer than all the rest of the printing. The table's name is made one that
   * nobody asks for (OpenType 1.9, table directory: a tag every 16 bytes from the twelfth).
   */
  private static byte[] withoutSubstitutions(byte[] font) {
    ByteBuffer directory = ByteBuffer.wrap(font);
    int tables = directory.getShort(4);
    for (int i = 0; i < tables; i++) {
      int at = 12 + 16 * i;
      if (new String(font, at, 4, StandardCharsets.US_ASCII).equals("GSUB")) {
        directory.put(at, (byte) 'x');
      }
    }
    return font;
  }

  private static Font font(String family, int weight, FSFontUseCase use, String file) {
    try (InputStream content = PdfPrinter.class.getResourceAsStream("/fonts/" + file)) {
      if (content == null) {
        throw new IllegalStateException("The font " + file + " is missing from the program");
      }
      byte[] read = withoutSubstitutions(content.readAllBytes());
      return new Font(family, weight, use, () -> new ByteArrayInputStream(read));
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    }
  }
}
