package app.pragmata.server;

import static app.pragmata.server.WorkedExampleTest.texts;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.PART;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.SequenceInputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.dhatim.fastexcel.Workbook;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

class ImportingTest {
  private final RunningPragmata program = RunningPragmata.forTests();
  private final Visitor office = Visitor.signedIn(program, "hester");

  @BeforeEach
  void tuesdayMorning() {
    program.clock().set("2026-11-24T10:00");
  }

  private Visitor.Answer upload(String kind, byte[] content, String encoding) {
    return office.upload(
        "/api/imports?kind=" + kind + "&fileName=list&encoding=" + encoding, content);
  }

  private long uploaded(String kind, String list) {
    return upload(kind, list.getBytes(StandardCharsets.UTF_8), "").json().path("id").asLong();
  }

  private JsonNode show(long id) {
    return office.get("/api/imports/" + id).json();
  }

  /** Starts a run and waits until it is through. */
  private JsonNode run(long id, String how) {
    var mapping = new java.util.ArrayList<String>();
    show(id).path("mapping").forEach(column -> mapping.add(column.asString()));
    var started = office.post("/api/imports/" + id + "/" + how, Map.of("mapping", mapping));
    assertThat(started.status()).as(started.text()).isEqualTo(200);
    while (List.of("trying", "looking", "taking")
        .contains(office.get("/api/imports/" + id).json().path("state").asString())) {
      LockSupport.parkNanos(5_000_000);
    }
    return show(id);
  }

  private int customers() {
    return program.database().fetchCount(CUSTOMER);
  }

  private static final String CUSTOMERS =
      """
      Account Number,Company,Telephone,E-Mail,Street,Zip,Terms
      IMP-1,Ropery Cafe,01632 960941,ropery@example.org,"2 Ropewalk, Ostmere",OS41AA,30
      IMP-2,Saltpan Yard,01632 960942,,"3 Saltpan Road, Ostmere",OS4 1AB,14
      """;

  @Test
  void headings_of_other_programs_are_understood() {
    var mapping = new java.util.ArrayList<String>();
    show(uploaded("customers", CUSTOMERS)).path("mapping").forEach(c -> mapping.add(c.asString()));
    assertThat(mapping)
        .containsExactly(
            "reference", "name", "phone", "email", "address", "postcode", "payment_days");
  }

  @Test
  void a_trial_says_what_would_be_and_changes_nothing() {
    int before = customers();
    JsonNode tried = run(uploaded("customers", CUSTOMERS.replace("IMP-", "TRY-")), "try");
    assertThat(tried.path("added").asInt()).isEqualTo(2);
    assertThat(customers()).isEqualTo(before);
  }

  @Test
  void a_list_taken_in_twice_makes_no_doubles() {
    run(uploaded("customers", CUSTOMERS), "take");
    int once = customers();
    JsonNode again = run(uploaded("customers", CUSTOMERS), "take");
    assertThat(again.path("unchanged").asInt()).isEqualTo(2);
    assertThat(customers()).isEqualTo(once);
  }

  @Test
  void a_newer_list_changes_what_is_new_in_it_and_leaves_empty_cells_as_they_are() {
    run(
        uploaded("customers", CUSTOMERS.replace("IMP-", "NEW-").replace("Ropery", "Newery")),
        "take");
    JsonNode changed =
        run(
            uploaded("customers", "Reference,Name,Phone,Email\nNEW-1,Newery Cafe,01632 960999,\n"),
            "take");
    assertThat(changed.path("changed").asInt()).isEqualTo(1);
    var customer =
        program.database().selectFrom(CUSTOMER).where(CUSTOMER.REFERENCE.eq("NEW-1")).fetchSingle();
    assertThat(customer.getPhone()).isEqualTo("01632 960999");
    assertThat(customer.getEmail()).isEqualTo("ropery@example.org");
  }

