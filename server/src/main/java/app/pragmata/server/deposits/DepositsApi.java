package app.pragmata.server.deposits;

import app.pragmata.server.records.Act;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Deposits of a quote over HTTP. */
@RestController
class DepositsApi {
  record Received(long id) {}

  private final DepositService service;

  DepositsApi(DepositService service) {
    this.service = service;
  }

  @GetMapping("/api/quotes/{id}/deposits")
  List<DepositService.DepositView> deposits(@PathVariable long id) {
    return service.list(id);
  }

  @PostMapping("/api/quotes/{id}/deposits")
  Received receiveDeposit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody DepositService.DepositForm form) {
    return new Received(service.receive(act, key, id, form));
  }

  @PostMapping("/api/quotes/{id}/deposits/refund")
  Received refundDeposit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id) {
    return new Received(service.refund(act, key, id));
  }
}
