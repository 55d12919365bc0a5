package app.pragmata.server.planning;

import static app.pragmata.server.printing.PdfPrinter.text;

import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.money.Minutes;
import app.pragmata.server.planning.JobSheets.Line;
import app.pragmata.server.planning.JobSheets.Round;
import app.pragmata.server.planning.JobSheets.Sheet;
import app.pragmata.server.planning.JobSheets.Stop;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Rounds and their job sheets on paper: a page for each round, then one for each stop. */
final class JobSheetsPdf {
  private static final String HEAD =
      """
      <!DOCTYPE html>
      <html><head><meta charset="utf-8" /><title>{name}</title><style>
      @page { size: A4; margin: 18mm 16mm 16mm 16mm; }
      body { margin: 0; font: 10.5pt/1.4 "Source Sans 3"; color: #17251f; }
      section { page-break-after: always; }
      b { font-weight: 600; }
      h1 { font: 600 16pt "Source Serif 4"; margin: 0 0 3mm; }
      h2 { font: 600 11.5pt "Source Serif 4"; margin: 5mm 0 1mm; border-bottom: 0.6pt solid #17251f; }
      .soft { color: #55615a; }
      .right { float: right; }
      table { width: 100%; border-collapse: collapse; }
      td { border-bottom: 0.4pt solid #dcd6c8; padding: 1.6mm 0; vertical-align: top; }
      tr { page-break-inside: avoid; }
      .figure { text-align: right; white-space: nowrap; padding-left: 4mm; }
      .typed { white-space: pre-wrap; }
      .sign td { height: 16mm; border: 0.4pt solid #55615a; padding: 1mm 2mm; color: #55615a; width: 33%; }
      </style></head><body>
      """;

  private final Wording wording;
  private final boolean priced;
  private final StringBuilder page;

  private JobSheetsPdf(Wording wording, boolean priced) {
    this.wording = wording;
    this.priced = priced;
    this.page = new StringBuilder(HEAD.replace("{name}", text(wording.say(Phrase.FILE_SHEETS))));
  }

  /**
   * The pages as XHTML.
   *
   * @param sheets by visit
   * @param priced whether it says what the work costs the customer
   */
  static String xhtml(
      List<Round> rounds, Map<Long, Sheet> sheets, Wording wording, boolean priced) {
    var pages = new JobSheetsPdf(wording, priced);
    for (Round round : rounds) {
      pages.round(round, sheets);
      for (Stop stop : round.stops()) {
        pages.sheet(round, stop, Objects.requireNonNull(sheets.get(stop.visit().id())));
      }
    }
    return pages.page.append("</body></html>").toString();
  }

  private void round(Round round, Map<Long, Sheet> sheets) {
    page.append("<section><h1>%s</h1><table>".formatted(text(heading(round))));
    for (Stop stop : round.stops()) {
      Sheet sheet = Objects.requireNonNull(sheets.get(stop.visit().id()));
      page.append("<tr><td>%s</td>".formatted(stop.visit().at().start()))
          .append(
              "<td class=\"figure soft\">%s</td>"
                  .formatted(
                      stop.driveMinutes() == 0
                          ? ""
                          : stop.driveMinutes() + " " + text(wording.say(Phrase.SHEET_DRIVE))))
          .append(
              "<td style=\"padding-left: 5mm\"><b>%s</b><br />%s, %s %s<br /><span class=\"soft\">%s, %s</span></td></tr>"
                  .formatted(
                      text(stop.visit().customer()),
                      text(stop.visit().site()),
                      text(sheet.address()),
                      text(sheet.postcode()),
                      text(wording.say(Phrase.SHEET_JOB, stop.visit().jobNumber())),
                      text(stop.visit().title())));
    }
    page.append("</table></section>");
  }

  private String heading(Round round) {
    return wording.say(Phrase.SHEET_ROUND, round.technician(), wording.day(round.day()));
  }

