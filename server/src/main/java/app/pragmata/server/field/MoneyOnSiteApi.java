package app.pragmata.server.field;

import app.pragmata.server.field.MoneyOnSite.MoneyForm;
import app.pragmata.server.field.MoneyOnSite.MoneyOfJob;
import app.pragmata.server.records.Act;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Money that is paid on site, over HTTP. */
@RestController
class MoneyOnSiteApi {
  private final MoneyOnSite money;

  MoneyOnSiteApi(MoneyOnSite money) {
    this.money = money;
  }

  /** What was paid for the visit's job. */
  @GetMapping("/api/pocket/visits/{id}/money")
  MoneyOfJob listMoneyTaken(Act act, @PathVariable long id) {
    return money.list(act, id);
  }

  /**
   * Takes in cash, a cheque or a card, or notes that a transfer is promised. A card is refused
   * unless its money was taken.
   */
  @PostMapping("/api/pocket/visits/{id}/money")
  MoneyOfJob takeMoney(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody MoneyForm form) {
    money.take(act, key, id, form);
    return money.list(act, id);
  }
}
