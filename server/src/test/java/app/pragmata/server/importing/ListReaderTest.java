package app.pragmata.server.importing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class ListReaderTest {
  private final List<List<String>> rows = new ArrayList<>();

  private void read(byte[] content) {
    ListReader.read(content, "", (cells, formulas) -> rows.add(cells));
  }

  private void refuses(byte[] content, Rule rule) {
    assertThatThrownBy(() -> read(content))
        .isInstanceOfSatisfying(
            Refused.class, refused -> assertThat(refused.rule()).isEqualTo(rule));
  }

  /** A workbook of one sheet with these rows, as SpreadsheetML. */
  private static byte[] workbook(String sheetData) throws IOException {
    var bytes = new ByteArrayOutputStream();
    try (var zip = new ZipOutputStream(bytes)) {
      entry(
          zip,
          "[Content_Types].xml",
          "<Types xmlns='http://schemas.openxmlformats.org/package/2006/content-types'>"
              + "<Override PartName='/xl/workbook.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml'/>"
              + "<Override PartName='/xl/worksheets/sheet1.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml'/>"
              + "<Override PartName='/xl/styles.xml' ContentType='application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml'/></Types>");
      entry(
          zip,
          "xl/workbook.xml",
          "<workbook xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main' xmlns:r='http://schemas.openxmlformats.org/officeDocument/2006/relationships'>"
              + "<sheets><sheet name='List' sheetId='1' r:id='rId1'/></sheets></workbook>");
      entry(
          zip,
          "xl/_rels/workbook.xml.rels",
          "<Relationships xmlns='http://schemas.openxmlformats.org/package/2006/relationships'>"
              + "<Relationship Id='rId1' Type='http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet' Target='worksheets/sheet1.xml'/></Relationships>");
      entry(
          zip,
          "xl/styles.xml",
          "<styleSheet xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main'/>");
      entry(
          zip,
          "xl/worksheets/sheet1.xml",
          "<worksheet xmlns='http://schemas.openxmlformats.org/spreadsheetml/2006/main'><sheetData>"
              + sheetData
              + "</sheetData></worksheet>");
    }
    return bytes.toByteArray();
  }

  private static void entry(ZipOutputStream zip, String name, String content) throws IOException {
    zip.putNextEntry(new ZipEntry(name));
    zip.write(content.getBytes(StandardCharsets.UTF_8));
    zip.closeEntry();
  }

  private static String text(String place, String text) {
    return "<c r='" + place + "' t='inlineStr'><is><t>" + text + "</t></is></c>";
  }

  private static String number(String place, String number) {
    return "<c r='" + place + "'><v>" + number + "</v></c>";
  }

  private static final String HEADINGS =
      "<row r='1'>" + text("A1", "Number") + text("B1", "Price") + "</row>";

  @Test
  void a_workbook_is_read_cell_by_cell() throws IOException {
    read(
        workbook(HEADINGS + "<row r='2'>" + text("A2", "FX-1") + number("B2", "12.50") + "</row>"));
    assertThat(rows).containsExactly(List.of("Number", "Price"), List.of("FX-1", "12.5"));
  }

  @ParameterizedTest
  @ValueSource(strings = {"1e999999999", "1e-999999999", "1E400"})
  void a_number_that_would_fill_the_memory_when_written_out_stays_as_it_is(String number)
      throws IOException {
    read(workbook(HEADINGS + "<row r='2'>" + text("A2", "FX-1") + number("B2", number) + "</row>"));
    assertThat(rows.getLast()).containsExactly("FX-1", number);
  }

  @Test
  void a_number_of_a_million_digits_is_not_even_read() throws IOException {
    refuses(
        workbook(HEADINGS + "<row r='2'>" + number("A2", "1".repeat(1_000_000)) + "</row>"),
        Rule.TOO_LARGE);
  }

  @ParameterizedTest
  @ValueSource(strings = {"ZZZZZZ2", "AAAA2"})
  void a_cell_beyond_the_last_column_is_refused(String place) throws IOException {
    refuses(workbook(HEADINGS + "<row r='2'>" + number(place, "1") + "</row>"), Rule.TOO_LARGE);
  }

  @Test
  void a_row_of_a_million_cells_without_a_place_is_refused() throws IOException {
    refuses(
        workbook(HEADINGS + "<row r='2'>" + "<c><v>1</v></c>".repeat(1_000_000) + "</row>"),
        Rule.TOO_LARGE);
  }

  @Test
  void an_entity_that_grows_is_not_expanded() throws IOException {
    var bytes = new ByteArrayOutputStream();
    try (var zip = new ZipOutputStream(bytes)) {
      entry(
          zip,
          "xl/worksheets/sheet1.xml",
          "<!DOCTYPE w [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;'>]><w><row><c><v>&b;</v></c></row></w>");
    }
    refuses(bytes.toByteArray(), Rule.UNREADABLE);
  }

  @Test
  void a_line_of_ten_million_cells_is_refused() {
    refuses(("a,b\n" + ",".repeat(10_000_000)).getBytes(StandardCharsets.UTF_8), Rule.TOO_LARGE);
  }

  @Test
  void a_cell_longer_than_any_is_refused() {
    refuses(
        ("a,b\n1," + "x".repeat(40_000) + "\n").getBytes(StandardCharsets.UTF_8), Rule.TOO_LARGE);
  }

  @Test
  void more_rows_than_a_list_has_are_refused() {
    refuses(("a,b\n" + "1,2\n".repeat(200_001)).getBytes(StandardCharsets.UTF_8), Rule.TOO_LARGE);
  }
}
