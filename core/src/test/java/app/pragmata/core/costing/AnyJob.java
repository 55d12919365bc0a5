package app.pragmata.core.costing;

import app.pragmata.core.Category;
import app.pragmata.core.company.ChargeTerms;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.OtherCost;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.PassedOn;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatCategory;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Set;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Provide;
import net.jqwik.api.Tuple;
import net.jqwik.api.domains.DomainContextBase;

/**
 * Jobs of any shape: promises of any lines, up to three visits with several people's clocks by day
 * and night, parts, drives home, supplier's bills; taxed in any way, under any warranty, charged by
 * any terms.
 */
public final class AnyJob extends DomainContextBase {
  private static final BigDecimal COST_PER_HOUR = new BigDecimal("24.108");
  private static final BigDecimal COST_PER_MILE = new BigDecimal("0.38");

  @Provide
  Arbitrary<JobFacts> jobs() {
    return Combinators.combine(
            promised().list().ofMaxSize(5),
            visits().list().ofMaxSize(3),
            otherCosts().list().ofMaxSize(2))
        .as(JobFacts::new);
  }

  @Provide
  Arbitrary<Cover> covers() {
    return Combinators.combine(shares(), shares()).as(Cover::new);
  }

  @Provide
  Arbitrary<ChargeTerms> chargeTerms() {
    return Combinators.combine(
            Arbitraries.of(1, 5, 15, 30, 60),
            Arbitraries.of(0, 30, 60, 120),
            driveCharges(),
            Arbitraries.of("0", "0.15", "0.333"))
        .as(
            (step, minimum, drive, markup) ->
                new ChargeTerms(
                    WorkedExample.DAY.minusYears(1),
                    step,
                    minimum,
                    drive,
                    new BigDecimal(markup),
                    30));
  }

  private static Arbitrary<DriveCharge> driveCharges() {
    return Combinators.combine(Arbitraries.of(DriveCharge.Rule.values()), prices(20_000))
        .as(DriveCharge::of);
  }

  private static Arbitrary<Share> shares() {
    return Arbitraries.of("0", "33.33", "60", "100").map(Share::ofPercent);
  }

  private static Arbitrary<VatTreatment> vatTreatments() {
    return Arbitraries.of(
        WorkedExample.STANDARD,
        VatTreatment.rated("reduced", "5"),
        VatTreatment.untaxed("zero", VatCategory.ZERO, ""),
        VatTreatment.untaxed("exempt", VatCategory.EXEMPT, "Training"),
        VatTreatment.untaxed("reverse", VatCategory.REVERSE_CHARGE, "Building work"));
  }

  private static Arbitrary<UnitPrice> prices(long mostMinor) {
    return Arbitraries.longs()
        .between(0, mostMinor)
        .map(minor -> UnitPrice.of(Money.ofMinor(minor).toString()));
  }

  private static Arbitrary<BigDecimal> decimals(String least, String most, int scale) {
    return Arbitraries.bigDecimals()
        .between(new BigDecimal(least), new BigDecimal(most))
        .ofScale(scale);
  }

  private static Arbitrary<QuoteLine> promised() {
    Arbitrary<QuoteLine> lines =
        Arbitraries.oneOf(promisedLabour(), promisedDrive(), promisedPart(), promisedOther());
    return Combinators.combine(lines, Arbitraries.of(0, 10, 100), shares())
        .as(
            (line, discountPercent, warranty) ->
                line.reducedBy(
                    Reductions.of(
                        line.full(),
                        Share.ofPercent(Integer.toString(discountPercent)).of(line.full()),
                        line.category() == Category.OTHER ? Share.NOTHING : warranty)));
  }

  private static Arbitrary<QuoteLine> promisedLabour() {
    return Combinators.combine(
            Arbitraries.integers().between(1, 960),
            Arbitraries.of(RateClass.values()),
            prices(20_000),
            vatTreatments())
        .as(
            (minutes, rateClass, price, vat) ->
                new QuoteLine.Labour("Labour", minutes, rateClass, COST_PER_HOUR, price, vat));
  }

