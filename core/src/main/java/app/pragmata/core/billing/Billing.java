package app.pragmata.core.billing;

import static app.pragmata.core.field.TimeEntry.Kind.DRIVE;
import static app.pragmata.core.field.TimeEntry.Kind.LABOUR;

import app.pragmata.core.Category;
import app.pragmata.core.costing.JobFacts;
import app.pragmata.core.costing.JobFacts.VisitFacts;
import app.pragmata.core.field.PartUse;
import app.pragmata.core.field.TimeEntry;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.people.RateClass;
import app.pragmata.core.people.Rates;
import app.pragmata.core.quoting.DriveCharge;
import app.pragmata.core.quoting.QuoteLine;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Turns the facts of a job into charge lines, on either basis. */
public record Billing(Rates rates, ChargeTerms terms) {
  private static final DateTimeFormatter SHORT_DAY =
      DateTimeFormatter.ofPattern("d MMM", Locale.UK);

  /** What the invoice would read. */
  public InvoiceDraft draft(JobFacts job, BillingBasis basis, Warranty warranty) {
    return InvoiceDraft.of(
        switch (basis) {
          case BillingBasis.FixedPrice fixed ->
              job.promise().stream().map(Billing::quotedLine).toList();
          case BillingBasis.TimeAndParts worked -> timeAndParts(job, warranty);
          case BillingBasis.NotCharged free -> List.of();
        });
  }

  private static ChargeLine quotedLine(QuoteLine line) {
    return switch (line) {
      case QuoteLine.Labour labour ->
          quoted(line, hours(labour.minutes()), "h", labour.chargePerHour());
      case QuoteLine.Drive drive -> quotedDrive(drive);
      case QuoteLine.Part part -> quoted(line, part.quantity(), "", part.unitPrice());
      case QuoteLine.Other other -> quoted(line, other.quantity(), "", other.unitPrice());
    };
  }

  private static ChargeLine quotedDrive(QuoteLine.Drive drive) {
    UnitPrice rate = drive.unitPrice();
    return switch (drive.charge()) {
      case DriveCharge.PerHour perHour -> quoted(drive, hours(drive.minutes()), "h", rate);
      case DriveCharge.PerMile perMile -> quoted(drive, drive.miles(), "mi", rate);
      case DriveCharge.PerCallOut callOut -> quoted(drive, BigDecimal.ONE, "", rate);
      case DriveCharge.None none -> quoted(drive, BigDecimal.ONE, "", rate);
    };
  }

  private static ChargeLine quoted(
      QuoteLine line, BigDecimal quantity, String unit, UnitPrice price) {
    String less = line.reduction().isZero() ? "" : ", less " + line.reduction();
    return ChargeLine.of(
        line.category(),
        line.description() + less,
        quantity,
        unit,
        price,
        line.net(),
        Share.NOTHING,
        line.vatRate());
  }

  private List<ChargeLine> timeAndParts(JobFacts job, Warranty warranty) {
    var lines = new ArrayList<ChargeLine>();
    List<VisitFacts> worked = job.visits().stream().filter(Billing::worked).toList();
    boolean dated = worked.size() > 1;
    for (VisitFacts visit : worked) {
      String suffix = dated ? ", " + SHORT_DAY.format(visit.day()) : "";
      lines.addAll(labour(visit, suffix, warranty.forLabour(visit.day())));
      lines.addAll(drive(visit, suffix, warranty.forLabour(visit.day())));
      visit.parts().forEach(part -> lines.add(part(part, visit.day(), warranty)));
    }
    job.otherCosts().forEach(other -> lines.add(other(other)));
    return lines;
  }

  private static boolean worked(VisitFacts visit) {
    return visit.billable() && !(visit.times().isEmpty() && visit.parts().isEmpty());
  }

  private List<ChargeLine> labour(VisitFacts visit, String suffix, Share warrantyShare) {
    return chargedMinutes(visit).entrySet().stream()
        .map(
            entry -> {
              RateClass rateClass = entry.getKey();
              int minutes = entry.getValue();
              UnitPrice rate = rates.chargePerHour(rateClass, firstDay(visit, rateClass));
              String kind =
                  rateClass == RateClass.NORMAL ? "Labour" : "Labour, " + rateClass.label();
              return ChargeLine.of(
                  Category.LABOUR,
                  "%s %s at %s%s".formatted(kind, Minutes.text(minutes), rate, suffix),
                  hours(minutes),
                  "h",
                  rate,
                  rate.forMinutes(minutes),
                  warrantyShare,
                  terms.vatRate());
            })
        .toList();
  }

