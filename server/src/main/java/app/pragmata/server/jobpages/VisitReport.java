package app.pragmata.server.jobpages;

import static app.pragmata.server.printing.PdfPrinter.text;

import app.pragmata.core.Decimal;
import app.pragmata.core.checklists.Asks;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.server.billing.BillingService.Charges;
import app.pragmata.server.billing.BillingView.ChargedLine;
import app.pragmata.server.checklists.AskedChecklist;
import app.pragmata.server.checklists.AskedChecklist.AskedItem;
import app.pragmata.server.checklists.AskedChecklist.GivenAnswer;
import app.pragmata.server.company.TaxedGroup;
import app.pragmata.server.field.VisitPhotos.ReportPhoto;
import app.pragmata.server.field.VisitSignatures.VisitSignature;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Base64;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What was done on a visit, for its customer: no cost, wage or margin.
 *
 * @param note what was done, in the technician's words
 * @param checklists those that were gone through
 * @param photos what was photographed, as it was taken
 * @param signature null where nobody has signed
 * @param charges what the whole job comes to; null to say no prices
 */
record VisitReport(
    long jobNumber,
    String title,
    String customer,
    String site,
    String address,
    LocalDate day,
    String note,
    List<ReportTime> times,
    List<ReportPart> parts,
    List<AskedChecklist> checklists,
    List<ReportPhoto> photos,
    @Nullable VisitSignature signature,
    @Nullable Charges charges) {

  /** What somebody's clocks of one kind come to. */
  record ReportTime(String person, TimeEntry.Kind kind, int minutes) {}

  /** A part that was fitted. */
  record ReportPart(BigDecimal quantity, String unit, String name) {}

  private static final String HEAD =
      """
      <!DOCTYPE html>
      <html><head><meta charset="utf-8" /><title>{name}</title><style>
      @page { size: A4; margin: 20mm 18mm; }
      body { margin: 0; font: 10.5pt/1.4 "Source Sans 3"; color: #17251f; }
      h1 { font: 600 16pt "Source Serif 4"; margin: 0 0 3mm; }
      h2 { font: 600 11.5pt "Source Serif 4"; margin: 6mm 0 1mm; border-bottom: 0.6pt solid #17251f; }
      b { font-weight: 600; }
      .right { float: right; color: #55615a; }
      table { width: 100%; border-collapse: collapse; }
      td { border-bottom: 0.4pt solid #dcd6c8; padding: 1.6mm 0; }
      .figure { text-align: right; white-space: nowrap; }
      .typed { white-space: pre-wrap; }
      img { width: 70mm; }
      .photo { display: inline-block; width: 55mm; margin: 2mm 2mm 2mm 0; vertical-align: top; font-size: 9pt; }
      .photo img { width: 55mm; }
      </style></head><body>
      """;

  /** The page as XHTML, in the language of the company's documents. */
  String xhtml(Wording wording, ZoneId zone) {
    String title = wording.say(Phrase.REPORT_TITLE, wording.day(day));
    var page = new StringBuilder(HEAD.replace("{name}", text(title)));
    page.append(
            "<div class=\"right\">%s</div>"
                .formatted(text(wording.say(Phrase.SHEET_JOB, jobNumber))))
        .append("<h1>%s</h1>".formatted(text(title)))
        .append(
            "<p><b>%s</b><br />%s<br />%s<br />%s</p>"
                .formatted(text(customer), text(site), text(address), text(this.title)));
    if (!note.isEmpty()) {
      heading(page, wording, Phrase.REPORT_DONE);
      page.append("<div class=\"typed\">%s</div>".formatted(text(note)));
    }
    if (!times.isEmpty()) {
      heading(page, wording, Phrase.REPORT_TIMES);
      page.append("<table>");
      for (ReportTime time : times) {
        row(
            page,
            time.person()
                + ", "
                + wording.say(
                    time.kind() == TimeEntry.Kind.DRIVE
                        ? Phrase.REPORT_DRIVE
                        : Phrase.REPORT_LABOUR),
            Minutes.text(time.minutes()));
      }
      page.append("</table>");
    }
    if (!parts.isEmpty()) {
      heading(page, wording, Phrase.REPORT_PARTS);
      page.append("<table>");
      for (ReportPart part : parts) {
        row(page, part.name(), (Decimal.text(part.quantity()) + " " + part.unit()).strip());
      }
      page.append("</table>");
    }
    for (AskedChecklist checklist : checklists) {
      answers(page, wording, checklist);
    }
    if (!photos.isEmpty()) {
      heading(page, wording, Phrase.REPORT_PHOTOS);
      photos.forEach(photo -> photo(page, photo));
    }
    if (charges != null && !charges.lines().isEmpty()) {
      charges(page, wording, charges);
    }
    if (signature != null) {
      signed(page, wording, zone, signature);
    }
    return page.append("</body></html>").toString();
  }

  /** What was answered; not what nobody answered, nor the words for the office. */
  private static void answers(StringBuilder page, Wording wording, AskedChecklist checklist) {
    page.append("<h2>%s</h2><table>".formatted(text(checklist.name())));
    for (AskedItem item : checklist.items()) {
      GivenAnswer given = item.given();
      if (given != null) {
        row(page, item.question(), answer(wording, item, given));
      }
    }
    page.append("</table>");
  }

  private static String answer(Wording wording, AskedItem item, GivenAnswer given) {
    if (given.doesNotApply()) {
      return wording.say(Phrase.REPORT_DOES_NOT_APPLY);
    }
    return item.asks() == Asks.Code.YES_NO
        ? wording.say(given.answer().equals("yes") ? Phrase.REPORT_YES : Phrase.REPORT_NO)
        : (given.answer() + " " + item.unit()).strip();
  }

  private static void photo(StringBuilder page, ReportPhoto photo) {
    page.append(
        "<div class=\"photo\"><img src=\"data:image/jpeg;base64,%s\" alt=\"\" /><br />%s</div>"
            .formatted(Base64.getEncoder().encodeToString(photo.jpeg()), text(photo.words())));
  }

  /** What the job comes to, as its invoice would say it now. */
  private static void charges(StringBuilder page, Wording wording, Charges charges) {
    heading(page, wording, Phrase.REPORT_PRICES);
    if (!charges.billed()) {
      page.append("<p>%s</p>".formatted(text(wording.say(Phrase.REPORT_PRICES_SO_FAR))));
    }
    page.append("<table>");
    for (ChargedLine line : charges.lines()) {
      row(page, line.description(), amount(wording, line.netMinor()));
    }
    for (TaxedGroup group : charges.vat()) {
      row(page, group.words(), amount(wording, group.vatMinor()));
    }
    row(
        page,
        wording.say(Phrase.TOTAL),
        wording.money(Money.ofMinor(charges.grossMinor()), charges.currency()));
    page.append("</table>");
  }

  private static String amount(Wording wording, long minor) {
    return wording.price(new UnitPrice(Money.ofMinor(minor).major()));
  }

  private static void heading(StringBuilder page, Wording wording, Phrase phrase) {
    page.append("<h2>%s</h2>".formatted(text(wording.say(phrase))));
  }

  private static void row(StringBuilder page, String what, String figure) {
    page.append(
        "<tr><td>%s</td><td class=\"figure\">%s</td></tr>".formatted(text(what), text(figure)));
  }

  private static void signed(
      StringBuilder page, Wording wording, ZoneId zone, VisitSignature signature) {
    page.append(
        "<h2>%s</h2>"
            .formatted(
                text(
                    wording.say(
                        Phrase.REPORT_SIGNED,
                        signature.name(),
                        wording.day(signature.signedAt().atZone(zone).toLocalDate())))));
    if (signature.drawn()) {
      page.append("<img src=\"%s\" alt=\"\" />".formatted(text(signature.signature())));
    }
  }
}
