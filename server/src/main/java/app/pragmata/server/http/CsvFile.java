package app.pragmata.server.http;

import app.pragmata.core.money.Money;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.util.Arrays;
import java.util.List;
import java.util.function.Function;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;

/** A list as a CSV file (RFC 4180) whose text cells no spreadsheet takes for a formula. */
public final class CsvFile {
  private final String name;
  private final StringWriter text = new StringWriter();
  private final CSVPrinter printer;

  private CsvFile(String name) {
    this.name = name;
    try {
      this.printer = new CSVPrinter(text, CSVFormat.RFC4180);
    } catch (IOException impossible) {
      throw new UncheckedIOException(impossible);
    }
  }

  public static CsvFile named(String name) {
    return new CsvFile(name);
  }

  public CsvFile head(String... columns) {
    return print((Object[]) columns);
  }

  public <T> CsvFile rows(List<T> rows, Function<T, @Nullable Object[]> cells) {
    rows.forEach(row -> print(cells.apply(row)));
    return this;
  }

  private CsvFile print(@Nullable Object... cells) {
    try {
      printer.printRecord(Arrays.stream(cells).map(CsvFile::harmless).toArray());
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

  public ResponseEntity<String> answer() {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"" + name + ".csv\"")
        .contentType(new MediaType("text", "csv", java.nio.charset.StandardCharsets.UTF_8))
        .body(text.toString());
  }
}
