package app.pragmata.server.quoting;

import app.pragmata.core.Decimal;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.quoting.Choice;
import app.pragmata.core.quoting.LineKind;
import app.pragmata.core.quoting.OfferLine;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A line of a quote as it is typed. What a category does not use stays empty.
 *
 * @param time labour or driving, such as 2:30
 * @param charge how a drive is charged: per_call_out, per_hour or per_mile; empty is by the
 *     company's rule
 * @param cost per unit, for other lines only: labour, drive and parts know their cost
 * @param price per hour, mile, call-out or unit; empty takes the current one, and for other lines
 *     the cost with the company's markup
 * @param discount an amount or a share, such as 10%
 * @param warrantyExclusion why the equipment's warranty bears nothing of it; empty where it may
 * @param choice included, option or alternative; empty is included
 * @param group what the alternatives that exclude each other have in common
 * @param taken whether an option or alternative counts as things stand
 */
public record TypedLine(
    LineKind category,
    @Nullable String description,
    @Nullable String time,
    @Nullable RateClass rateClass,
    @Nullable String miles,
    DriveCharge.@Nullable Rule charge,
    @Nullable Long partId,
    @Nullable String quantity,
    @Nullable String cost,
    @Nullable String price,
    @Nullable String vat,
    @Nullable String discount,
    @Nullable String warrantyExclusion,
    Choice.@Nullable Code choice,
    @Nullable String group,
    @Nullable Boolean taken) {

  /** Labour in normal hours at the price in force. */
  public static Writing labour(String description, String time) {
    return new Writing(LineKind.LABOUR, description).time(time).rateClass(RateClass.NORMAL);
  }

  /** A drive by the company's rule, at the price in force. */
  public static Writing drive(String description, String time, String miles) {
    return new Writing(LineKind.DRIVE, description).time(time).miles(miles);
  }

  /** A part at the price in force; without a name it takes that of the price list. */
  public static Writing part(long partId, @Nullable String name, String quantity) {
    var writing = new Writing(LineKind.PARTS, name).quantity(quantity);
    writing.partId = partId;
    return writing;
  }

  /** Something else, with what one of it costs us; the customer pays that with the markup. */
  public static Writing other(String description, String quantity, String cost) {
    return new Writing(LineKind.OTHER, description).quantity(quantity).cost(cost);
  }

  /** Words on a line of their own, above the lines that follow. */
  public static TypedLine heading(String heading) {
    return new Writing(LineKind.HEADING, heading).line();
  }

  /** A paragraph between the lines. */
  public static TypedLine text(String text) {
    return new Writing(LineKind.TEXT, text).line();
  }

  /**
   * The same line, for which the price in force is taken. An other line keeps its own, and so does
   * a drive by another rule than the company's: there is no price in force for them.
   */
  TypedLine atTodaysPrice(DriveCharge companyRule) {
    boolean byOwnRule =
        category == LineKind.DRIVE && charge != null && charge != companyRule.rule();
    return byOwnRule || category == LineKind.OTHER ? this : writing().price(null).line();
  }

  /** A stored line as it would be typed. */
  static TypedLine of(OfferLine line) {
    return switch (line) {
      case OfferLine.Words words -> words.heading() ? heading(words.text()) : text(words.text());
      case OfferLine.Priced priced ->
          chosen(
                  of(priced.line())
                      .discount(priced.discount().text())
                      .warrantyExclusion(priced.warranty().exclusion()),
                  priced.choice())
              .line();
    };
  }

  /** All that is typed on it, in one line of text. */
  String told() {
    return Stream.of(description, time, miles, quantity, price, discount, warrantyExclusion)
        .filter(typed -> typed != null && !typed.isEmpty())
        .collect(Collectors.joining(", "));
  }

  private static Writing of(QuoteLine line) {
    Writing writing =
        switch (line) {
          case QuoteLine.Labour labour ->
              labour(labour.description(), Minutes.text(labour.minutes()))
                  .rateClass(labour.rateClass());
          case QuoteLine.Drive drive ->
              drive(drive.description(), Minutes.text(drive.minutes()), Decimal.text(drive.miles()))
                  .charge(drive.charge().rule());
          case QuoteLine.Part part ->
              part(part.partId(), part.description(), Decimal.text(part.quantity()));
          case QuoteLine.Other other ->
              other(
                  other.description(), Decimal.text(other.quantity()), other.unitCost().toString());
        };
    return writing.price(line.unitPrice().toString()).vat(line.vatTreatment().code());
  }

  private static Writing chosen(Writing writing, Choice choice) {
    return writing.choice(choice.code(), choice.groupName(), choice.counts());
  }

  private Writing writing() {
    var writing = new Writing(category, description);
    writing.time = time;
    writing.rateClass = rateClass;
    writing.miles = miles;
    writing.charge = charge;
    writing.partId = partId;
    writing.quantity = quantity;
    writing.cost = cost;
    writing.price = price;
    writing.vat = vat;
    writing.discount = discount;
    writing.warrantyExclusion = warrantyExclusion;
    writing.choice = choice;
    writing.group = group;
    writing.taken = taken;
    return writing;
  }

  /** A line while it is being written; what is not written stays empty. */
  public static final class Writing {
    private final LineKind category;
    private final @Nullable String description;
    private @Nullable String time;
    private @Nullable RateClass rateClass;
    private @Nullable String miles;
    private DriveCharge.@Nullable Rule charge;
    private @Nullable Long partId;
    private @Nullable String quantity;
    private @Nullable String cost;
    private @Nullable String price;
    private @Nullable String vat;
    private @Nullable String discount;
    private @Nullable String warrantyExclusion;
    private Choice.@Nullable Code choice;
    private @Nullable String group;
    private @Nullable Boolean taken;

    private Writing(LineKind category, @Nullable String description) {
      this.category = category;
      this.description = description;
    }

    private Writing time(String written) {
      time = written;
      return this;
    }

    /** Which hours: normal, overtime or night. */
    public Writing rateClass(RateClass written) {
      rateClass = written;
      return this;
    }

    private Writing miles(String written) {
      miles = written;
      return this;
    }

    private Writing charge(DriveCharge.Rule written) {
      charge = written;
      return this;
    }

    private Writing quantity(String written) {
      quantity = written;
      return this;
    }

    private Writing cost(String written) {
      cost = written;
      return this;
    }

    /** Per hour, mile, call-out or unit; null takes the one in force. */
    public Writing price(@Nullable String written) {
      price = written;
      return this;
    }

    private Writing vat(String written) {
      vat = written;
      return this;
    }

    private Writing discount(String written) {
      discount = written;
      return this;
    }

    /** Why the equipment's warranty bears nothing of it. */
    public Writing warrantyExclusion(String written) {
      warrantyExclusion = written;
      return this;
    }

    /** Included, or for the customer to choose: an option, or one alternative of a group. */
    public Writing choice(Choice.Code written, String inGroup, boolean isTaken) {
      choice = written;
      group = inGroup;
      taken = isTaken;
      return this;
    }

    /** The line as written. */
    public TypedLine line() {
      return new TypedLine(
          category,
          description,
          time,
          rateClass,
          miles,
          charge,
          partId,
          quantity,
          cost,
          price,
          vat,
          discount,
          warrantyExclusion,
          choice,
          group,
          taken);
    }
  }
}