  private void sheet(Round round, Stop stop, Sheet sheet) {
    page.append(
        "<section><div class=\"right soft\">%s</div><h1>%s</h1>"
            .formatted(
                text(wording.say(Phrase.SHEET_JOB, stop.visit().jobNumber())),
                text(stop.visit().title())));
    page.append(
        "<div>%s%s: %s</div>"
            .formatted(
                text(heading(round)),
                stop.crew().isEmpty()
                    ? ""
                    : " " + text(wording.say(Phrase.SHEET_WITH, String.join(", ", stop.crew()))),
                text(
                    wording.say(
                        Phrase.SHEET_TIME,
                        stop.visit().at().start(),
                        stop.visit().at().end(),
                        Minutes.text(stop.visit().expectedMinutes())))));
    page.append(
        "<p><b>%s</b><br />%s<br />%s %s%s%s</p>"
            .formatted(
                text(stop.visit().customer()),
                text(stop.visit().site()),
                text(sheet.address()),
                text(sheet.postcode()),
                sheet.contact() == null ? "" : "<br />" + text(sheet.contact()),
                sheet.opens() == null || sheet.closes() == null
                    ? ""
                    : "<br />"
                        + text(wording.say(Phrase.SHEET_OPEN, sheet.opens(), sheet.closes()))));
    part(Phrase.SHEET_ACCESS, sheet.accessNotes());
    lines(sheet.lines());
    part(Phrase.SHEET_NOTES, sheet.notes());
    equipment(sheet, round.day());
    earlier(sheet.earlier());
    page.append("<h2>%s</h2>".formatted(text(wording.say(Phrase.SHEET_DONE))))
        .append("<table class=\"sign\"><tr><td></td><td></td><td></td></tr></table></section>");
  }

  private void part(Phrase name, String said) {
    if (!said.isEmpty()) {
      page.append(
          "<h2>%s</h2><div class=\"typed\">%s</div>"
              .formatted(text(wording.say(name)), text(said)));
    }
  }

  private void lines(List<Line> lines) {
    if (lines.isEmpty()) {
      return;
    }
    page.append("<h2>%s</h2><table>".formatted(text(wording.say(Phrase.SHEET_WORK))));
    for (Line line : lines) {
      page.append(
          "<tr><td>%s</td><td class=\"figure\">%s</td>"
              .formatted(text(line.description()), text(amount(line))));
      if (priced) {
        page.append(
            "<td class=\"figure\">%s</td>"
                .formatted(line.unitPrice().setScale(2, RoundingMode.HALF_UP).toPlainString()));
      }
      page.append("</tr>");
    }
    page.append("</table>");
  }

  private static String amount(Line line) {
    if (line.minutes() != null) {
      return Minutes.text(line.minutes());
    }
    return line.quantity() == null ? "" : line.quantity().stripTrailingZeros().toPlainString();
  }

  private void equipment(Sheet sheet, LocalDate day) {
    if (sheet.model() == null) {
      return;
    }
    LocalDate until = sheet.labourWarrantyUntil();
    page.append(
        "<h2>%s</h2><div>%s</div><div class=\"soft\">%s%s</div>"
            .formatted(
                text(wording.say(Phrase.SHEET_EQUIPMENT)),
                text(sheet.model()),
                text(
                    wording.say(
                        Phrase.SHEET_SERIAL,
                        Objects.requireNonNull(sheet.serialNumber()),
                        wording.day(Objects.requireNonNull(sheet.fittedOn())))),
                until == null || until.isBefore(day)
                    ? ""
                    : ", " + text(wording.say(Phrase.SHEET_WARRANTY, wording.day(until)))));
  }

  private void earlier(List<EarlierVisit> earlier) {
    if (earlier.isEmpty()) {
      return;
    }
    page.append("<h2>%s</h2><table>".formatted(text(wording.say(Phrase.SHEET_BEFORE))));
    for (EarlierVisit visit : earlier) {
      page.append(
          "<tr><td style=\"white-space: nowrap; padding-right: 4mm\">%s</td><td>%s<br /><span class=\"soft\">%s</span></td></tr>"
              .formatted(
                  text(wording.day(visit.day())),
                  text(visit.title()),
                  text(
                      Stream.concat(Stream.of(visit.note()), visit.parts().stream())
                          .filter(said -> !said.isEmpty())
                          .collect(Collectors.joining(", ")))));
    }
    page.append("</table>");
  }
}
