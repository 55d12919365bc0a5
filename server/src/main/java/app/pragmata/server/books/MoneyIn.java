package app.pragmata.server.books;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Money that came in: how much, on which day, and how. */
public record MoneyIn(Money amount, LocalDate day, String method) {
  private static final List<String> METHODS = List.of("bank transfer", "card", "cash", "cheque");

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
      @Nullable String typedMethod) {
    Money amount = reading.required("amount", typedAmount, currency::money);
    LocalDate day =
        reading.optional("receivedOn", receivedOn, typed -> Day.parsePast(typed, act.today()));
    String method = typedMethod == null || typedMethod.isEmpty() ? "bank transfer" : typedMethod;
    boolean known = METHODS.contains(method);
    if (!known) {
      reading.fault(
          "method", Rule.NOT_FOUND, "Money comes by bank transfer, card, cash or cheque.");
    }
    boolean early = day != null && day.isAfter(act.today());
    if (early) {
      reading.fault(
          "receivedOn",
          Rule.IN_THE_FUTURE,
          "This day has not come yet. Enter the day when the money arrived.");
    }
    return amount == null || !known || early
        ? null
        : new MoneyIn(amount, day == null ? act.today() : day, method);
  }
}
