package app.pragmata.server.jobpages;

import app.pragmata.server.field.VisitSignatures;
import app.pragmata.server.generated.tables.records.JobPageRecord;
import app.pragmata.server.jobpages.SentReports.ReportForm;
import app.pragmata.server.jobpages.SentReports.SentReport;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** The customer's page of a job and the reports that were sent, as the office has them. */
@RestController
class CustomersPageApi {
  /**
   * What a job's customer got to see.
   *
   * @param address of their page; null while no link opens it
   * @param openedAt when they first read it; null until then
   * @param writtenTo where they are written to; empty for nowhere
   * @param toSign the visits that they are asked to sign and have not
   */
  record CustomersPage(
      @Nullable String address,
      @Nullable LocalDateTime openedAt,
      String writtenTo,
      Set<Long> toSign,
      List<SentReport> reports) {}

  private final JobPageLinks links;
  private final CustomerLetters letters;
  private final SentReports reports;
  private final VisitSignatures signatures;
  private final VisitStore visits;

  CustomersPageApi(
      JobPageLinks links,
      CustomerLetters letters,
      SentReports reports,
      VisitSignatures signatures,
      VisitStore visits) {
    this.links = links;
    this.letters = letters;
    this.reports = reports;
    this.signatures = signatures;
    this.visits = visits;
  }

  @GetMapping("/api/jobs/{id}/customer-page")
  CustomersPage getCustomersPage(Act act, @PathVariable long id) {
    JobPageRecord link = links.find(id).orElse(null);
    return new CustomersPage(
        link == null ? null : links.address(link),
        link == null || link.getOpenedAt() == null
            ? null
            : LocalDateTime.ofInstant(link.getOpenedAt(), act.zone()),
        letters.reader(id).address(),
        signatures.listAsked(id),
        reports.list(id, act.zone()));
  }

  /** Makes an address for it, or gives the one that opens it already. */
  @PostMapping("/api/jobs/{id}/customer-page")
  @Transactional
  public CustomersPage openCustomersPage(Act act, @PathVariable long id) {
    links.open(visits.lockJob(id).id(), act.at());
    return getCustomersPage(act, id);
  }

  /** From now on its address opens nothing. Withdrawing it again does nothing. */
  @PostMapping("/api/jobs/{id}/customer-page/withdraw")
  @Transactional
  public CustomersPage withdrawCustomersPage(Act act, @PathVariable long id) {
    links.withdraw(visits.lockJob(id).id(), act.at());
    return getCustomersPage(act, id);
  }

  /**
   * Sends the report of a visit that is over, by mail or where that cannot be as a text message.
   */
  @PostMapping("/api/visits/{id}/reports")
  void sendVisitReport(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody ReportForm form) {
    reports.send(act, key, id, form);
  }
}
