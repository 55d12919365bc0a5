package app.pragmata.server.printing;

import com.openhtmltopdf.extend.FSSupplier;
import com.openhtmltopdf.outputdevice.helper.BaseRendererBuilder.FontStyle;
import com.openhtmltopdf.pdfboxout.PdfRendererBuilder;
import com.openhtmltopdf.util.XRLog;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.List;
import org.springframework.stereotype.Component;

/** Sets XHTML with paged style sheets as a PDF whose fonts are embedded. */
@Component
public class PdfPrinter {
  private record Font(String family, int weight, FSSupplier<InputStream> content) {}

  private final List<Font> fonts =
      List.of(
          font("Source Sans 3", 400, "source-sans-3-latin-400-normal.woff"),
          font("Source Sans 3", 600, "source-sans-3-latin-600-normal.woff"),
          font("Source Serif 4", 600, "source-serif-4-latin-600-normal.woff"));

  /** Reads the fonts that the program ships. */
  public PdfPrinter() {
    // It tells every font that it loads, for every page set.
    XRLog.setLoggingEnabled(false);
  }

  /** The pages of a well-formed XHTML document; it may refer to nothing outside itself. */
  public byte[] print(String xhtml) {
    var out = new ByteArrayOutputStream();
    var builder = new PdfRendererBuilder();
    for (Font font : fonts) {
      builder.useFont(font.content(), font.family(), font.weight(), FontStyle.NORMAL, true);
    }
    builder.useUriResolver((base, uri) -> null);
    builder.withHtmlContent(xhtml, null);
    builder.toStream(out);
    try {
      builder.run();
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    }
    return out.toByteArray();
  }

  private static Font font(String family, int weight, String file) {
    try (InputStream packed = PdfPrinter.class.getResourceAsStream("/fonts/" + file)) {
      if (packed == null) {
        throw new IllegalStateException("The font " + file + " is missing from the program");
      }
      byte[] unpacked = Woff.unpack(packed.readAllBytes());
      return new Font(family, weight, () -> new ByteArrayInputStream(unpacked));
    } catch (IOException fault) {
      throw new UncheckedIOException(fault);
    }
  }
}