  private static Arbitrary<QuoteLine> promisedDrive() {
    return Combinators.combine(
            Arbitraries.integers().between(0, 300),
            decimals("0", "250", 1),
            driveCharges(),
            vatTreatments())
        .as(
            (minutes, miles, charge, vat) ->
                new QuoteLine.Drive(
                    "Drive", minutes, miles, COST_PER_HOUR, COST_PER_MILE, charge, vat));
  }

  private static Arbitrary<QuoteLine> promisedPart() {
    return Combinators.combine(
            Arbitraries.longs().between(1, 3),
            decimals("0.001", "60", 3),
            decimals("0", "900", 2),
            prices(90_000),
            vatTreatments())
        .as(
            (part, quantity, cost, price, vat) ->
                new QuoteLine.Part(part, "Part", quantity, cost, price, vat));
  }

  private static Arbitrary<QuoteLine> promisedOther() {
    return Combinators.combine(
            decimals("0.001", "20", 3),
            Arbitraries.longs().between(0, 90_000),
            prices(90_000),
            vatTreatments())
        .as(
            (quantity, cost, price, vat) ->
                new QuoteLine.Other("Hire", quantity, Money.ofMinor(cost), price, vat));
  }

  private static Arbitrary<VisitFacts> visits() {
    return Combinators.combine(
            Arbitraries.integers().between(0, 40),
            Arbitraries.frequency(
                Tuple.of(6, Charging.WHOLE),
                Tuple.of(1, Charging.WHAT_WAS_ADDED),
                Tuple.of(2, Charging.NOTHING)),
            Arbitraries.of(
                Set.<Category>of(),
                Set.of(Category.LABOUR),
                Set.of(Category.DRIVE),
                Set.of(Category.LABOUR, Category.DRIVE)),
            entries(Kind.values()).list().ofMaxSize(5),
            parts().list().ofMaxSize(4),
            entries(Kind.DRIVE).list().ofMaxSize(2))
        .as(
            (daysAgo, charging, outOfWarranty, entries, parts, drivesHome) -> {
              LocalDate day = WorkedExample.DAY.minusDays(daysAgo);
              return new VisitFacts(
                  1,
                  day,
                  charging,
                  outOfWarranty,
                  entries.stream().map(entry -> on(day, entry)).toList(),
                  parts,
                  drivesHome.stream().map(entry -> on(day, entry)).toList());
            });
  }

  private static Arbitrary<TimeEntry> entries(Kind... kinds) {
    return Combinators.combine(
            Arbitraries.of(
                WorkedExample.TECHNICIAN, WorkedExample.HELPER, WorkedExample.SUBSTITUTE),
            Arbitraries.of(kinds),
            Arbitraries.of(RateClass.values()),
            Arbitraries.integers().between(0, 960),
            decimals("0", "250", 1))
        .as(
            (person, kind, rateClass, minutes, miles) ->
                new TimeEntry(
                    1,
                    person,
                    kind,
                    rateClass,
                    WorkedExample.DAY,
                    minutes,
                    kind == Kind.DRIVE ? miles : BigDecimal.ZERO,
                    null));
  }

  private static TimeEntry on(LocalDate day, TimeEntry entry) {
    return new TimeEntry(
        entry.id(),
        entry.personId(),
        entry.kind(),
        entry.rateClass(),
        day,
        entry.minutes(),
        entry.miles(),
        null);
  }

  private static Arbitrary<PartUse> parts() {
    return Combinators.combine(
            Arbitraries.longs().between(1, 3),
            decimals("0.001", "60", 3),
            Arbitraries.longs().between(0, 90_000),
            prices(90_000),
            vatTreatments(),
            Arbitraries.of(true, false))
        .as(
            (part, quantity, cost, price, vat, excluded) ->
                new PartUse(1, part, "Part", quantity, Money.ofMinor(cost), price, vat, excluded));
  }

  private static Arbitrary<OtherCost> otherCosts() {
    return Combinators.combine(
            Arbitraries.longs().between(1, 200_000),
            vatTreatments(),
            Arbitraries.of(PassedOn.values()))
        .as(
            (cost, vat, passedOn) ->
                new OtherCost(1, WorkedExample.DAY, "Hire", Money.ofMinor(cost), vat, passedOn));
  }
}
