package app.pragmata.server.offers;

import app.pragmata.server.quoting.OfferDocument;
import app.pragmata.server.quoting.QuotePdf;
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

  OffersApi(OfferService service, QuotePdf pdf) {
    this.service = service;
    this.pdf = pdf;
  }

  @GetMapping("/api/offers/{token}")
  OfferView getOffer(@PathVariable String token) {
    return service.view(token);
  }

  @GetMapping("/api/offers/{token}/pdf")
  ResponseEntity<byte[]> offerPdf(@PathVariable String token) {
    OfferDocument document = service.view(token).document();
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_PDF)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "inline; filename=\"quote-%d.pdf\"".formatted(document.number()))
        .body(pdf.print(document));
  }

  @PostMapping("/api/offers/{token}/sum")
  OfferDocument.Sum computeSum(
      @PathVariable String token, @RequestBody OfferService.ChoiceForm form) {
    return service.preview(token, form);
  }

  @PostMapping("/api/offers/{token}/questions")
  OfferView askQuestion(@PathVariable String token, @RequestBody QuestionForm form) {
    service.ask(token, form.question());
    return service.view(token);
  }

  @PostMapping("/api/offers/{token}/decline")
  OfferView declineOffer(@PathVariable String token, @RequestBody NoForm form) {
    service.decline(token, form.edition(), form.reason());
    return service.view(token);
  }

  @PostMapping("/api/offers/{token}/accept")
  OfferView acceptOffer(@PathVariable String token, @RequestBody OfferService.YesForm form) {
    service.accept(token, form);
    return service.view(token);
  }

  @PostMapping("/api/offers/{token}/deposit")
  OfferView payDeposit(@PathVariable String token, @RequestBody CardForm form) {
    service.payDeposit(token, form.card());
    return service.view(token);
  }
}
