package app.pragmata.server.quoting;

import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.quoting.Choice;
import app.pragmata.server.Bench;
import app.pragmata.server.RunningPragmata;
import app.pragmata.server.Visitor;
import app.pragmata.server.company.Company;
import app.pragmata.server.printing.PdfPrinter;
import app.pragmata.server.quoting.OfferDocument.DocumentLine;
import java.io.IOException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.apache.pdfbox.Loader;
import org.junit.jupiter.api.Tag;
import org.junit.jupiter.api.Test;

/** A long quote while it is typed, its pages, and what past jobs of the large company took. */
@Tag("bench")
class QuotingBenchTest {
  private static final int LINES_OF_THREE_PAGES = 75;
  private static final int LINES_OF_FORTY_PAGES = 1_240;

  private final RunningPragmata program = RunningPragmata.large();

  @Test
  void a_quote_of_400_lines_is_computed() {
    Visitor office = Visitor.signedIn(program, "hester");
    var lines = new ArrayList<Map<String, Object>>();
    for (int i = 0; i < 400; i++) {
      lines.add(
          i % 4 == 0
              ? Map.of("category", "labour", "time", "1:15", "discount", "5%")
              : Map.of(
                  "category",
                  "parts",
                  "partId",
                  1 + i % 30,
                  "quantity",
                  "3",
                  "choice",
                  i % 8 == 1 ? "option" : "included"));
    }
    Map<String, Object> form = Map.of("lines", lines, "discount", "3%", "deposit", "30%");
    Bench.Times times = Bench.measure(i -> office.post("/api/quotes/preview", form));
    Bench.Times floor = Bench.measure(i -> office.get("/api/session"));
    System.out.printf(
        "%-34s %5.1f ms %5.1f ms    the session's answer %5.1f ms    x %.2f at the median%n",
        "quote of 400 lines, computed",
        times.median(),
        times.percentile95(),
        floor.median(),
        times.median() / floor.median());
  }

  @Test
  void a_quote_is_printed() throws IOException {
    var printer = new PdfPrinter();
    print(printer, LINES_OF_THREE_PAGES);
    print(printer, LINES_OF_FORTY_PAGES);
  }

  private static void print(PdfPrinter printer, int lines) throws IOException {
    OfferDocument document = document(lines);
    for (int i = 0; i < 60; i++) {
      printer.print(QuotePdf.xhtml(document, Optional.empty()));
    }
    int rounds = 10;
    long start = System.nanoTime();
    byte[] printed = printer.print(QuotePdf.xhtml(document, Optional.empty()));
    for (int i = 1; i < rounds; i++) {
      printed = printer.print(QuotePdf.xhtml(document, Optional.empty()));
    }
    double millis = (System.nanoTime() - start) / 1e6 / rounds;
    try (var read = Loader.loadPDF(printed)) {
      System.out.printf(
          "%-34s %5.0f ms    %d pages, %d kB of PDF%n",
          "quote as PDF", millis, read.getNumberOfPages(), printed.length / 1_000);
    }
  }

  private static OfferDocument document(int lines) {
    var all = new ArrayList<DocumentLine>();
    for (int i = 0; i < lines; i++) {
      all.add(
          new DocumentLine(
              OfferDocument.Kind.LINE,
              "Curtain slat 77 mm, row " + i,
              "3",
              Choice.Code.INCLUDED,
              "",
              true,
              1_000,
              "0",
              0,
              950,
              1_140));
    }
    return new OfferDocument(
        new Company.Identity(
            "Ferrow Gate & Shutter",
            "7 Capstan Wharf, Ostmere OS1 3FG",
            "01632 960100",
            "office@ferrow.example",
            "GB 000 0000 00",
            ""),
        "en-GB",
        "GBP",
        1,
        "1",
        1,
        "A long quote",
        "Quillon Bakery",
        "Shed 2",
        "",
        PromiseKind.FIXED_PRICE,
        OfferDocument.promised(PromiseKind.FIXED_PRICE, Wording.of(Locale.UK)),
        LocalDate.of(2026, 11, 24),
        LocalDate.of(2026, 12, 24),
        "",
        false,
        all,
        new OfferDocument.Sum(950L * lines, List.of(), 190L * lines, 1_140L * lines, 0, List.of()),
        "",
        "",
        7,
        List.of());
  }

  @Test
  void past_jobs_against_their_bare_statement() {
    Visitor office = Visitor.signedIn(program, "hester");
    var database = program.database();
    var bare = new ArrayList<List<String>>();
    for (long kind = 1; kind <= 4; kind++) {
      long asked = kind;
      bare.add(Bench.statements(database, dsl -> new PastJobsApi(dsl).list(asked, null)));
    }
    Bench.compare(
        "past jobs of a kind, large company",
        i -> office.get("/api/past-jobs?kindOfJobId=" + (1 + i % 4)),
        i -> Bench.runBare(database, bare.get(i % 4)));
  }
}
