package app.pragmata.core.billing;

import static app.pragmata.core.jobs.TimeEntry.Kind.DRIVE;
import static app.pragmata.core.jobs.TimeEntry.Kind.LABOUR;

import app.pragmata.core.Category;
import app.pragmata.core.company.ChargeTerms;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.Phrase;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Terms;
import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.PassedOn;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;

/**
 * Turns the facts of a job into charge lines, on each basis.
 *
 * @param wording of a line's description
 * @param taxDay the day of the invoice, whose VAT percents hold
 */
public record Billing(Terms terms, Wording wording, LocalDate taxDay) {

  /**
   * The final bill of a job on which nothing was billed before.
   *
   * @param job without what invoices have charged by time and parts
   */
  public Bill bill(JobFacts job, BillingBasis basis, Cover cover) {
    return bill(job, basis, cover, List.of());
  }

  /**
   * The final bill of a job.
   *
   * @param deductions what of a fixed price was billed ahead of work; of no meaning on another
   *     basis
   */
  public Bill bill(JobFacts job, BillingBasis basis, Cover cover, List<Deduction> deductions) {
    return switch (basis) {
      case BillingBasis.FixedPrice fixed ->
          new Bill(
              Bill.Kind.FINAL,
              job.promise().stream().map(Billing::quotedLine).toList(),
              deductions);
      case BillingBasis.TimeAndParts worked ->
          new Bill(Bill.Kind.FINAL, timeAndParts(job, cover), List.of());
      case BillingBasis.PromisedOnSite promised ->
          new OnSitePrice(
                  new Bill(Bill.Kind.FINAL, timeAndParts(job, cover), List.of()),
                  wording.say(Phrase.TO_AGREED_PRICE),
                  vat(job).of(Category.LABOUR))
              .of(promised);
      case BillingBasis.NotCharged free -> new Bill(Bill.Kind.FINAL, List.of(), List.of());
    };
  }

  /**
   * A bill of some work before the rest is done, by time and parts.
   *
   * @param job with those visits and suppliers' bills alone that it charges
   */
  public Bill partBill(JobFacts job, Cover cover) {
    return new Bill(Bill.Kind.PART, timeAndParts(job, cover), List.of());
  }

  /**
   * What is promised on a basis: what was accepted, higher by what the warranty does not bear of
   * lines that were taken out of it since.
   */
  public Promised promised(Promised accepted, JobFacts job, BillingBasis basis, Cover cover) {
    return accepted.plus(bill(job, basis, cover).forgone());
  }

  private static ChargeLine quotedLine(QuoteLine line) {
    return new ChargeLine(
        new ChargeLine.Of.Promise(),
        line.category(),
        line.description(),
        priced(line),
        line.reductions(),
        SaidVat.byLine(line.vatTreatment()));
  }

  private static Priced priced(QuoteLine line) {
    return switch (line) {
      case QuoteLine.Labour labour -> Priced.minutes(labour.minutes(), labour.chargePerHour());
      case QuoteLine.Drive drive ->
          switch (drive.charge()) {
            case DriveCharge.PerHour perHour -> Priced.minutes(drive.minutes(), perHour.rate());
            case DriveCharge.PerMile perMile ->
                new Priced(drive.miles(), Unit.MILE, perMile.rate());
            case DriveCharge.PerCallOut callOut -> Priced.one(callOut.rate());
            case DriveCharge.None none -> Priced.one(UnitPrice.ZERO);
          };
      case QuoteLine.Part part -> new Priced(part.quantity(), Unit.PIECE, part.unitPrice());
      case QuoteLine.Other other -> new Priced(other.quantity(), Unit.PIECE, other.unitPrice());
    };
  }

