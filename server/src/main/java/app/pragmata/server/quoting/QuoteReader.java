package app.pragmata.server.quoting;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.ChargeTerms;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.AmountOrShare;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.core.quoting.Choice;
import app.pragmata.core.quoting.LineKind;
import app.pragmata.core.quoting.LineWarranty;
import app.pragmata.core.quoting.Offer;
import app.pragmata.core.quoting.OfferLine;
import app.pragmata.core.quoting.Stage;
import app.pragmata.core.stores.ChargeOutPrice;
import app.pragmata.server.company.Company;
import app.pragmata.server.stores.StockStore;
import app.pragmata.server.stores.StockedPart;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Reads typed lines into the core's, filling in current costs and prices; faults are noted per
 * field.
 */
final class QuoteReader {
  static final int MOST_LINES = 400;
  private static final int MOST_STAGES = 12;
  private static final int MOST_DUE_DAYS = 90;
  private static final int LONGEST_DESCRIPTION = 300;
  private static final int LONGEST_REASON = 300;
  private static final int LONGEST_TEXT = 2_000;

  private final Company company;
  private final StockStore stock;
  private final ChargeOutPrice pricing;
  private final @Nullable String vatCode;
  private final Cover cover;
  private final LocalDate today;
  private final Reading reading;
  private Map<Long, StockedPart> partById = Map.of();

  /**
   * Prices parts by the given pricing, which may be the customer's own.
   *
   * @param cover what the equipment's warranty bears
   * @param vatCode the treatment of lines that say none; null for the part's or the usual one
   */
  QuoteReader(
      Company company,
      StockStore stock,
      ChargeOutPrice pricing,
      @Nullable String vatCode,
      Cover cover,
      LocalDate today,
      Reading reading) {
    this.pricing = pricing;
    this.vatCode = vatCode;
    this.cover = cover;
    this.company = company;
    this.stock = stock;
    this.today = today;
    this.reading = reading;
  }

  /** One entry per typed line; null where a line has a fault. */
  List<@Nullable OfferLine> read(List<TypedLine> lines) {
    if (lines.size() > MOST_LINES) {
      throw new Refused(
          Rule.EXCEEDS_LIMIT, "A quote holds at most %d lines.".formatted(MOST_LINES));
    }
    partById = stock.list(lines.stream().map(TypedLine::partId).filter(Objects::nonNull).toList());
    var result = new ArrayList<@Nullable OfferLine>();
    for (int i = 0; i < lines.size(); i++) {
      result.add(read("lines/" + i + "/", lines.get(i)));
    }
    return result;
  }

  /** The whole offer; what has a fault is left out of it. */
  Offer offer(
      List<TypedLine> lines,
      @Nullable String discount,
      @Nullable String deposit,
      @Nullable List<QuoteForm.TypedStage> stages) {
    return new Offer(
        read(lines).stream().filter(Objects::nonNull).toList(),
        amountOrShare("discount", discount),
        amountOrShare("deposit", deposit),
        stages(stages));
  }

  /** Days as typed, at most 90. */
  static int depositDueDays(String typed) {
    return Reading.whole(typed, 0, MOST_DUE_DAYS);
  }

  /** The stages that are filled in; one with a fault is left out. */
  List<Stage> stages(@Nullable List<QuoteForm.TypedStage> typed) {
    var result = new ArrayList<Stage>();
    if (typed == null) {
      return result;
    }
    if (typed.size() > MOST_STAGES) {
      throw new Refused(Rule.EXCEEDS_LIMIT, "There are at most %d stages.".formatted(MOST_STAGES));
    }
    for (int i = 0; i < typed.size(); i++) {
      String at = "stages/" + i + "/";
      String name = reading.text(at + "name", typed.get(i).name(), 100);
      AmountOrShare part =
          reading.required(at + "part", typed.get(i).part(), company.typed()::amountOrShare);
      if (name != null && part != null) {
        result.add(new Stage(name, part));
      }
    }
    return result;
  }

