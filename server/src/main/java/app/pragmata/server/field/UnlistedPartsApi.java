package app.pragmata.server.field;

import app.pragmata.server.field.UnlistedParts.PriceForm;
import app.pragmata.server.field.UnlistedParts.UnlistedPart;
import app.pragmata.server.field.UnlistedParts.UnlistedPartForm;
import app.pragmata.server.records.Act;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Parts that are not on the price list, over HTTP. */
@RestController
class UnlistedPartsApi {
  /** Why one is none. */
  record DropForm(int version, @Nullable String reason) {}

  /** The id of what was noted. */
  record NotedPart(long id) {}

  private final UnlistedParts parts;

  UnlistedPartsApi(UnlistedParts parts) {
    this.parts = parts;
  }

  /** Those of a job that wait for their price. */
  @GetMapping("/api/jobs/{id}/unlisted-parts")
  List<UnlistedPart> listUnlistedParts(@PathVariable long id) {
    return parts.listOpen(id);
  }

  /** Notes one that was fitted on a visit. */
  @PostMapping("/api/pocket/visits/{id}/unlisted-parts")
  NotedPart noteUnlistedPart(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody UnlistedPartForm form) {
    return new NotedPart(parts.note(act, key, id, form));
  }

  /** Puts it on the price list and on its visit. */
  @PostMapping("/api/unlisted-parts/{id}/price")
  void priceUnlistedPart(Act act, @PathVariable long id, @RequestBody PriceForm form) {
    parts.price(act, id, form);
  }

  /** It was none, or stands on the visit already. */
  @PostMapping("/api/unlisted-parts/{id}/drop")
  void dropUnlistedPart(Act act, @PathVariable long id, @RequestBody DropForm form) {
    parts.drop(act, id, form.version(), form.reason());
  }
}
