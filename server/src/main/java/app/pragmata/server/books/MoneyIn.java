package app.pragmata.server.books;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/** Money that came in: how much, on which day, and how. */
public record MoneyIn(Money amount, LocalDate day, PaymentMethod method) {
  /**
   * Reads it as it was typed, from the fields {@code amount}, {@code receivedOn} and {@code
   * method}; an empty day is today, an empty method a bank transfer. Null, with every fault noted,
   * when something cannot be read.
   */
  public static @Nullable MoneyIn read(
      Reading reading,
      Act act,
      TypedMoney currency,
      @Nullable String typedAmount,
      @Nullable String receivedOn,
      @Nullable PaymentMethod method) {
    Money amount = reading.required("amount", typedAmount, currency::money);
    LocalDate day =
        reading.optional("receivedOn", receivedOn, typed -> Day.parsePast(typed, act.today()));
    boolean early = day != null && day.isAfter(act.today());
    if (early) {
      reading.fault(
          "receivedOn",
          Rule.IN_THE_FUTURE,
          "This day has not come yet. Enter the day when the money arrived.");
    }
    return amount == null || early
        ? null
        : new MoneyIn(
            amount,
            day == null ? act.today() : day,
            method == null ? PaymentMethod.BANK_TRANSFER : method);
  }
}
