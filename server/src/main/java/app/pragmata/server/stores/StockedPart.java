package app.pragmata.server.stores;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.stores.ChargeOutPrice;
import app.pragmata.core.stores.StockBalance;
import app.pragmata.core.stores.Unexplained;
import app.pragmata.server.generated.tables.records.PartRecord;
import java.math.BigDecimal;
import org.jspecify.annotations.Nullable;

/**
 * A part as it is priced.
 *
 * @param ownPrice null where the cost band says what it sells for
 * @param expectedCost per unit, exact, for quoting and pricing; also while nothing is held
 */
public record StockedPart(
    long id, String name, @Nullable UnitPrice ownPrice, BigDecimal expectedCost, String vatCode) {
  static StockedPart of(PartRecord row) {
    return new StockedPart(
        row.getId(),
        row.getName(),
        row.getPrice(),
        balance(row).expectedCost(row.getLastUnitCost()),
        row.getVatCode());
  }

  /** What all places hold of a part, with its value. */
  static StockBalance balance(PartRecord row) {
    return new StockBalance(row.getQuantity(), Money.ofMinor(row.getValueMinor()));
  }

  /** What was used of it beyond the stock and nothing explains yet. */
  static Unexplained unexplained(PartRecord row) {
    return new Unexplained(row.getUnexplainedQuantity(), Money.ofMinor(row.getUnexplainedMinor()));
  }

  /** What all places together hold in the books; below zero while something is unexplained. */
  static BigDecimal held(PartRecord row) {
    return row.getQuantity().subtract(row.getUnexplainedQuantity()).stripTrailingZeros();
  }

  /** Its own price, or its cost band's. */
  public UnitPrice price(ChargeOutPrice pricing) {
    return pricing.of(ownPrice, expectedCost);
  }
}