  @Test
  void one_bad_row_in_ten_is_named_and_nothing_of_the_list_is_taken_in() {
    String rows =
        IntStream.range(0, 100)
            .mapToObj(
                i ->
                    "BAD-%d,Bad List %d,%s"
                        .formatted(i, i, i % 10 == 3 ? "half 016" : "01632 960943"))
            .collect(Collectors.joining("\n"));
    int before = customers();
    JsonNode refused = run(uploaded("customers", "reference,name,phone\n" + rows), "take");
    assertThat(refused.path("state").asString()).isEqualTo("tried");
    assertThat(refused.path("faulty").asInt()).isEqualTo(10);
    assertThat(refused.path("faults").path(0).path("row").asInt()).isEqualTo(5);
    assertThat(refused.path("faults").path(0).path("column").asString()).isEqualTo("phone");
    assertThat(customers()).isEqualTo(before);
  }

  @Test
  void two_rows_that_mean_one_customer_are_named() {
    JsonNode tried =
        run(uploaded("customers", "reference,name\nTWICE-1,One\nTWICE-1,The same\n"), "try");
    assertThat(tried.path("faults").path(0).path("message").asString())
        .startsWith("Row 2 is the same customer");
  }

  @Test
  void a_cell_with_a_formula_is_named_and_not_taken() {
    JsonNode tried =
        run(uploaded("customers", "reference,name\nF-1,\"=HYPERLINK(\"\"x\"\")\"\n"), "try");
    assertThat(tried.path("faults").path(0).path("message").asString()).contains("formula");
  }

  @Test
  void a_formula_in_a_workbook_is_named_at_its_row() throws IOException {
    byte[] book =
        workbook(
            sheet -> {
              sheet.value(0, 0, "name");
              sheet.value(1, 0, "Plain");
              sheet.formula(2, 0, "CONCATENATE(\"a\",\"b\")");
            });
    long id = upload("customers", book, "").json().path("id").asLong();
    assertThat(run(id, "try").path("faults").path(0).path("row").asInt()).isEqualTo(3);
  }

  private static byte[] workbook(java.util.function.Consumer<org.dhatim.fastexcel.Worksheet> fill)
      throws IOException {
    var bytes = new ByteArrayOutputStream();
    try (var book = new Workbook(bytes, "Test", null)) {
      fill.accept(book.newWorksheet("list"));
    }
    return bytes.toByteArray();
  }

  @Test
  void a_workbook_of_equipment_is_taken_in_with_its_days() throws IOException {
    byte[] book =
        workbook(
            sheet -> {
              List<String> heads =
                  List.of("Customer", "Site", "Kind", "Serial No", "Installed", "Warranty");
              for (int i = 0; i < heads.size(); i++) {
                sheet.value(0, i, heads.get(i));
              }
              sheet.value(1, 0, "Tansy Row Garages");
              sheet.value(1, 1, "Shed 5");
              sheet.value(1, 2, "roller shutter");
              sheet.value(1, 3, "XL 77");
              sheet.value(1, 4, java.time.LocalDate.of(2026, 3, 2));
              sheet.style(1, 4).format("dd/mm/yyyy").set();
              sheet.value(1, 5, "2 mar 2028");
            });
    long id = upload("equipment", book, "").json().path("id").asLong();
    assertThat(run(id, "take").path("added").asInt()).isEqualTo(1);
    JsonNode hit = office.get("/api/find?q=XL%2077").json().path(0);
    assertThat(hit.path("detail").asString()).isEqualTo("Tansy Row Garages, Shed 5");
  }

  @Test
  void a_row_about_somebody_whom_nobody_knows_is_named() {
    JsonNode tried =
        run(uploaded("sites", "customer,site,address\nNobody Ltd,Yard,1 Lane\n"), "try");
    assertThat(tried.path("faults").path(0).path("message").asString())
        .contains("No customer “Nobody Ltd”");
  }

  @Test
  void contacts_come_with_their_part() {
    run(
        uploaded(
            "contacts",
            "customer,contact,phone,part\n104,Wim Tansy,01632 960944,\"pays, decides\"\n"),
        "take");
    JsonNode contacts = office.get("/api/customers/4").json().path("contacts");
    assertThat(texts(contacts, "name")).contains("Wim Tansy");
  }

