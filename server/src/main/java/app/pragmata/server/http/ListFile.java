package app.pragmata.server.http;

import app.pragmata.core.Coded;
import app.pragmata.core.money.Money;
import jakarta.servlet.http.HttpServletResponse;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import java.util.function.Function;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.QuoteMode;
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

  /** How a formula begins, also as it is typed in East Asia. */
  private static final Pattern FORMULA =
      Pattern.compile("\\s*[=+\\-@\\x{FF1D}\\x{FF0B}\\x{FF0D}\\x{FF20}]|[\t\r]");

  // Text always stands in quotation marks: where lists are parted by semicolons or tabs, a cell
  // that holds one
  // would become two, the second of them perhaps a formula.
  private static final CSVFormat CSV =
      CSVFormat.RFC4180.builder().setQuoteMode(QuoteMode.NON_NUMERIC).get();

  /** Writes rows of cells, then ends the file. */
  private interface Sheet {
    void row(@Nullable Object[] cells) throws IOException;

    void end() throws IOException;
  }

  private final OutputStream out;
  private final Sheet sheet;
  private final HttpHeaders headers;

  private ListFile(String name, Format format, OutputStream out) {
    this.out = out;
    this.sheet = format == Format.CSV ? new Csv(out) : new Xlsx(out, name);
    this.headers = headers(name, format);
  }

  /** An empty file, to be answered as a whole. */
  public static ListFile named(String name, Format format) {
    return new ListFile(name, format, new ByteArrayOutputStream());
  }

  /** An empty file that goes out while it is written, for lists that have no end in sight. */
  public static ListFile into(HttpServletResponse response, String name, Format format)
      throws IOException {
    headers(name, format)
        .forEach((header, values) -> response.setHeader(header, values.getFirst()));
    return new ListFile(name, format, response.getOutputStream());
  }

  private static HttpHeaders headers(String name, Format format) {
    var headers = new HttpHeaders();
    headers.set(
        HttpHeaders.CONTENT_DISPOSITION,
        "attachment; filename=\"" + name + "." + format.code() + "\"");
    headers.setContentType(
        switch (format) {
          case CSV -> new MediaType("text", "csv", StandardCharsets.UTF_8);
          case XLSX ->
              MediaType.parseMediaType(
                  "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet");
        });
    return headers;
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
    boolean formula = cell instanceof String text && FORMULA.matcher(text).lookingAt();
    return formula ? "'" + cell : cell;
  }

  /** Minor units as a plain decimal number. */
  public static BigDecimal amount(long minor) {
    return Money.ofMinor(minor).major();
  }

  /** The whole file. */
  public ResponseEntity<byte[]> answer() {
    end();
    return ResponseEntity.ok().headers(headers).body(((ByteArrayOutputStream) out).toByteArray());
  }

  /** Ends a file that went out while it was written. */
  public void end() {
    try {
      sheet.end();
    } catch (IOException gone) {
      throw new UncheckedIOException(gone);
    }
  }

  private static final class Csv implements Sheet {
    private final CSVPrinter printer;

    Csv(OutputStream bytes) {
      try {
        this.printer = new CSVPrinter(new OutputStreamWriter(bytes, StandardCharsets.UTF_8), CSV);
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

    Xlsx(OutputStream bytes, String name) {
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