  private List<ChargeLine> timeAndParts(JobFacts job, Cover cover) {
    var lines = new ArrayList<ChargeLine>();
    LineVat vat = vat(job);
    List<VisitFacts> worked = job.visits().stream().filter(Billing::worked).toList();
    boolean dated = worked.size() > 1;
    for (VisitFacts visit : worked) {
      UnaryOperator<String> named =
          what -> dated ? wording.say(Phrase.OF_DAY, what, wording.shortDay(visit.day())) : what;
      lines.addAll(labour(visit, named, cover, vat));
      lines.addAll(drive(visit, named, cover, vat));
      visit.parts().forEach(part -> lines.add(part(part, visit, cover, vat)));
    }
    job.otherCosts().stream()
        .filter(other -> other.passedOn() != PassedOn.NOT_CHARGED)
        .forEach(other -> lines.add(other(other, vat)));
    if (job.chargeable()) {
      job.charges().forEach(charge -> lines.add(charge(charge, vat)));
    }
    return lines;
  }

  private LineVat vat(JobFacts job) {
    return new LineVat(job.promise(), job.vat(), terms.vat().usualOn(taxDay));
  }

  private static boolean worked(VisitFacts visit) {
    return visit.charging() != Charging.NOTHING
        && !(visit.times().isEmpty() && visit.parts().isEmpty());
  }

  private List<ChargeLine> labour(
      VisitFacts visit, UnaryOperator<String> named, Cover cover, LineVat vat) {
    LocalDate day = firstDay(visit);
    var of = new ChargeLine.Of.Visit(visit.id());
    return chargedMinutes(visit, terms.charge().on(day)).entrySet().stream()
        .map(
            entry -> {
              RateClass rateClass = entry.getKey();
              int minutes = entry.getValue();
              UnitPrice rate = terms.rates().chargePerHour(rateClass, day);
              Priced priced = Priced.minutes(minutes, rate);
              return new ChargeLine(
                  of,
                  Category.LABOUR,
                  named.apply(labour(rateClass, minutes, rate)),
                  priced,
                  borne(visit, Category.LABOUR, priced, cover),
                  vat.of(Category.LABOUR));
            })
        .toList();
  }

  private String labour(RateClass rateClass, int minutes, UnitPrice rate) {
    String time = Minutes.text(minutes);
    String price = wording.price(rate);
    return switch (rateClass) {
      case NORMAL -> wording.say(Phrase.LABOUR_AT_RATE, time, price);
      case OVERTIME ->
          wording.say(Phrase.LABOUR_OF_CLASS_AT_RATE, time, price, wording.say(Phrase.OVERTIME));
      case NIGHT ->
          wording.say(Phrase.LABOUR_OF_CLASS_AT_RATE, time, price, wording.say(Phrase.NIGHT));
    };
  }

  /**
   * Minutes per class, each rounded up to the step; what is missing to the minimum is added to the
   * first class worked.
   */
  private static Map<RateClass, Integer> chargedMinutes(VisitFacts visit, ChargeTerms charge) {
    var minutesByClass = new EnumMap<RateClass, Integer>(RateClass.class);
    visit.times().stream()
        .filter(entry -> entry.kind() == LABOUR && entry.minutes() > 0)
        .forEach(entry -> minutesByClass.merge(entry.rateClass(), entry.minutes(), Integer::sum));
    minutesByClass.replaceAll(
        (rateClass, minutes) -> Minutes.roundedUp(minutes, charge.stepMinutes()));
    int total = minutesByClass.values().stream().mapToInt(Integer::intValue).sum();
    if (visit.charging() == Charging.WHOLE && total > 0 && total < charge.minimumMinutes()) {
      RateClass first = minutesByClass.keySet().iterator().next();
      minutesByClass.merge(first, charge.minimumMinutes() - total, Integer::sum);
    }
    return minutesByClass;
  }

  /** The first day worked of the visit, whose terms and rates hold for all of it. */
  private static LocalDate firstDay(VisitFacts visit) {
    return visit.times().stream()
        .filter(entry -> entry.kind() == LABOUR)
        .map(TimeEntry::day)
        .min(LocalDate::compareTo)
        .orElse(visit.day());
  }

