package app.pragmata.server.planning;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.Wording;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.planning.JobSheets.Filter;
import app.pragmata.server.planning.JobSheets.Round;
import app.pragmata.server.printing.PdfPrinter;
import app.pragmata.server.records.Act;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.Base64;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;
import tools.jackson.databind.json.JsonMapper;

/** Job sheets and rounds on paper, over HTTP: how many they would be, and their pages. */
@RestController
class JobSheetsApi {
  /**
   * How much would be printed.
   *
   * @param kinds of job that there are on these days, to choose from
   * @param areas the same
   */
  record SheetCount(int sheets, int rounds, List<String> kinds, List<String> areas) {}

  private static final int MOST_DAYS = 31;
  private static final int MOST_SHEETS = 200;

  private final JobSheets sheets;
  private final PdfPrinter printer;
  private final CompanyStore companies;
  private final JsonMapper json;

  JobSheetsApi(JobSheets sheets, PdfPrinter printer, CompanyStore companies, JsonMapper json) {
    this.sheets = sheets;
    this.printer = printer;
    this.companies = companies;
    this.json = json;
  }

  /**
   * How many sheets there are.
   *
   * @param from such as "tomorrow"
   * @param to empty for the first day alone
   * @param technicianIds none means everybody's
   * @param kinds of job, by their names; none means all
   * @param areas none means all
   * @param onlyPlanned leaves out what has begun or is over
   */
  @GetMapping("/api/job-sheets")
  SheetCount countJobSheets(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(required = false) @Nullable List<Long> technicianIds,
      @RequestParam(required = false) @Nullable List<String> kinds,
      @RequestParam(required = false) @Nullable List<String> areas,
      @RequestParam(defaultValue = "false") boolean onlyPlanned) {
    List<Round> all =
        sheets.rounds(act, filter(act, from, to, technicianIds, null, null, onlyPlanned));
    List<Round> rounds =
        sheets.rounds(act, filter(act, from, to, technicianIds, kinds, areas, onlyPlanned));
    return new SheetCount(
        count(rounds),
        rounds.size(),
        named(all, PlannedVisit::kindOfJob),
        named(all, PlannedVisit::area));
  }

  /** How many pages of all are set. */
  record PagesSet(int set, int all) {}

  /**
   * The same sheets as pages (PDF); at most 200 at once. To whoever accepts {@code
   * text/event-stream} it is told how far they are: {@code pages} with {@link PagesSet} as they are
   * set, at last {@code pdf} with the document in Base64 (RFC 4648).
   */
  @GetMapping("/api/job-sheets/pdf")
  ResponseEntity<StreamingResponseBody> printJobSheets(
      Act act,
      @RequestHeader(name = HttpHeaders.ACCEPT, defaultValue = "") String accept,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(required = false) @Nullable List<Long> technicianIds,
      @RequestParam(required = false) @Nullable List<String> kinds,
      @RequestParam(required = false) @Nullable List<String> areas,
      @RequestParam(defaultValue = "false") boolean onlyPlanned,
      @RequestParam(defaultValue = "false") boolean priced) {
    List<Round> rounds =
        sheets.rounds(act, filter(act, from, to, technicianIds, kinds, areas, onlyPlanned));
    int count = count(rounds);
    var reading = new Reading();
    if (count == 0) {
      reading.fault("from", Rule.MISSING, "Nothing is planned there. Choose other days or people.");
    }
    if (count > MOST_SHEETS) {
      reading.fault(
          "to", Rule.EXCEEDS_LIMIT, "These are more than 200 sheets. Choose fewer days or people.");
    }
    reading.refuseIfFaulty();
    Wording wording = companies.getCompany().wording();
    List<Long> visits =
        rounds.stream()
            .flatMap(round -> round.stops().stream())
            .map(stop -> stop.visit().id())
            .distinct()
            .toList();
    String xhtml = JobSheetsPdf.xhtml(rounds, sheets.sheets(visits), wording, priced);
    if (accept.contains(MediaType.TEXT_EVENT_STREAM_VALUE)) {
      return ResponseEntity.ok()
          .contentType(MediaType.TEXT_EVENT_STREAM)
          .body(out -> tellPrinting(xhtml, out));
    }
    byte[] pdf = printer.print(xhtml);
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_PDF)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.inline()
                .filename(wording.say(Phrase.FILE_SHEETS))
                .build()
                .toString())
        .contentLength(pdf.length)
        .body(out -> out.write(pdf));
  }

  private void tellPrinting(String xhtml, OutputStream out) throws IOException {
    byte[] pdf =
        printer.print(
            xhtml,
            (set, all) -> {
              try {
                tell(out, "pages", json.writeValueAsString(new PagesSet(set, all)));
              } catch (IOException gone) {
                throw new UncheckedIOException(gone);
              }
            });
    tell(out, "pdf", Base64.getEncoder().encodeToString(pdf));
  }

  private static void tell(OutputStream out, String event, String data) throws IOException {
    out.write("event: %s\ndata: %s\n\n".formatted(event, data).getBytes(StandardCharsets.UTF_8));
    out.flush();
  }

  private static List<String> named(List<Round> rounds, Function<PlannedVisit, String> name) {
    return rounds.stream()
        .flatMap(round -> round.stops().stream())
        .map(stop -> name.apply(stop.visit()))
        .filter(each -> !each.isEmpty())
        .distinct()
        .sorted()
        .toList();
  }

  private static int count(List<Round> rounds) {
    return rounds.stream().mapToInt(round -> round.stops().size()).sum();
  }

  private static Filter filter(
      Act act,
      String from,
      String to,
      @Nullable List<Long> technicianIds,
      @Nullable List<String> kinds,
      @Nullable List<String> areas,
      boolean onlyPlanned) {
    var reading = new Reading();
    LocalDate first = reading.required("from", from, typed -> Day.parse(typed, act.today()));
    LocalDate typed = reading.optional("to", to, text -> Day.parse(text, act.today()));
    LocalDate last = typed == null ? first : typed;
    if (first != null && last != null) {
      VisitPlan.checkDay("from", first, act.today(), reading);
      if (last.isBefore(first)) {
        reading.fault("to", Rule.ENDS_BEFORE_START, "This is before the first day.");
      } else if (last.isAfter(first.plusDays(MOST_DAYS - 1L))) {
        reading.fault("to", Rule.TOO_LARGE, "At most 31 days are printed at once.");
      }
    }
    reading.refuseIfFaulty();
    return new Filter(
        Objects.requireNonNull(first),
        Objects.requireNonNull(last),
        technicianIds == null ? Set.of() : new HashSet<>(technicianIds),
        kinds == null ? Set.of() : new HashSet<>(kinds),
        areas == null ? Set.of() : new HashSet<>(areas),
        onlyPlanned);
  }
}