  /**
   * Minutes per class, each rounded up to the step; what is missing to the minimum is added to the
   * first class worked.
   */
  private Map<RateClass, Integer> chargedMinutes(VisitFacts visit) {
    var minutesByClass = new EnumMap<RateClass, Integer>(RateClass.class);
    visit.times().stream()
        .filter(entry -> entry.kind() == LABOUR && entry.minutes() > 0)
        .forEach(entry -> minutesByClass.merge(entry.rateClass(), entry.minutes(), Integer::sum));
    minutesByClass.replaceAll(
        (rateClass, minutes) -> Minutes.roundedUp(minutes, terms.stepMinutes()));
    int total = minutesByClass.values().stream().mapToInt(Integer::intValue).sum();
    if (total > 0 && total < terms.minimumMinutes()) {
      RateClass first = minutesByClass.keySet().iterator().next();
      minutesByClass.merge(first, terms.minimumMinutes() - total, Integer::sum);
    }
    return minutesByClass;
  }

  private static LocalDate firstDay(VisitFacts visit, RateClass rateClass) {
    return visit.times().stream()
        .filter(entry -> entry.rateClass() == rateClass)
        .map(TimeEntry::day)
        .min(LocalDate::compareTo)
        .orElse(visit.day());
  }

  private List<ChargeLine> drive(VisitFacts visit, String suffix, Share warrantyShare) {
    int minutes =
        visit.times().stream().filter(e -> e.kind() == DRIVE).mapToInt(TimeEntry::minutes).sum();
    BigDecimal miles =
        visit.times().stream().map(TimeEntry::miles).reduce(BigDecimal.ZERO, BigDecimal::add);
    return switch (terms.drive()) {
      case DriveCharge.None none -> List.of();
      case DriveCharge.PerCallOut driveOnly when !fittedOrWorked(visit) -> List.of();
      case DriveCharge.PerCallOut callOut ->
          List.of(
              drive(
                  "Call-out" + suffix,
                  BigDecimal.ONE,
                  "",
                  callOut.rate(),
                  callOut.rate().times(BigDecimal.ONE),
                  warrantyShare));
      case DriveCharge.PerHour perHour when minutes > 0 ->
          List.of(
              drive(
                  "Drive " + Minutes.text(minutes) + suffix,
                  hours(minutes),
                  "h",
                  perHour.rate(),
                  perHour.rate().forMinutes(minutes),
                  warrantyShare));
      case DriveCharge.PerMile perMile when miles.signum() > 0 ->
          List.of(
              drive(
                  "Drive " + miles.toPlainString() + " miles" + suffix,
                  miles,
                  "mi",
                  perMile.rate(),
                  perMile.rate().times(miles),
                  warrantyShare));
      case DriveCharge.PerHour nothingDriven -> List.of();
      case DriveCharge.PerMile nothingDriven -> List.of();
    };
  }

  /** A call-out is charged with or without a drive clock, but not for a drive alone. */
  private static boolean fittedOrWorked(VisitFacts visit) {
    return !visit.parts().isEmpty()
        || visit.times().stream().anyMatch(entry -> entry.kind() == LABOUR);
  }

  private ChargeLine drive(
      String description,
      BigDecimal quantity,
      String unit,
      UnitPrice price,
      Money full,
      Share warrantyShare) {
    return ChargeLine.of(
        Category.DRIVE, description, quantity, unit, price, full, warrantyShare, terms.vatRate());
  }

  private static ChargeLine part(PartUse part, LocalDate day, Warranty warranty) {
    Share share = part.warrantyExcluded() ? Share.NOTHING : warranty.forParts(day);
    return ChargeLine.of(
        Category.PARTS,
        part.description(),
        part.quantity(),
        "",
        part.price(),
        part.price().times(part.quantity()),
        share,
        part.vatRate());
  }

  private ChargeLine other(JobFacts.OtherCost other) {
    Money price = other.cost().times(BigDecimal.ONE.add(terms.otherMarkupShare()));
    return ChargeLine.of(
        Category.OTHER,
        other.description(),
        BigDecimal.ONE,
        "",
        new UnitPrice(price.major()),
        price,
        Share.NOTHING,
        other.vatRate());
  }

  /** Hours for showing on the line; the amount is computed from the minutes. */
  private static BigDecimal hours(int minutes) {
    return BigDecimal.valueOf(minutes).divide(BigDecimal.valueOf(60), 2, RoundingMode.HALF_UP);
  }
}