  /** An amount or share; nothing when it is empty or has a fault. */
  AmountOrShare amountOrShare(String field, @Nullable String typed) {
    AmountOrShare read = reading.optional(field, typed, company.typed()::amountOrShare);
    return read == null ? AmountOrShare.nothing() : read;
  }

  private @Nullable OfferLine read(String at, TypedLine line) {
    if (line.category() == null) {
      reading.fault(
          at + "category",
          Rule.MISSING,
          "A line is labour, drive, parts, other, a heading or a text.");
      return null;
    }
    if (line.category().isWords()) {
      String text = reading.text(at + "description", line.description(), LONGEST_TEXT);
      return text == null ? null : new OfferLine.Words(text, line.category() == LineKind.HEADING);
    }
    QuoteLine priced = priced(at, line);
    Choice choice = choice(at, line);
    AmountOrShare discount = amountOrShare(at + "discount", line.discount());
    if (priced == null || choice == null) {
      return null;
    }
    if (discount.of(priced.full()).compareTo(priced.full()) > 0) {
      reading.fault(
          at + "discount",
          Rule.EXCEEDS_LIMIT,
          "The discount is more than the line's %s. Enter less.".formatted(priced.full()));
      return null;
    }
    String exclusion =
        reading.optionalText(at + "warrantyExclusion", line.warrantyExclusion(), LONGEST_REASON);
    return new OfferLine.Priced(
        priced, discount, new LineWarranty(cover.of(priced.category()), exclusion), choice);
  }

  private @Nullable Choice choice(String at, TypedLine line) {
    boolean taken = Boolean.TRUE.equals(line.taken());
    return switch (Objects.requireNonNullElse(line.choice(), Choice.Code.INCLUDED)) {
      case INCLUDED -> new Choice.Included();
      case OPTION -> new Choice.Option(taken);
      case ALTERNATIVE -> {
        String group = reading.text(at + "group", line.group(), 60);
        yield group == null ? null : new Choice.Alternative(group, taken);
      }
    };
  }

  private @Nullable QuoteLine priced(String at, TypedLine line) {
    VatTreatments vat = company.terms().vat();
    int faults = reading.faults().size();
    vat.requireKnown(reading, at + "vat", line.vat());
    if (reading.faults().size() > faults) {
      return null;
    }
    VatTreatment vatTreatment = vat.on(vatCode(line), today);
    return switch (line.category()) {
      case LABOUR -> labour(at, line, vatTreatment);
      case DRIVE -> drive(at, line, vatTreatment);
      case PARTS -> part(at, line, vatTreatment);
      case OTHER -> other(at, line, vatTreatment);
      case HEADING, TEXT -> throw new IllegalStateException("Words have no price");
    };
  }

  private String vatCode(TypedLine line) {
    if (line.vat() != null && !line.vat().isEmpty()) {
      return line.vat();
    }
    if (vatCode != null) {
      return vatCode;
    }
    StockedPart part = line.partId() == null ? null : partById.get(line.partId());
    return part == null ? company.terms().vat().usualCode() : part.vatCode();
  }

  private @Nullable QuoteLine labour(String at, TypedLine line, VatTreatment vatTreatment) {
    RateClass rateClass = Objects.requireNonNullElse(line.rateClass(), RateClass.NORMAL);
    String description = description(at, line, company.wording().say(Phrase.LABOUR));
    Integer minutes = reading.required(at + "time", line.time(), Minutes::parse);
    if (minutes == null || description == null) {
      return null;
    }
    UnitPrice price = price(at, line, company.terms().rates().chargePerHour(rateClass, today));
    return price == null
        ? null
        : new QuoteLine.Labour(
            description,
            minutes,
            rateClass,
            company.terms().standardCostPerHour(rateClass, today),
            price,
            vatTreatment);
  }

