package app.pragmata.server.importing;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.io.FilterReader;
import java.io.IOException;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Stream;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;

/**
 * Reads CSV (RFC 4180, or with semicolons or tabs) and XLSX files row by row: of a list no more is
 * held than the row that is read.
 */
final class ListReader {
  /** Takes the rows of a list as they come, the one with the headings first. */
  interface Rows {
    /**
     * Takes the next row.
     *
     * @param cells without the blanks around them; a row need not have as many as the others
     * @param formulas the places, counted from 1, of cells that are computed and no values
     */
    void take(List<String> cells, List<Short> formulas);
  }

  static final int MOST_COLUMNS = 100;

  /** As many as a cell of a workbook holds. */
  static final int LONGEST_CELL = 32_767;

  private static final int MOST_ROWS = 200_000;
  private static final int MOST_SEPARATORS_IN_A_LINE = 20_000;
  private static final int LONGEST_HEADINGS = 100_000;
  private static final int ZIP_MARK = 0x504b0304;

  private ListReader() {}

  /**
   * Reads a file by its content, whatever its name says.
   *
   * @param encoding how a CSV file's letters are written when it is not UTF-8; empty to find out
   */
  static void read(byte[] content, String encoding, Rows rows) {
    if (content.length == 0) {
      throw new Refused(Rule.NO_LINES, "This file is empty. Choose the one with the list in it.");
    }
    var limited = new Limited(rows);
    if (isZip(content)) {
      WorkbookReader.read(content, limited);
    } else {
      readText(Letters.of(content, encoding), limited);
    }
    if (limited.count < 2) {
      throw new Refused(
          Rule.NO_LINES,
          "This list has headings at most, and no rows below them. Choose the one with the rows.");
    }
  }

  private static boolean isZip(byte[] content) {
    return content.length > 4 && ByteBuffer.wrap(content).getInt() == ZIP_MARK;
  }

  private static void readText(Letters letters, Limited rows) {
    try (var parser =
        CSVFormat.RFC4180
            .builder()
            .setDelimiter(separator(letters))
            .setIgnoreEmptyLines(true)
            .get()
            .parse(new ShortLines(letters.reader()))) {
      for (CSVRecord line : parser) {
        var cells = new ArrayList<String>(line.size());
        line.forEach(cell -> cells.add(cell.strip()));
        rows.take(cells, formulas(cells));
      }
    } catch (CSVException | UncheckedIOException | IllegalArgumentException unreadable) {
      throw new Refused(
          Rule.UNREADABLE,
          "Line %d of this file cannot be read: a quotation mark is opened there and not closed. Mend the line, then choose the file again."
              .formatted(rows.count + 1));
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
  }

  private static List<Short> formulas(List<String> cells) {
    var formulas = new ArrayList<Short>();
    for (int column = 0; column < Math.min(cells.size(), MOST_COLUMNS); column++) {
      if (cells.get(column).matches("=.*\\(.*|=[A-Z]+[0-9]+.*|@.+\\(.*")) {
        formulas.add((short) (column + 1));
      }
    }
    return formulas;
  }

  /** The one of comma, semicolon and tab that the headings have most of. */
  private static char separator(Letters letters) throws IOException {
    var headings = new StringBuilder();
    try (Reader reader = letters.reader()) {
      for (int next = reader.read();
          next >= 0 && next != '\n' && next != '\r' && headings.length() < LONGEST_HEADINGS;
          next = reader.read()) {
        headings.append((char) next);
      }
    }
    return Stream.of(',', ';', '\t')
        .max(Comparator.comparing(separator -> count(headings, separator)))
        .orElseThrow();
  }

  private static long count(CharSequence text, char wanted) {
    return text.chars().filter(c -> c == wanted).count();
  }

  static Refused notAList() {
    return new Refused(
        Rule.UNREADABLE, "This file is neither CSV nor XLSX. Save the list as one of them.");
  }

  private static Refused tooManyColumns() {
    return new Refused(Rule.TOO_LARGE, "More than 100 columns. Keep only those that are needed.");
  }

  /** Passes rows on that have something in them, as long as they are no more than a list has. */
  private static final class Limited implements Rows {
    private final Rows rows;
    private int count;

    Limited(Rows rows) {
      this.rows = rows;
    }

    @Override
    public void take(List<String> cells, List<Short> formulas) {
      if (cells.stream().allMatch(String::isEmpty)) {
        return;
      }
      if (count > MOST_ROWS) {
        throw new Refused(
            Rule.TOO_LARGE,
            "More than 200,000 rows. Cut the list in two and take them in one by one.");
      }
      if (cells.size() > MOST_COLUMNS) {
        throw tooManyColumns();
      }
      if (cells.stream().anyMatch(cell -> cell.length() > LONGEST_CELL)) {
        throw new Refused(
            Rule.TOO_LARGE,
            "A cell of row %d has more than 32,767 letters. Shorten it, then choose the file again."
                .formatted(count + 1));
      }
      rows.take(cells, formulas);
      count++;
    }
  }

  /** Ends the reading at a line of so many cells that the line alone would fill the memory. */
  private static final class ShortLines extends FilterReader {
    private int separators;

    ShortLines(Reader letters) {
      super(letters);
    }

    private void look(int letter) {
      switch (letter) {
        case '\n', '\r' -> separators = 0;
        case ',', ';', '\t' -> {
          separators++;
          if (separators > MOST_SEPARATORS_IN_A_LINE) {
            throw tooManyColumns();
          }
        }
        default -> {}
      }
    }

    @Override
    public int read() throws IOException {
      int letter = super.read();
      look(letter);
      return letter;
    }

    @Override
    public int read(char[] into, int from, int most) throws IOException {
      int count = super.read(into, from, most);
      for (int i = 0; i < count; i++) {
        look(into[from + i]);
      }
      return count;
    }
  }
}