  @Test
  void a_price_list_changes_prices_and_leaves_the_stock_alone() {
    var before = program.database().selectFrom(PART).where(PART.NUMBER.eq("LMP-F")).fetchSingle();
    run(
        uploaded(
            "price_list",
            "number;name;price;cost\nLMP-F;Flashing lamp;35,00;17.10\n".replace(",00", ".00")),
        "take");
    var after = program.database().selectFrom(PART).where(PART.NUMBER.eq("LMP-F")).fetchSingle();
    assertThat(after.getPrice()).isEqualTo(app.pragmata.core.money.UnitPrice.of("35.00"));
    assertThat(after.getValueMinor()).isEqualTo(before.getValueMinor());
  }

  @Test
  void letters_that_are_not_utf8_are_told_with_their_line_and_can_be_named() {
    byte[] old = "name\nPlain\nCafé\n".getBytes(Charset.forName("windows-1252"));
    var refused = upload("customers", old, "");
    assertThat(refused.rule()).isEqualTo("WRONG_ENCODING");
    assertThat(refused.json().path("detail").asString()).contains("line 3");
    long id = upload("customers", old, "windows-1252").json().path("id").asLong();
    assertThat(show(id).path("sample").path(1).path(0).asString()).isEqualTo("Café");
  }

  @Test
  void a_workbook_that_unpacks_without_end_is_not_opened() throws IOException {
    var bytes = new ByteArrayOutputStream();
    try (var zip = new ZipOutputStream(bytes)) {
      zip.putNextEntry(new ZipEntry("xl/worksheets/sheet1.xml"));
      zip.write("<worksheet>".getBytes(StandardCharsets.UTF_8));
      byte[] nothing = " ".repeat(1 << 20).getBytes(StandardCharsets.UTF_8);
      for (int i = 0; i < 200; i++) {
        zip.write(nothing);
      }
      zip.closeEntry();
    }
    var refused = upload("customers", bytes.toByteArray(), "");
    assertThat(refused.rule()).isEqualTo("TOO_LARGE");
    assertThat(refused.json().path("detail").asString()).contains("unpacks");
  }

  @Test
  void a_file_of_200_megabytes_is_answered_in_words() {
    byte[] megabyte = new byte[1 << 20];
    var refused =
        office.upload(
            "/api/imports?kind=customers",
            () ->
                new SequenceInputStream(
                    Collections.enumeration(
                        IntStream.range(0, 200)
                            .mapToObj(i -> new ByteArrayInputStream(megabyte))
                            .toList())));
    assertThat(refused.status()).isEqualTo(413);
    assertThat(refused.json().path("detail").asString()).contains("50 MB");
  }

  @ParameterizedTest
  @CsvSource({"'', NO_LINES", "'name\n', NO_LINES", "'name\n\"open\nnever closed', UNREADABLE"})
  void a_file_without_a_list_is_refused_with_what_to_do(String content, String rule) {
    var refused = upload("customers", content.getBytes(StandardCharsets.UTF_8), "");
    assertThat(refused.rule()).isEqualTo(rule);
  }

  @Test
  void a_picture_is_no_list() {
    byte[] picture = {(byte) 0x50, 0x4b, 3, 4, 1, 2, 3};
    assertThat(upload("customers", picture, "").rule()).isEqualTo("UNREADABLE");
  }

  @Test
  void a_needed_column_that_is_not_mapped_is_asked_for() {
    long id = uploaded("customers", "phone\n01632 960945\n");
    var refused = office.post("/api/imports/" + id + "/try", Map.of("mapping", List.of("phone")));
    assertThat(refused.json().path("detail").asString()).contains("which column holds the name");
  }

  @Test
  void what_was_taken_in_is_not_taken_in_again_by_pressing_twice() {
    long id = uploaded("customers", "reference,name\nONCE-1,Once Only\n");
    run(id, "take");
    var again =
        office.post(
            "/api/imports/" + id + "/take", Map.of("mapping", List.of("reference", "name")));
    assertThat(again.rule()).isEqualTo("LIST_TAKEN_IN");
  }

  @Test
  void a_list_that_was_exported_can_be_read_back() throws IOException {
    byte[] exported = office.bytes("/api/customers/file?format=xlsx");
    try (var book =
            new org.dhatim.fastexcel.reader.ReadableWorkbook(new ByteArrayInputStream(exported));
        var rows = book.getFirstSheet().openStream()) {
      assertThat(rows.skip(1).map(row -> row.getCell(1).getText())).contains("Tansy Row Garages");
    }
  }
}
