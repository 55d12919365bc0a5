package app.pragmata.server.receipts;

import app.pragmata.server.records.Act;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** What a customer owes, for every page on which somebody promises them anything. */
@RestController
class DebtApi {
  private final DebtStore debts;

  DebtApi(DebtStore debts) {
    this.debts = debts;
  }

  @GetMapping("/api/customers/{id}/debt")
  Debt getDebt(Act act, @PathVariable long id) {
    return debts.getDebt(id, act.today());
  }
}
