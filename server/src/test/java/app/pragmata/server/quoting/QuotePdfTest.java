package app.pragmata.server.quoting;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.money.VatCategory;
import app.pragmata.core.money.VatGroup;
import app.pragmata.core.quoting.Choice;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.TaxedGroup;
import app.pragmata.server.printing.PdfPrinter;
import app.pragmata.server.quoting.OfferDocument.DocumentLine;
import java.awt.image.BufferedImage;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.imageio.ImageIO;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.pdmodel.PDDocument;
import org.apache.pdfbox.pdmodel.font.PDFont;
import org.apache.pdfbox.text.PDFTextStripper;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class QuotePdfTest {
  private static final PdfPrinter PRINTER = new PdfPrinter();

  private static OfferDocument document(int lines, String notes) {
    return document(lines, notes, Locale.UK);
  }

  private static OfferDocument document(int lines, String notes, Locale locale) {
    var all = new ArrayList<DocumentLine>();
    for (int i = 0; i < lines; i++) {
      all.add(
          new DocumentLine(
              OfferDocument.Kind.LINE,
              "Slat " + i,
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
        locale.toLanguageTag(),
        "GBP",
        1_394,
        "1394",
        2,
        "Gate <b>and</b> post",
        "Quillon Bakery",
        "Shed 2",
        "",
        PromiseKind.FIXED_PRICE,
        OfferDocument.promised(PromiseKind.FIXED_PRICE, Wording.of(locale)),
        LocalDate.of(2026, 11, 24),
        LocalDate.of(2026, 12, 24),
        notes,
        false,
        all,
        new OfferDocument.Sum(
            950L * lines, List.of(), 190L * lines, 1_140L * lines, 34_200, List.of()),
        "",
        "30%",
        7,
        List.of());
  }

  private static PDDocument printed(OfferDocument offer) throws IOException {
    return Loader.loadPDF(PRINTER.print(QuotePdf.xhtml(offer, Optional.empty())));
  }

  private static String text(PDDocument pages, int page) throws IOException {
    var stripper = new PDFTextStripper();
    stripper.setStartPage(page);
    stripper.setEndPage(page);
    return stripper.getText(pages);
  }

  @Test
  void a_quote_of_400_lines_repeats_its_heads_and_counts_its_pages() throws IOException {
    try (PDDocument pages = printed(document(400, ""))) {
      int count = pages.getNumberOfPages();
      assertThat(count).isGreaterThan(8);
      assertThat(text(pages, 3)).contains("quantity", "GBP, without VAT", "page 3 of " + count);
    }
  }

  @Test
  void a_quote_is_printed_in_the_language_of_its_document() throws IOException {
    try (PDDocument pages = printed(document(2, "", Locale.forLanguageTag("fi-FI")))) {
      assertThat(text(pages, 1))
          .contains(
              "Tarjous 1394, versio 2",
              "24. marraskuuta 2026",
              "ALV-numero",
              "GBP, ilman ALV:tä",
              "Ennakkomaksu, 7 päivän kuluessa",
              "Hinta on kiinteä",
              "sivu 1/1")
          .doesNotContain("Quote", "valid until");
    }
  }

  /** A document that says all that one can say, in words of its own that no bundle has. */
  private static OfferDocument everything(Locale locale) {
    Wording wording = Wording.of(locale);
    var lines = new ArrayList<DocumentLine>();
    for (Choice.Code choice : Choice.Code.values()) {
      for (boolean taken : List.of(true, false)) {
        lines.add(
            new DocumentLine(
                OfferDocument.Kind.LINE,
                "Qa",
                "3",
                choice,
                "Qb",
                taken,
                1_000,
                "40",
                400,
                600,
                720));
      }
    }
    List<TaxedGroup> vat =
        Stream.of(VatCategory.values())
            .map(
                category ->
                    new VatGroup(
                        category,
                        category == VatCategory.RATED ? BigDecimal.TEN : BigDecimal.ZERO,
                        category == VatCategory.RATED || category == VatCategory.ZERO ? "" : "Qc"))
            .map(
                group ->
                    new TaxedGroup(
                        group.category(), "10", group.reason(), wording.vat(group), 100, 10))
            .toList();
    OfferDocument plain = document(0, "", locale);
    return new OfferDocument(
        new Company.Identity("Qd", "Qe", "1", "q@q", "Q1", "Qf"),
        plain.locale(),
        "EUR",
        1,
        "1",
        2,
        "Qg",
        "Qh",
        "Qi",
        "Qj",
        PromiseKind.NOT_MORE_THAN,
        Stream.of(PromiseKind.values())
            .map(promise -> OfferDocument.promised(promise, wording))
            .collect(Collectors.joining(" ")),
        plain.sentOn(),
        plain.validUntil(),
        "",
        false,
        lines,
        new OfferDocument.Sum(600, vat, 60, 660, 100, List.of()),
        "",
        "",
        7,
        List.of(new OfferDocument.DocumentStage("Qk", "", 100)));
  }

  private static Set<String> words(String text) {
    return Stream.of(text.toLowerCase(Locale.ROOT).split("[^\\p{L}]+"))
        .filter(word -> word.length() > 1)
        .collect(Collectors.toSet());
  }

  private static Set<String> wordsOfBundle(Locale locale) {
    // The empty text stands in for what is filled in.
    return Stream.of(Phrase.values())
        .filter(phrase -> phrase != Phrase.DAY && phrase != Phrase.SHORT_DAY)
        .flatMap(phrase -> words(Wording.of(locale).say(phrase, "", "", "", "", "", "")).stream())
        .collect(Collectors.toSet());
  }

  @Test
  void no_english_word_stands_on_a_finnish_companys_paper() throws IOException {
    Locale finnish = Locale.forLanguageTag("fi-FI");
    Set<String> english = wordsOfBundle(Locale.UK);
    english.removeAll(wordsOfBundle(finnish));
    try (PDDocument pages = printed(everything(finnish))) {
      assertThat(words(text(pages, 1))).hasSizeGreaterThan(30).doesNotContainAnyElementsOf(english);
    }
    // The same paper in English says what was looked for.
    try (PDDocument pages = printed(everything(Locale.UK))) {
      assertThat(words(text(pages, 1))).containsAnyElementsOf(english);
    }
  }

  @Test
  void the_logo_stands_on_the_paper() throws IOException {
    var picture = new BufferedImage(40, 20, BufferedImage.TYPE_INT_ARGB);
    var png = new ByteArrayOutputStream();
    ImageIO.write(picture, "png", png);
    byte[] pdf = PRINTER.print(QuotePdf.xhtml(document(1, ""), Optional.of(png.toByteArray())));
    try (PDDocument pages = Loader.loadPDF(pdf)) {
      assertThat(pages.getPage(0).getResources().getXObjectNames()).hasSize(1);
    }
  }

  @Test
  void the_totals_stand_together_on_one_page() throws IOException {
    for (int lines = 20; lines < 40; lines++) {
      try (PDDocument pages = printed(document(lines, ""))) {
        String last = text(pages, pages.getNumberOfPages());
        assertThat(last).contains("Net", "Total", "Deposit, within 7 days");
      }
    }
  }

  @Test
  void every_font_is_embedded() throws IOException {
    try (PDDocument pages = printed(document(3, ""))) {
      var resources = pages.getPage(0).getResources();
      for (var name : resources.getFontNames()) {
        PDFont font = resources.getFont(name);
        assertThat(font.isEmbedded()).as(font.getName()).isTrue();
      }
    }
  }

  @Test
  void what_was_typed_is_text_and_never_markup() throws IOException {
    try (PDDocument pages = printed(document(1, "<script>alert(1)</script> & \u201cso on\u201d"))) {
      assertThat(text(pages, 1))
          .contains("Gate <b>and</b> post", "<script>alert(1)</script> & \u201cso on\u201d");
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"Łódź", "Kőszegi", "Čapek", "Иван", "Σοφία", "Phạm", "Երևան"})
  void names_are_printed_with_their_own_letters(String name) throws IOException {
    try (PDDocument pages = printed(document(1, "For " + name + "."))) {
      assertThat(text(pages, 1)).contains(name);
    }
  }

  @Test
  void a_sign_that_no_font_has_is_never_a_number_sign() throws IOException {
    try (PDDocument pages = printed(document(1, "For 深圳."))) {
      assertThat(text(pages, 1)).contains("For □□.").doesNotContain("#");
    }
  }
}
