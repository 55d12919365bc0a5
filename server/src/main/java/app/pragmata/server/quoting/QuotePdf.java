package app.pragmata.server.quoting;

import static app.pragmata.server.printing.PdfPrinter.text;

import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.Logo;
import app.pragmata.server.company.TaxedGroup;
import app.pragmata.server.printing.PdfPrinter;
import app.pragmata.server.quoting.OfferDocument.DocumentLine;
import app.pragmata.server.quoting.OfferDocument.DocumentStage;
import java.text.DecimalFormat;
import java.text.DecimalFormatSymbols;
import java.util.Base64;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;

/** A quote on paper: heads repeated on every page, the totals kept together. */
@Component
public class QuotePdf {
  private static final String PAGE =
      """
      <!DOCTYPE html>
      <html><head><meta charset="utf-8" /><title>{name}</title><style>
      @page { size: A4; margin: 22mm 18mm 20mm 18mm;
        @bottom-left { content: "{foot}"; font: 8.5pt "Source Sans 3"; color: #55615a; }
        @bottom-right { content: {page}; font: 8.5pt "Source Sans 3"; color: #55615a; } }
      body { margin: 0; font: 10pt/1.4 "Source Sans 3"; color: #17251f; }
      h1 { font: 600 17pt "Source Serif 4"; margin: 7mm 0 2mm; }
      .firm { font: 600 12pt "Source Serif 4"; }
      .soft { color: #55615a; }
      .logo { float: right; max-width: 55mm; max-height: 22mm; margin-left: 6mm; }
      table { width: 100%; border-collapse: collapse; }
      table.lines { margin-top: 5mm; -fs-table-paginate: paginate; }
      th { text-align: left; font-weight: 400; color: #55615a; border-bottom: 0.6pt solid #17251f; padding: 1mm 0; }
      td { border-bottom: 0.4pt solid #dcd6c8; padding: 1.4mm 0; vertical-align: top; }
      tr { page-break-inside: avoid; }
      .figure { text-align: right; white-space: nowrap; padding-left: 4mm; }
      td.heading { font: 600 11pt "Source Serif 4"; padding-top: 4mm; }
      .sum { page-break-inside: avoid; margin-top: 6mm; }
      .sum table { width: 46%; margin-left: 54%; }
      .sum td { border: 0; padding: 0.7mm 0; }
      .sum tr.all td { font-weight: 600; border-top: 0.6pt solid #17251f; }
      .notes { margin-top: 7mm; white-space: pre-wrap; page-break-inside: avoid; }
      </style></head><body>
      """;

  private final PdfPrinter printer;
  private final Logo logo;

  QuotePdf(PdfPrinter printer, Logo logo) {
    this.printer = printer;
    this.logo = logo;
  }

  /** The pages of the document. */
  public byte[] print(OfferDocument offer) {
    return printer.print(xhtml(offer, logo.find()));
  }

  private static String picture(byte[] png) {
    return "<img class=\"logo\" alt=\"\" src=\"data:image/png;base64,%s\" />"
        .formatted(Base64.getEncoder().encodeToString(png));
  }

  /** What is printed: the page with the seller's logo, where there is one. */
  static String xhtml(OfferDocument offer, Optional<byte[]> logo) {
    Wording wording = offer.wording();
    String name =
        offer.edition() > 1
            ? wording.say(Phrase.QUOTE_EDITION, offer.printedNumber(), "" + offer.edition())
            : wording.say(Phrase.QUOTE, offer.printedNumber());
    var page =
        new StringBuilder(
            PAGE.replace("{name}", text(name))
                .replace("{foot}", text(offer.seller().name() + ", " + name).replace("\"", ""))
                .replace("{page}", pageOf(wording)));
    page.append(logo.map(QuotePdf::picture).orElse(""));
    page.append(
        "<div class=\"firm\">%s</div><div class=\"soft\">%s</div>"
            .formatted(text(offer.seller().name()), text(sellerLine(offer.seller(), wording))));
    page.append("<h1>%s</h1>".formatted(text(offer.title())));
    page.append(
        "<div>%s</div><div class=\"soft\">%s%s</div>"
            .formatted(
                text(offer.customer()),
                text(offer.site()),
                offer.equipment().isEmpty() ? "" : "<br />" + text(offer.equipment())));
    page.append(
        "<div class=\"soft\">%s</div>"
            .formatted(
                text(
                    wording.say(
                        Phrase.QUOTE_OF,
                        name,
                        wording.day(offer.sentOn()),
                        wording.day(offer.validUntil())))));
    lines(page, offer);
    sum(page, offer);
    page.append("<div class=\"soft\">%s</div>".formatted(text(offer.promised())));
    stages(page, offer);
    if (!offer.notes().isEmpty()) {
      page.append("<div class=\"notes\">%s</div>".formatted(text(offer.notes())));
    }
    return page.append("</body></html>").toString();
  }

