package app.pragmata.server.http;

import app.pragmata.core.Coded;
import app.pragmata.core.money.Money;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.function.Function;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;

/**
 * A list as a file: CSV (RFC 4180) or XLSX (ISO/IEC 29500). No spreadsheet takes one of its text
 * cells for a formula.
 */
public final class ListFile {
  /** What kind of file it is. */
  public enum Format implements Coded {
    CSV,
    XLSX
  }

  /** More than any list that people work with; a longer one is cut here. */
  public static final int MOST_ROWS = 200_000;

  /** Writes rows of cells, then ends the file. */
  private interface Sheet {
    void row(@Nullable Object[] cells) throws IOException;

    void end() throws IOException;
  }

  private final String fileName;
  private final MediaType type;
  private final ByteArrayOutputStream bytes;
  private final Sheet sheet;

  private ListFile(String fileName, MediaType type, ByteArrayOutputStream bytes, Sheet sheet) {
    this.fileName = fileName;
    this.type = type;
    this.bytes = bytes;
    this.sheet = sheet;
  }

  /** An empty file. */
  public static ListFile named(String name, Format format) {
    var bytes = new ByteArrayOutputStream();
    return switch (format) {
      case CSV ->
          new ListFile(
              name + ".csv",
              new MediaType("text", "csv", StandardCharsets.UTF_8),
              bytes,
              new Csv(bytes));
      case XLSX ->
          new ListFile(
              name + ".xlsx",
              MediaType.parseMediaType(
                  "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
              bytes,
              new Xlsx(bytes, name));
    };
  }

  public ListFile head(String... columns) {
    return print(columns);
  }

  public <T> ListFile rows(List<T> rows, Function<T, @Nullable Object[]> cells) {
    rows.forEach(row -> print(cells.apply(row)));
    return this;
  }

  private ListFile print(@Nullable Object[] cells) {
    try {
      sheet.row(Arrays.stream(cells).map(ListFile::harmless).toArray());
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return this;
  }

  private static @Nullable Object harmless(@Nullable Object cell) {
    boolean formula =
        cell instanceof String string
            && !string.isEmpty()
            && "=+-@\t\r".indexOf(string.charAt(0)) >= 0;
    return formula ? "'" + cell : cell;
  }

  /** Minor units as a plain decimal number. */
  public static BigDecimal amount(long minor) {
    return Money.ofMinor(minor).major();
  }

  public ResponseEntity<byte[]> answer() {
    try {
      sheet.end();
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"" + fileName + "\"")
        .contentType(type)
        .body(bytes.toByteArray());
  }

  private static final class Csv implements Sheet {
    private final CSVPrinter printer;

    Csv(ByteArrayOutputStream bytes) {
      try {
        this.printer =
            new CSVPrinter(
                new OutputStreamWriter(bytes, StandardCharsets.UTF_8), CSVFormat.RFC4180);
      } catch (IOException impossible) {
        throw new UncheckedIOException(impossible);
      }
    }

    @Override
    public void row(@Nullable Object[] cells) throws IOException {
      printer.printRecord(cells);
    }

    @Override
    public void end() throws IOException {
      printer.close();
    }
  }

  private static final class Xlsx implements Sheet {
    private final Workbook workbook;
    private final Worksheet worksheet;
    private int rows;

    Xlsx(ByteArrayOutputStream bytes, String name) {
      workbook = new Workbook(bytes, "Pragmata", null);
      worksheet = workbook.newWorksheet(name);
    }

    @Override
    public void row(@Nullable Object[] cells) {
      for (int column = 0; column < cells.length; column++) {
        Object cell = cells[column];
        switch (cell) {
          case null -> {}
          case LocalDate day -> {
            worksheet.value(rows, column, day);
            worksheet.style(rows, column).format("yyyy-mm-dd").set();
          }
          case Number number -> worksheet.value(rows, column, number);
          default -> worksheet.value(rows, column, cell.toString());
        }
      }
      if (rows == 0) {
        worksheet.range(0, 0, 0, Math.max(0, cells.length - 1)).style().bold().set();
        worksheet.freezePane(0, 1);
      }
      rows++;
    }

    @Override
    public void end() throws IOException {
      workbook.finish();
    }
  }
}
