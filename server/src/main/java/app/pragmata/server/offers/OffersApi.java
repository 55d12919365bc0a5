package app.pragmata.server.offers;

import app.pragmata.core.company.Phrase;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.InCompanysWords;
import app.pragmata.server.company.Logo;
import app.pragmata.server.quoting.OfferDocument;
import app.pragmata.server.quoting.QuotePdf;
import app.pragmata.server.records.Act;
import java.time.Clock;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** The customer's page over HTTP: whoever has the link may, and nobody else. */
@RestController
class OffersApi {
  record QuestionForm(@Nullable String question) {}

  record NoForm(int edition, @Nullable String reason) {}

  record CardForm(@Nullable String card) {}

  private final OfferService service;
  private final QuotePdf pdf;
  private final CompanyStore companies;
  private final Clock clock;
  private final Logo logo;
  private final InCompanysWords words;

  OffersApi(
      OfferService service,
      QuotePdf pdf,
      CompanyStore companies,
      Clock clock,
      Logo logo,
      InCompanysWords words) {
    this.service = service;
    this.pdf = pdf;
    this.companies = companies;
    this.clock = clock;
    this.logo = logo;
    this.words = words;
  }

  private Act act() {
    return Act.ofCustomer(clock.instant(), companies.getZone());
  }

  @GetMapping("/api/offers/{token}")
  OfferView getOffer(@PathVariable String token) {
    return words.say(() -> service.view(act(), token));
  }

  @GetMapping("/api/offers/{token}/pdf")
  ResponseEntity<byte[]> offerPdf(@PathVariable String token) {
    OfferDocument document = words.say(() -> service.view(act(), token)).document();
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_PDF)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "inline; filename=\"%s\""
                .formatted(document.wording().say(Phrase.FILE_QUOTE, document.number())))
        .body(pdf.print(document));
  }

  /** The seller's logo, for whoever has a link. */
  @GetMapping("/api/offers/{token}/logo")
  ResponseEntity<byte[]> getOfferLogo(@PathVariable String token) {
    service.requireOffer(token);
    return logo.answer();
  }

  @PostMapping("/api/offers/{token}/sum")
  OfferDocument.Sum computeSum(
      @PathVariable String token, @RequestBody OfferService.ChoiceForm form) {
    return words.say(() -> service.preview(act(), token, form));
  }

  @PostMapping("/api/offers/{token}/questions")
  OfferView askQuestion(@PathVariable String token, @RequestBody QuestionForm form) {
    return words.say(
        () -> {
          service.ask(act(), token, form.question());
          return service.view(act(), token);
        });
  }

  @PostMapping("/api/offers/{token}/decline")
  OfferView declineOffer(@PathVariable String token, @RequestBody NoForm form) {
    return words.say(
        () -> {
          service.decline(act(), token, form.edition(), form.reason());
          return service.view(act(), token);
        });
  }

  @PostMapping("/api/offers/{token}/accept")
  OfferView acceptOffer(@PathVariable String token, @RequestBody OfferService.YesForm form) {
    return words.say(
        () -> {
          service.accept(act(), token, form);
          return service.view(act(), token);
        });
  }

  @PostMapping("/api/offers/{token}/deposit")
  OfferView payDeposit(@PathVariable String token, @RequestBody CardForm form) {
    return words.say(
        () -> {
          service.payDeposit(act(), token, form.card());
          return service.view(act(), token);
        });
  }
}
