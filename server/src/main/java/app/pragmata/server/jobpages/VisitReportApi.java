package app.pragmata.server.jobpages;

import app.pragmata.server.field.VisitSignatures;
import app.pragmata.server.field.VisitSignatures.VisitSignature;
import app.pragmata.server.mail.Attachments.Attachment;
import app.pragmata.server.records.Act;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What was done on visits and who signed it, over HTTP. */
@RestController
class VisitReportApi {
  private final VisitSignatures signatures;
  private final VisitReports reports;

  VisitReportApi(VisitSignatures signatures, VisitReports reports) {
    this.signatures = signatures;
    this.reports = reports;
  }

  /** What was signed on a job's visits. */
  @GetMapping("/api/jobs/{id}/signatures")
  List<VisitSignature> listSignatures(@PathVariable long id) {
    return signatures.list(id);
  }

  /**
   * What was done on a visit as a page for its customer (PDF): times, parts, what was measured,
   * photos, signature; with prices where they are asked for.
   */
  @GetMapping("/api/visits/{id}/report")
  ResponseEntity<byte[]> printVisitReport(
      Act act, @PathVariable long id, @RequestParam(defaultValue = "false") boolean prices) {
    return answer(reports.print(act, id, prices));
  }

  static ResponseEntity<byte[]> answer(Attachment report) {
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_PDF)
        .header(HttpHeaders.CONTENT_DISPOSITION, "inline; filename=\"%s\"".formatted(report.name()))
        .body(report.pdf().getByteArray());
  }
}