  private @Nullable QuoteLine drive(String at, TypedLine line, VatTreatment vatTreatment) {
    String description = description(at, line, company.wording().say(Phrase.CALL_OUT));
    Integer minutes = reading.required(at + "time", line.time(), Minutes::parse);
    BigDecimal miles = reading.optional(at + "miles", line.miles(), Reading::miles);
    BigDecimal driven = miles == null ? BigDecimal.ZERO : miles;
    DriveCharge charge = driveCharge(at, line);
    if (description == null || minutes == null || charge == null) {
      return null;
    }
    return new QuoteLine.Drive(
        description,
        minutes,
        driven,
        company.terms().standardCostPerHour(RateClass.NORMAL, today),
        company.terms().rates().costPerMile(today),
        charge,
        vatTreatment);
  }

  /** By the company's rule at its price, unless something else was typed. */
  private @Nullable DriveCharge driveCharge(String at, TypedLine line) {
    DriveCharge usual = charge().drive();
    boolean unpriced = line.price() == null || line.price().isBlank();
    DriveCharge.Rule rule = line.charge();
    if (rule == null) {
      // A price for what is free otherwise is one for the whole drive.
      rule =
          usual instanceof DriveCharge.None && !unpriced
              ? DriveCharge.Rule.PER_CALL_OUT
              : usual.rule();
    }
    if (rule == DriveCharge.Rule.NONE) {
      return new DriveCharge.None();
    }
    UnitPrice price =
        rule == usual.rule()
            ? price(at, line, usual.rate())
            : reading.required(at + "price", line.price(), company.typed()::unitPrice);
    return price == null ? null : DriveCharge.of(rule, price);
  }

  private @Nullable QuoteLine part(String at, TypedLine line, VatTreatment vatTreatment) {
    if (line.partId() == null) {
      reading.fault(at + "partId", Rule.MISSING, "Choose a part from the price list.");
      return null;
    }
    StockedPart part = partById.get(line.partId());
    if (part == null) {
      reading.fault(
          at + "partId",
          Rule.NOT_FOUND,
          "This part does not exist. Choose one from the price list.");
      return null;
    }
    String description = description(at, line, part.name());
    BigDecimal quantity = reading.required(at + "quantity", line.quantity(), Reading::quantity);
    UnitPrice price = price(at, line, part.price(pricing));
    return description == null || quantity == null || price == null
        ? null
        : new QuoteLine.Part(
            part.id(), description, quantity, part.expectedCost(), price, vatTreatment);
  }

  private @Nullable QuoteLine other(String at, TypedLine line, VatTreatment vatTreatment) {
    String description = reading.text(at + "description", line.description(), LONGEST_DESCRIPTION);
    BigDecimal quantity = reading.required(at + "quantity", line.quantity(), Reading::quantity);
    Money cost = reading.optional(at + "cost", line.cost(), company.typed()::money);
    UnitPrice price =
        cost == null
            ? reading.required(at + "price", line.price(), company.typed()::unitPrice)
            : price(at, line, markedUp(cost));
    return description == null || quantity == null || price == null
        ? null
        : new QuoteLine.Other(
            description, quantity, cost == null ? Money.ZERO : cost, price, vatTreatment);
  }

  private ChargeTerms charge() {
    return company.terms().charge().on(today);
  }

  /** Cost x (1 + the company's markup of other costs), rounded half up to four decimals. */
  private UnitPrice markedUp(Money cost) {
    return UnitPrice.rounded(
        cost.major().multiply(BigDecimal.ONE.add(charge().otherMarkupShare())));
  }

  private @Nullable String description(String at, TypedLine line, String usual) {
    boolean empty = line.description() == null || line.description().isBlank();
    return reading.text(
        at + "description", empty ? usual : line.description(), LONGEST_DESCRIPTION);
  }

  private @Nullable UnitPrice price(String at, TypedLine line, UnitPrice usual) {
    boolean empty = line.price() == null || line.price().isBlank();
    return empty ? usual : reading.required(at + "price", line.price(), company.typed()::unitPrice);
  }
}
