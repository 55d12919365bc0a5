package app.pragmata.server.quoting;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatRate;
import app.pragmata.core.people.RateClass;
import app.pragmata.core.quoting.QuoteLine;
import app.pragmata.core.stores.ChargeOutPrice;
import app.pragmata.server.generated.tables.records.PartRecord;
import app.pragmata.server.people.Company;
import app.pragmata.server.stores.StockStore;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Reads typed lines into the core's, filling in current costs and prices; faults are noted per
 * field.
 */
final class QuoteReader {
  static final int MOST_LINES = 400;
  private static final int LONGEST_DESCRIPTION = 300;

  private final Company company;
  private final StockStore stock;
  private final ChargeOutPrice pricing;
  private final LocalDate today;
  private final Reading reading;

  /** Prices parts by the given pricing, which may be the customer's own. */
  QuoteReader(
      Company company, StockStore stock, ChargeOutPrice pricing, LocalDate today, Reading reading) {
    this.pricing = pricing;
    this.company = company;
    this.stock = stock;
    this.today = today;
    this.reading = reading;
  }

  /** One entry per typed line; null where a line has a fault. */
  List<@Nullable QuoteLine> read(List<QuoteForm.TypedLine> lines) {
    if (lines.size() > MOST_LINES) {
      throw new Refused(
          Rule.EXCEEDS_LIMIT, "A quote holds at most %d lines.".formatted(MOST_LINES));
    }
    var result = new ArrayList<@Nullable QuoteLine>();
    for (int i = 0; i < lines.size(); i++) {
      result.add(read("lines/" + i + "/", lines.get(i)));
    }
    return result;
  }

  private @Nullable QuoteLine read(String at, QuoteForm.TypedLine line) {
    String code = line.vat() == null || line.vat().isEmpty() ? "standard" : line.vat();
    VatRate vatRate = company.vatRates().get(code);
    if (vatRate == null) {
      reading.fault(
          at + "vat", Rule.NOT_FOUND, "This VAT rate does not exist. Choose one from the list.");
      return null;
    }
    return switch (line.category()) {
      case "labour" -> labour(at, line, vatRate);
      case "drive" -> drive(at, line, vatRate);
      case "parts" -> part(at, line, vatRate);
      case "other" -> other(at, line, vatRate);
      default -> {
        reading.fault(at + "category", Rule.NOT_FOUND, "A line is labour, drive, parts or other.");
        yield null;
      }
    };
  }

  private @Nullable QuoteLine labour(String at, QuoteForm.TypedLine line, VatRate vatRate) {
    RateClass rateClass = rateClass(at, line.rateClass());
    String description = description(at, line, "Labour");
    Integer minutes = reading.required(at + "time", line.time(), Minutes::parse);
    if (rateClass == null || minutes == null || description == null) {
      return null;
    }
    Money price = price(at, line, company.rates().chargePerHour(rateClass, today));
    return price == null
        ? null
        : new QuoteLine.Labour(
            description,
            minutes,
            rateClass,
            company.standardCostPerHour(rateClass, today),
            price,
            vatRate);
  }

  private @Nullable QuoteLine drive(String at, QuoteForm.TypedLine line, VatRate vatRate) {
    String description = description(at, line, "Call-out");
    Integer minutes = reading.required(at + "time", line.time(), Minutes::parse);
    BigDecimal miles = reading.optional(at + "miles", line.miles(), Reading::miles);
    BigDecimal driven = miles == null ? BigDecimal.ZERO : miles;
    Money usual = company.chargeTerms().drive().amountFor(minutes == null ? 0 : minutes, driven);
    Money price = price(at, line, usual);
    if (description == null || minutes == null || price == null) {
      return null;
    }
    return new QuoteLine.Drive(
        description,
        minutes,
        driven,
        company.standardCostPerHour(RateClass.NORMAL, today),
        company.rates().costPerMile(today),
        price,
        vatRate);
  }

  private @Nullable QuoteLine part(String at, QuoteForm.TypedLine line, VatRate vatRate) {
    if (line.partId() == null) {
      reading.fault(at + "partId", Rule.MISSING, "Choose a part from the price list.");
      return null;
    }
    PartRecord part = stock.get(line.partId());
    String description = description(at, line, part.getName());
    BigDecimal quantity = reading.required(at + "quantity", line.quantity(), Reading::quantity);
    Money price = price(at, line, StockStore.price(part, pricing));
    return description == null || quantity == null || price == null
        ? null
        : new QuoteLine.Part(
            part.getId(), description, quantity, StockStore.expectedCost(part), price, vatRate);
  }

  private @Nullable QuoteLine other(String at, QuoteForm.TypedLine line, VatRate vatRate) {
    String description = reading.text(at + "description", line.description(), LONGEST_DESCRIPTION);
    BigDecimal quantity = reading.required(at + "quantity", line.quantity(), Reading::quantity);
    Money cost = reading.optional(at + "cost", line.cost(), Money::parse);
    Money price = reading.required(at + "price", line.price(), Money::parse);
    return description == null || quantity == null || price == null
        ? null
        : new QuoteLine.Other(
            description, quantity, cost == null ? Money.ZERO : cost, price, vatRate);
  }

  private @Nullable String description(String at, QuoteForm.TypedLine line, String usual) {
    boolean empty = line.description() == null || line.description().isBlank();
    return reading.text(
        at + "description", empty ? usual : line.description(), LONGEST_DESCRIPTION);
  }

  private @Nullable Money price(String at, QuoteForm.TypedLine line, Money usual) {
    boolean empty = line.price() == null || line.price().isBlank();
    return empty ? usual : reading.required(at + "price", line.price(), Money::parse);
  }

  private @Nullable RateClass rateClass(String at, @Nullable String typed) {
    try {
      return typed == null || typed.isEmpty()
          ? RateClass.NORMAL
          : RateClass.valueOf(typed.toUpperCase(Locale.ROOT));
    } catch (IllegalArgumentException unknown) {
      reading.fault(at + "rateClass", Rule.NOT_FOUND, "Hours are normal, overtime or night.");
      return null;
    }
  }
}
