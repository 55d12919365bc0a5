package app.pragmata.core.billing;

import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.money.Money;

/**
 * What a job's accepted quotes promise of its price, all of one kind.
 *
 * @param net their sum, without VAT
 */
public record Promised(PromiseKind kind, Money net) {
  /**
   * The same promise after lines were taken out of warranty: it is higher by exactly what the
   * warranty does not bear of them.
   */
  public Promised plus(Money forgone) {
    return new Promised(kind, net.plus(forgone));
  }

  /**
   * A bill by time and parts as far as the promise lets it be charged: what goes beyond “not more
   * than” is cut, spread over the lines by net after warranty.
   *
   * @param before what was charged for good before, without VAT
   */
  public Bill limit(Bill bill, Money before) {
    if (kind != PromiseKind.NOT_MORE_THAN) {
      return bill;
    }
    Money left = net.minus(before);
    return bill.cutTo(left.isNegative() ? Money.ZERO : left);
  }

  /**
   * How much more is charged than was promised; nothing where it is no more.
   *
   * @param charged all that is charged for good, without VAT
   */
  public Money above(Money charged) {
    Money above = charged.minus(net);
    return above.isNegative() ? Money.ZERO : above;
  }
}