  /** What identifies the seller, as far as it has it, in one line. */
  private static String sellerLine(Company.Identity seller, Wording wording) {
    return Stream.of(
            seller.address(),
            seller.phone(),
            seller.email(),
            seller.vatNumber().isEmpty() ? "" : wording.say(Phrase.VAT_NUMBER, seller.vatNumber()),
            seller.bank())
        .filter(part -> !part.isEmpty())
        .collect(Collectors.joining(" · "));
  }

  /** Which page of how many, as the content of a page's margin: words around its counters. */
  private static String pageOf(Wording wording) {
    String words = text(wording.say(Phrase.PAGE_OF, "{page}", "{pages}"));
    return "\"%s\""
        .formatted(
            words
                .replace("{page}", "\" counter(page) \"")
                .replace("{pages}", "\" counter(pages) \""));
  }

  private static void lines(StringBuilder page, OfferDocument offer) {
    page.append(
        "<table class=\"lines\"><thead><tr><th></th><th class=\"figure\">%s</th><th class=\"figure\">%s</th></tr></thead><tbody>"
            .formatted(
                text(offer.wording().say(Phrase.QUANTITY)),
                text(
                    offer
                        .wording()
                        .say(
                            offer.pricesWithVat() ? Phrase.WITH_VAT : Phrase.WITHOUT_VAT,
                            offer.currency()))));
    for (DocumentLine line : offer.lines()) {
      if (line.kind() == OfferDocument.Kind.LINE) {
        page.append(
            "<tr><td>%s%s</td><td class=\"figure\">%s</td><td class=\"figure\">%s</td></tr>"
                .formatted(
                    text(line.description()),
                    choice(offer, line) + warranty(offer, line),
                    text(line.quantity()),
                    money(offer, offer.pricesWithVat() ? line.grossMinor() : line.netMinor())));
      } else {
        page.append(
            "<tr><td colspan=\"3\" class=\"%s\">%s</td></tr>"
                .formatted(line.kind().code(), text(line.description())));
      }
    }
    page.append("</tbody></table>");
  }

  private static String warranty(OfferDocument offer, DocumentLine line) {
    if (line.warrantyMinor() == 0) {
      return "";
    }
    return offer.pricesWithVat()
        ? soft(offer.wording().say(Phrase.WARRANTY_BEARS_ALREADY, line.warrantyPercent()))
        : soft(
            offer
                .wording()
                .say(
                    Phrase.WARRANTY_BEARS,
                    money(offer, line.fullMinor()),
                    money(offer, line.warrantyMinor()),
                    line.warrantyPercent()));
  }

  private static String choice(OfferDocument offer, DocumentLine line) {
    String words =
        switch (line.choice()) {
          case OPTION -> line.taken() ? "" : offer.wording().say(Phrase.ONLY_IF_WANTED);
          case ALTERNATIVE ->
              offer
                  .wording()
                  .say(line.taken() ? Phrase.IN_THE_TOTAL : Phrase.INSTEAD, line.group());
          case INCLUDED -> "";
        };
    return words.isEmpty() ? "" : soft(words);
  }

  private static String soft(String words) {
    return "<br /><span class=\"soft\">" + text(words) + "</span>";
  }

  private static void sum(StringBuilder page, OfferDocument offer) {
    page.append("<div class=\"sum\"><table>");
    row(page, offer, "", offer.wording().say(Phrase.NET), offer.sum().netMinor());
    for (TaxedGroup vat : offer.sum().vat()) {
      row(page, offer, "", vat.words(), vat.vatMinor());
    }
    row(page, offer, "all", offer.wording().say(Phrase.TOTAL), offer.sum().grossMinor());
    if (offer.sum().depositMinor() > 0) {
      row(
          page,
          offer,
          "",
          offer.wording().say(Phrase.DEPOSIT_WITHIN, offer.depositDueDays()),
          offer.sum().depositMinor());
    }
    page.append("</table></div>");
  }

  private static void stages(StringBuilder page, OfferDocument offer) {
    if (offer.stages().isEmpty()) {
      return;
    }
    page.append("<div class=\"sum\"><table>");
    List<Long> withVat = offer.sum().stageMinors();
    for (int i = 0; i < offer.stages().size(); i++) {
      DocumentStage stage = offer.stages().get(i);
      if (withVat.isEmpty()) {
        row(
            page,
            offer,
            "",
            offer.wording().say(Phrase.WITHOUT_VAT, stage.name()),
            stage.amountMinor());
      } else {
        row(page, offer, "", offer.wording().say(Phrase.WITH_VAT, stage.name()), withVat.get(i));
      }
    }
    page.append("</table></div>");
  }

  private static void row(
      StringBuilder page, OfferDocument offer, String style, String name, long minor) {
    page.append(
        "<tr class=\"%s\"><td>%s</td><td class=\"figure\">%s</td></tr>"
            .formatted(style, text(name), money(offer, minor)));
  }

  private static String money(OfferDocument offer, long minor) {
    Locale locale = Locale.forLanguageTag(offer.locale());
    return new DecimalFormat("#,##0.00", DecimalFormatSymbols.getInstance(locale))
        .format(Money.ofMinor(minor).major());
  }
}