  private List<ChargeLine> drive(
      VisitFacts visit, UnaryOperator<String> named, Cover cover, LineVat vat) {
    int minutes =
        visit.times().stream().filter(e -> e.kind() == DRIVE).mapToInt(TimeEntry::minutes).sum();
    BigDecimal miles =
        visit.times().stream().map(TimeEntry::miles).reduce(BigDecimal.ZERO, BigDecimal::add);
    return switch (terms.charge().on(firstDay(visit)).drive()) {
      case DriveCharge.None none -> List.of();
      case DriveCharge.PerCallOut free
          when visit.charging() != Charging.WHOLE || !fittedOrWorked(visit) ->
          List.of();
      case DriveCharge.PerCallOut callOut ->
          List.of(
              drive(
                  visit,
                  named.apply(wording.say(Phrase.CALL_OUT)),
                  Priced.one(callOut.rate()),
                  cover,
                  vat));
      case DriveCharge.PerHour perHour when minutes > 0 ->
          List.of(
              drive(
                  visit,
                  named.apply(wording.say(Phrase.DRIVE_TIME, Minutes.text(minutes))),
                  Priced.minutes(minutes, perHour.rate()),
                  cover,
                  vat));
      case DriveCharge.PerMile perMile when miles.signum() > 0 ->
          List.of(
              drive(
                  visit,
                  named.apply(wording.say(Phrase.DRIVE_MILES, miles.toPlainString())),
                  new Priced(miles, Unit.MILE, perMile.rate()),
                  cover,
                  vat));
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
      VisitFacts visit, String description, Priced priced, Cover cover, LineVat vat) {
    return new ChargeLine(
        new ChargeLine.Of.Visit(visit.id()),
        Category.DRIVE,
        description,
        priced,
        borne(visit, Category.DRIVE, priced, cover),
        vat.of(Category.DRIVE));
  }

  /** What the warranty bears of labour or drive, or would if it had not been taken out. */
  private static Reductions borne(VisitFacts visit, Category category, Priced priced, Cover cover) {
    return borne(priced, cover.of(category), visit.outOfWarranty().contains(category));
  }

  private static Reductions borne(Priced priced, Share share, boolean takenOut) {
    Reductions borne = Reductions.of(priced.amount(), Money.ZERO, share);
    return takenOut ? borne.outOfWarranty() : borne;
  }

  private static ChargeLine part(PartUse part, VisitFacts visit, Cover cover, LineVat vat) {
    var priced = new Priced(part.quantity(), Unit.PIECE, part.price());
    return new ChargeLine(
        new ChargeLine.Of.Visit(visit.id()),
        Category.PARTS,
        part.description(),
        priced,
        borne(priced, cover.parts(), part.warrantyExcluded()),
        vat.ofPart(part.partId(), part.vatTreatment()));
  }

  private static ChargeLine charge(JobFacts.Charge charge, LineVat vat) {
    return new ChargeLine(
        new ChargeLine.Of.Promise(),
        Category.OTHER,
        charge.description(),
        new Priced(charge.quantity(), Unit.PIECE, charge.unitPrice()),
        Reductions.NONE,
        charge.vatTreatment() == null
            ? vat.of(Category.OTHER)
            : SaidVat.byLine(charge.vatTreatment()));
  }

  private ChargeLine other(JobFacts.OtherCost other, LineVat vat) {
    Money price =
        other.passedOn() == PassedOn.AT_COST
            ? other.cost()
            : other
                .cost()
                .times(BigDecimal.ONE.add(terms.charge().on(other.day()).otherMarkupShare()));
    return new ChargeLine(
        new ChargeLine.Of.OtherCost(other.id()),
        Category.OTHER,
        other.description(),
        Priced.one(new UnitPrice(price.major())),
        Reductions.NONE,
        vat.ofOther(other.vatTreatment()));
  }
}
