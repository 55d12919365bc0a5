package app.pragmata.server.importing;

import app.pragmata.core.Decimal;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.nio.CharBuffer;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import org.apache.commons.compress.archivers.zip.ZipArchiveEntry;
import org.apache.commons.compress.archivers.zip.ZipFile;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Row;

/** Reads CSV (RFC 4180, or with semicolons or tabs) and XLSX files into rows of text. */
final class ListReader {
  /**
   * A list as it was read: its headings, its rows of as many cells, and cells that hold formulas.
   */
  record Read(List<String> headings, List<List<String>> rows, List<Formula> formulas) {}

  /**
   * A cell that is computed and not a value; rows are counted from the first below the headings.
   */
  record Formula(int row, int column) {}

  private static final int MOST_ROWS = 200_000;
  private static final int MOST_COLUMNS = 100;
  private static final long MOST_UNPACKED_BYTES = 600L << 20;
  private static final int MOST_TIMES_PACKED = 150;
  private static final int ZIP_MARK = 0x504b0304;

  private ListReader() {}

  /**
   * Reads a file by its content, whatever its name says.
   *
   * @param encoding how a CSV file's letters are written when it is not UTF-8; empty to find out
   */
  static Read read(byte[] content, String encoding) {
    if (content.length == 0) {
      throw new Refused(Rule.NO_LINES, "This file is empty. Choose the one with the list in it.");
    }
    Read read = isZip(content) ? workbook(content) : text(decode(content, encoding));
    if (read.rows().isEmpty()) {
      throw new Refused(
          Rule.NO_LINES,
          "This list has headings at most, and no rows below them. Choose the one with the rows.");
    }
    return read;
  }

  private static boolean isZip(byte[] content) {
    return content.length > 4 && ByteBuffer.wrap(content).getInt() == ZIP_MARK;
  }

