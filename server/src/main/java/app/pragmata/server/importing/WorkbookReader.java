package app.pragmata.server.importing;

import app.pragmata.core.Decimal;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.importing.ListReader.Rows;
import java.io.ByteArrayInputStream;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Collections;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Row;

/**
 * Reads the first sheet of an XLSX workbook. Whatever would take more memory than a list needs is
 * refused in a first pass that keeps nothing.
 */
final class WorkbookReader {
  private static final long MOST_UNPACKED_BYTES = 600L << 20;
  private static final long MOST_BYTES_BESIDE_SHEETS = 64L << 20;
  private static final int MOST_TIMES_PACKED = 150;

  /** The last column of a workbook is XFD (ISO/IEC 29500-1, 18.3.1). */
  private static final int MOST_LETTERS_OF_A_COLUMN = 3;

  private static final int MOST_CELLS_IN_A_ROW = 16_384;
  private static final int LONGEST_VALUE = 400;

  /** No quantity or price has more digits on either side of its decimal point. */
  private static final int MOST_DIGITS = 30;

  private static final XMLInputFactory XML = factory();

  private WorkbookReader() {}

  private static XMLInputFactory factory() {
    XMLInputFactory factory = XMLInputFactory.newFactory();
    factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
    factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
    return factory;
  }

  /** Hands over the rows of the first sheet; refused when the content is no workbook. */
  static void read(byte[] content, Rows rows) {
    refuseTricks(content);
    try (var book =
            new ReadableWorkbook(
                new ByteArrayInputStream(content), new ReadingOptions(true, false));
        var lines = book.getFirstSheet().openStream()) {
      lines.forEach(line -> take(line, rows));
    } catch (Refused refused) {
      throw refused;
    } catch (IOException | RuntimeException unreadable) {
      throw ListReader.notAList();
    }
  }

  private static void take(Row line, Rows rows) {
    var cells = new ArrayList<String>();
    var formulas = new ArrayList<Short>();
    for (int column = 0;
        column < Math.min(line.getCellCount(), ListReader.MOST_COLUMNS);
        column++) {
      Cell cell = line.getCell(column);
      cells.add(cell == null ? "" : text(cell));
      if (cell != null && cell.getType() == CellType.FORMULA) {
        formulas.add((short) (column + 1));
      }
    }
    rows.take(cells, formulas);
  }

  private static String text(Cell cell) {
    if (cell.getType() == CellType.FORMULA) {
      return "=" + cell.getFormula();
    }
    if (cell.getType() != CellType.NUMBER) {
      return cell.getText().strip();
    }
    BigDecimal number = cell.asNumber();
    if (Math.abs((long) number.precision() - number.scale()) > MOST_DIGITS
        || number.scale() > MOST_DIGITS) {
      // Written out it could fill the memory; as it is, its row is told as one with no number.
      return Reading.abridged(cell.getRawValue());
    }
    return isDay(cell) ? cell.asDate().toLocalDate().toString() : Decimal.text(number);
  }

  private static boolean isDay(Cell cell) {
    String format = cell.getDataFormatString();
    return format != null && format.matches("(?i).*[dmy].*[/.\\- ].*[dmy].*");
  }

  /** Unpacks without keeping anything, and stops as soon as there is more than any list needs. */
  private static void refuseTricks(byte[] content) {
    var left =
        new Left(
            Math.min(
                MOST_UNPACKED_BYTES,
                Math.max(20L << 20, (long) content.length * MOST_TIMES_PACKED)));
    try (ZipFile zip = ZipFile.builder().setByteArray(content).get()) {
      for (ZipArchiveEntry entry : Collections.list(zip.getEntries())) {
        if (entry.getName().startsWith("xl/worksheets/") && entry.getName().endsWith(".xml")) {
          try (InputStream packed = new Measured(zip.getInputStream(entry), left)) {
            refuseTricksOfSheet(packed);
          }
        } else {
          try (InputStream packed =
              new Measured(
                  new Measured(zip.getInputStream(entry), new Left(MOST_BYTES_BESIDE_SHEETS)),
                  left)) {
            packed.transferTo(OutputStream.nullOutputStream());
          }
        }
      }
    } catch (IOException | XMLStreamException unreadable) {
      throw ListReader.notAList();
    }
  }

  private static void refuseTricksOfSheet(InputStream packed) throws XMLStreamException {
    XMLStreamReader sheet = XML.createXMLStreamReader(packed);
    int cells = 0;
    int length = 0;
    while (sheet.hasNext()) {
      switch (sheet.next()) {
        case XMLStreamConstants.START_ELEMENT -> {
          length = 0;
          if (sheet.getLocalName().equals("row")) {
            cells = 0;
          } else if (sheet.getLocalName().equals("c")) {
            cells++;
            refuseFarColumn(cells, sheet.getAttributeValue(null, "r"));
          }
        }
        case XMLStreamConstants.CHARACTERS -> {
          length += sheet.getTextLength();
          if (length > LONGEST_VALUE && sheet.getTextLength() > 0) {
            refuseLongNumber(sheet, length);
          }
        }
        default -> {}
      }
    }
    sheet.close();
  }

  private static void refuseFarColumn(int cells, String place) {
    long letters = place == null ? 0 : place.chars().takeWhile(Character::isLetter).count();
    if (cells > MOST_CELLS_IN_A_ROW || letters > MOST_LETTERS_OF_A_COLUMN) {
      throw new Refused(
          Rule.TOO_LARGE,
          "A row of this workbook goes on beyond its last column, so it was not opened. Save the list alone in a new file.");
    }
  }

  /** Text may be long; a number of so many digits is a trick. */
  private static void refuseLongNumber(XMLStreamReader sheet, int length) {
    boolean digits =
        sheet
            .getText()
            .chars()
            .allMatch(letter -> (letter >= '0' && letter <= '9') || letter == '.');
    if (digits || length > ListReader.LONGEST_CELL * 4) {
      throw new Refused(
          Rule.TOO_LARGE,
          "A cell of this workbook holds far more than any list needs, so it was not opened. Save the list alone in a new file.");
    }
  }

  /** How many bytes may still come. */
  private static final class Left {
    private long bytes;

    Left(long bytes) {
      this.bytes = bytes;
    }

    int take(int count) {
      bytes -= Math.max(count, 0);
      if (bytes < 0) {
        throw new Refused(
            Rule.TOO_LARGE,
            "This workbook unpacks to far more than it seems to hold, so it was not opened. Save the list alone in a new file.");
      }
      return count;
    }
  }

  private static final class Measured extends FilterInputStream {
    private final Left left;

    Measured(InputStream packed, Left left) {
      super(packed);
      this.left = left;
    }

    @Override
    public int read() throws IOException {
      int next = super.read();
      left.take(next < 0 ? 0 : 1);
      return next;
    }

    @Override
    public int read(byte[] into, int from, int most) throws IOException {
      return left.take(super.read(into, from, most));
    }
  }
}
