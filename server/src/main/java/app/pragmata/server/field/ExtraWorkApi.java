package app.pragmata.server.field;

import app.pragmata.server.field.ExtraWorkOnSite.ExtraWorkOffer;
import app.pragmata.server.field.ExtraWorkOnSite.FoundWorkForm;
import app.pragmata.server.offers.OfferService.YesForm;
import app.pragmata.server.records.Act;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Extra work that a customer agrees to on site, over HTTP. */
@RestController
class ExtraWorkApi {
  /** The customer's no to an edition, and why. */
  record ExtraWorkNo(int edition, @Nullable String reason) {}

  private final ExtraWorkOnSite extraWork;

  ExtraWorkApi(ExtraWorkOnSite extraWork) {
    this.extraWork = extraWork;
  }

  /** What was offered on visits of the same job, the newest first. */
  @GetMapping("/api/pocket/visits/{id}/extra-work")
  List<ExtraWorkOffer> listExtraWork(Act act, @PathVariable long id) {
    return extraWork.list(act, id);
  }

  /** Prices extra work for the customer to read. */
  @PostMapping("/api/pocket/visits/{id}/extra-work")
  List<ExtraWorkOffer> offerExtraWork(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody FoundWorkForm form) {
    extraWork.offer(act, key, id, form);
    return extraWork.list(act, id);
  }

  /** The customer's yes. */
  @PostMapping("/api/pocket/visits/{id}/extra-work/{quoteId}/accept")
  List<ExtraWorkOffer> acceptExtraWork(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @PathVariable long quoteId,
      @RequestBody YesForm form) {
    extraWork.accept(act, key, id, quoteId, form);
    return extraWork.list(act, id);
  }

  /** The customer's no. */
  @PostMapping("/api/pocket/visits/{id}/extra-work/{quoteId}/decline")
  List<ExtraWorkOffer> declineExtraWork(
      Act act, @PathVariable long id, @PathVariable long quoteId, @RequestBody ExtraWorkNo form) {
    extraWork.decline(act, id, quoteId, form.edition(), form.reason());
    return extraWork.list(act, id);
  }
}