  private static String decode(byte[] content, String encoding) {
    if (!encoding.isEmpty()) {
      if (!List.of("windows-1252", "iso-8859-15").contains(encoding)) {
        throw new Refused(Rule.NOT_FOUND, "Choose UTF-8, Windows-1252 or ISO 8859-15.");
      }
      return new String(content, Charset.forName(encoding));
    }
    if (startsWith(content, 0xff, 0xfe)) {
      return new String(content, 2, content.length - 2, StandardCharsets.UTF_16LE);
    }
    if (startsWith(content, 0xfe, 0xff)) {
      return new String(content, 2, content.length - 2, StandardCharsets.UTF_16BE);
    }
    int start = startsWith(content, 0xef, 0xbb, 0xbf) ? 3 : 0;
    try {
      CharBuffer text =
          StandardCharsets.UTF_8
              .newDecoder()
              .onMalformedInput(CodingErrorAction.REPORT)
              .decode(ByteBuffer.wrap(content, start, content.length - start));
      if (text.chars().limit(10_000).anyMatch(c -> c == 0)) {
        throw notAList();
      }
      return text.toString();
    } catch (CharacterCodingException notUtf8) {
      throw new Refused(
          Rule.WRONG_ENCODING,
          "The letters of this file are not UTF-8 (first seen in line %d). Save it again as CSV UTF-8, or say below how they are written."
              .formatted(lineOfTheFirstFault(content)));
    }
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

  private static int lineOfTheFirstFault(byte[] content) {
    ByteBuffer bytes = ByteBuffer.wrap(content);
    StandardCharsets.UTF_8
        .newDecoder()
        .decode(bytes, CharBuffer.allocate(content.length + 1), true);
    int line = 1;
    for (int i = 0; i < bytes.position(); i++) {
      line += content[i] == '\n' ? 1 : 0;
    }
    return line;
  }

  private static Read text(String text) {
    char separator = separator(text);
    var rows = new ArrayList<List<String>>();
    var formulas = new ArrayList<Formula>();
    try (var parser =
        CSVFormat.RFC4180
            .builder()
            .setDelimiter(separator)
            .setIgnoreEmptyLines(true)
            .get()
            .parse(new StringReader(text))) {
      for (CSVRecord line : parser) {
        var cells = new ArrayList<String>(line.size());
        line.forEach(cell -> cells.add(cell.strip()));
        add(rows, cells);
      }
    } catch (CSVException | UncheckedIOException | IllegalArgumentException unreadable) {
      throw new Refused(
          Rule.UNREADABLE,
          "Line %d of this file cannot be read: a quotation mark is opened there and not closed. Mend the line, then choose the file again."
              .formatted(rows.size() + 1));
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    List<List<String>> below = rows.isEmpty() ? rows : rows.subList(1, rows.size());
    for (int row = 0; row < below.size(); row++) {
      for (int column = 0; column < below.get(row).size(); column++) {
        if (below.get(row).get(column).matches("=.*\\(.*|=[A-Z]+[0-9]+.*|@.+\\(.*")) {
          formulas.add(new Formula(row, column));
        }
      }
    }
    return shaped(rows, formulas);
  }

  /** The one of comma, semicolon and tab that the headings have most of. */
  private static char separator(String text) {
    String headings = text.lines().findFirst().orElse("");
    return Stream.of(',', ';', '\t')
        .max(Comparator.comparing(separator -> count(headings, separator)))
        .orElseThrow();
  }

  private static long count(String text, char wanted) {
    return text.chars().filter(c -> c == wanted).count();
  }

  private static Read workbook(byte[] content) {
    refuseBomb(content);
    var rows = new ArrayList<List<String>>();
    var formulas = new ArrayList<Formula>();
    try (var book =
            new ReadableWorkbook(
                new ByteArrayInputStream(content), new ReadingOptions(true, false));
        var lines = book.getFirstSheet().openStream()) {
      lines.forEach(line -> add(rows, cells(line, rows.size() - 1, formulas)));
    } catch (IOException | RuntimeException unreadable) {
      if (unreadable instanceof Refused refused) {
        throw refused;
      }
      throw notAList();
    }
    return shaped(rows, formulas);
  }

  private static List<String> cells(Row line, int row, List<Formula> formulas) {
    var cells = new ArrayList<String>();
    for (int column = 0; column < Math.min(line.getCellCount(), MOST_COLUMNS); column++) {
      Cell cell = line.getCell(column);
      if (cell == null) {
        cells.add("");
        continue;
      }
      if (cell.getType() == CellType.FORMULA && row >= 0) {
        formulas.add(new Formula(row, column));
      }
      cells.add(text(cell));
    }
    return cells;
  }

  private static String text(Cell cell) {
    if (cell.getType() == CellType.FORMULA) {
      return "=" + cell.getFormula();
    }
    if (cell.getType() == CellType.NUMBER && isDay(cell)) {
      return cell.asDate().toLocalDate().toString();
    }
    return cell.getType() == CellType.NUMBER
        ? Decimal.text(cell.asNumber())
        : cell.getText().strip();
  }

  private static boolean isDay(Cell cell) {
    String format = cell.getDataFormatString();
    return format != null && format.matches("(?i).*[dmy].*[/.\\- ].*[dmy].*");
  }

  /** Unpacks without keeping anything, and stops as soon as there is more than any list needs. */
  private static void refuseBomb(byte[] content) {
    long most =
        Math.min(
            MOST_UNPACKED_BYTES, Math.max(20L << 20, (long) content.length * MOST_TIMES_PACKED));
    long unpacked = 0;
    byte[] buffer = new byte[1 << 16];
    try (ZipFile zip = ZipFile.builder().setByteArray(content).get()) {
      for (ZipArchiveEntry entry : Collections.list(zip.getEntries())) {
        try (InputStream packed = zip.getInputStream(entry)) {
          for (int count = packed.read(buffer); count > 0; count = packed.read(buffer)) {
            unpacked += count;
            if (unpacked > most) {
              throw new Refused(
                  Rule.TOO_LARGE,
                  "This workbook unpacks to far more than it seems to hold, so it was not opened. Save the list alone in a new file.");
            }
          }
        }
      }
    } catch (IOException unreadable) {
      throw notAList();
    }
  }

  private static void add(List<List<String>> rows, List<String> cells) {
    if (cells.stream().allMatch(String::isEmpty)) {
      return;
    }
    if (rows.size() > MOST_ROWS) {
      throw new Refused(
          Rule.TOO_LARGE,
          "More than 200,000 rows. Cut the list in two and take them in one by one.");
    }
    if (cells.size() > MOST_COLUMNS) {
      throw new Refused(Rule.TOO_LARGE, "More than 100 columns. Keep only those that are needed.");
    }
    rows.add(cells);
  }

  /** Every row gets as many cells as there are headings. */
  private static Read shaped(List<List<String>> rows, List<Formula> formulas) {
    if (rows.isEmpty()) {
      return new Read(List.of(), List.of(), List.of());
    }
    int width = rows.stream().mapToInt(List::size).max().orElse(0);
    var padded = new ArrayList<List<String>>(rows.size());
    for (List<String> row : rows) {
      var cells = new ArrayList<>(row);
      while (cells.size() < width) {
        cells.add("");
      }
      padded.add(cells);
    }
    return new Read(padded.getFirst(), padded.subList(1, padded.size()), formulas);
  }

  private static Refused notAList() {
    return new Refused(
        Rule.UNREADABLE, "This file is neither CSV nor XLSX. Save the list as one of them.");
  }
}
