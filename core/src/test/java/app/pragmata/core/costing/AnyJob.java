package app.pragmata.core.costing;

import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.OtherCost;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.Provide;
import net.jqwik.api.domains.DomainContextBase;

/**
 * Jobs of any shape: up to three visits with clocks and parts, supplier's bills, a quote or none.
 */
public final class AnyJob extends DomainContextBase {
  private static final VatTreatment REDUCED = VatTreatment.rated("reduced", "5");

  /** A job with the promise of the worked example, or without any. */
  @Provide
  Arbitrary<JobFacts> jobs() {
    return Combinators.combine(
            Arbitraries.of(true, false),
            visits().list().ofMaxSize(3),
            otherCosts().list().ofMaxSize(2))
        .as(
            (quoted, visits, others) ->
                new JobFacts(quoted ? WorkedExample.job().promise() : List.of(), visits, others));
  }

  private static Arbitrary<VisitFacts> visits() {
    return Combinators.combine(
            Arbitraries.integers().between(0, 40),
            Arbitraries.frequency(
                net.jqwik.api.Tuple.of(4, true), net.jqwik.api.Tuple.of(1, false)),
            entries().list().ofMaxSize(5),
            parts().list().ofMaxSize(4))
        .as(
            (daysAgo, billable, entries, parts) -> {
              LocalDate day = WorkedExample.DAY.minusDays(daysAgo);
              return new VisitFacts(
                  1,
                  day,
                  billable ? Charging.WHOLE : Charging.NOTHING,
                  entries.stream().map(e -> on(day, e)).toList(),
                  parts,
                  List.of());
            });
  }

  private static Arbitrary<TimeEntry> entries() {
    return Combinators.combine(
            Arbitraries.of(Kind.values()),
            Arbitraries.of(RateClass.NORMAL, RateClass.OVERTIME),
            Arbitraries.integers().between(0, 960),
            Arbitraries.bigDecimals().between(BigDecimal.ZERO, new BigDecimal("250")).ofScale(1))
        .as(
            (kind, rateClass, minutes, miles) ->
                WorkedExample.entry(
                    1, kind, rateClass, minutes, kind == Kind.DRIVE ? miles.toPlainString() : "0"));
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
            Arbitraries.bigDecimals()
                .between(new BigDecimal("0.001"), new BigDecimal("60"))
                .ofScale(3),
            Arbitraries.longs().between(0, 90_000),
            Arbitraries.longs().between(0, 90_000),
            Arbitraries.of(WorkedExample.STANDARD, REDUCED),
            Arbitraries.of(true, false))
        .as(
            (quantity, cost, price, vatTreatment, excluded) ->
                new PartUse(
                    1,
                    1,
                    "Part",
                    quantity,
                    Money.ofMinor(cost),
                    UnitPrice.of(Money.ofMinor(price).toString()),
                    vatTreatment,
                    excluded));
  }

  private static Arbitrary<OtherCost> otherCosts() {
    return Combinators.combine(
            Arbitraries.longs().between(1, 200_000),
            Arbitraries.of(WorkedExample.STANDARD, REDUCED))
        .as(
            (cost, vatTreatment) ->
                new OtherCost(1, WorkedExample.DAY, "Hire", Money.ofMinor(cost), vatTreatment));
  }
}
