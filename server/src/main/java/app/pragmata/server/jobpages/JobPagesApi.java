package app.pragmata.server.jobpages;

import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.InCompanysWords;
import app.pragmata.server.company.Logo;
import app.pragmata.server.field.VisitSignatures.SignedForm;
import app.pragmata.server.jobpages.JobPages.RatingForm;
import app.pragmata.server.records.Act;
import java.time.Clock;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** The customer's page of a job over HTTP: whoever has the link may, and nobody else. */
@RestController
class JobPagesApi {
  record WrittenForm(@Nullable String text) {}

  private final JobPages pages;
  private final CompanyStore companies;
  private final Logo logo;
  private final InCompanysWords words;
  private final Clock clock;

  JobPagesApi(
      JobPages pages, CompanyStore companies, Logo logo, InCompanysWords words, Clock clock) {
    this.pages = pages;
    this.companies = companies;
    this.logo = logo;
    this.words = words;
    this.clock = clock;
  }

  @GetMapping("/api/job-pages/{token}")
  JobPageView getJobPage(@PathVariable String token) {
    return words.say(() -> pages.view(act(), token));
  }

  /** The firm's logo, for whoever has a link. */
  @GetMapping("/api/job-pages/{token}/logo")
  ResponseEntity<byte[]> getJobPageLogo(@PathVariable String token) {
    pages.require(token);
    return logo.answer();
  }

  /** What was done on a visit (PDF). */
  @GetMapping("/api/job-pages/{token}/visits/{id}/report")
  ResponseEntity<byte[]> printReportOfJobPage(@PathVariable String token, @PathVariable long id) {
    return VisitReportApi.answer(words.say(() -> pages.print(act(), token, id)));
  }

  /** Signs a visit that is over and that nobody has signed. */
  @PostMapping("/api/job-pages/{token}/visits/{id}/signature")
  JobPageView signVisit(
      @PathVariable String token, @PathVariable long id, @RequestBody SignedForm form) {
    return answer(token, act -> pages.sign(act, token, id, form));
  }

  /** Says how a visit was that is signed, once. */
  @PostMapping("/api/job-pages/{token}/visits/{id}/rating")
  JobPageView rateVisit(
      @PathVariable String token, @PathVariable long id, @RequestBody RatingForm form) {
    return answer(token, act -> pages.rate(act, token, id, form));
  }

  /** From the customer to the office. */
  @PostMapping("/api/job-pages/{token}/messages")
  JobPageView sendMessageFromCustomer(
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable String token,
      @RequestBody WrittenForm form) {
    return answer(token, act -> pages.write(act, key, token, form.text()));
  }

  private JobPageView answer(String token, Consumer<Act> work) {
    return words.say(
        () -> {
          work.accept(act());
          return pages.view(act(), token);
        });
  }

  private Act act() {
    return Act.ofCustomer(clock.instant(), companies.getZone());
  }
}
