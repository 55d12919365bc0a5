package app.pragmata.server;

import java.io.IOException;
import java.io.UncheckedIOException;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;

/** The words on a printed document (PDF). */
final class PrintedText {
  private PrintedText() {}

  static String of(byte[] pdf) {
    try (var document = Loader.loadPDF(pdf)) {
      return new PDFTextStripper().getText(document);
    } catch (IOException unreadable) {
      throw new UncheckedIOException(unreadable);
    }
  }
}
