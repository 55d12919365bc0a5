package app.pragmata.core.jobs;

import app.pragmata.core.Category;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * All that is known of a job for costing and billing it: what was promised and what was done.
 *
 * @param charges what is charged by time and parts besides what was worked, fitted and supplied
 * @param vat what was said of its VAT as a whole
 */
public record JobFacts(
    List<QuoteLine> promise,
    List<VisitFacts> visits,
    List<OtherCost> otherCosts,
    List<Charge> charges,
    JobVat vat) {
  /**
   * What was recorded on one visit.
   *
   * @param outOfWarranty what of its labour and drive was taken out of the equipment's warranty
   * @param drivesHome its shares of drives that led to no visit: they cost us, and are never
   *     charged
   */
  public record VisitFacts(
      long id,
      LocalDate day,
      Charging charging,
      Set<Category> outOfWarranty,
      List<TimeEntry> times,
      List<PartUse> parts,
      List<TimeEntry> drivesHome) {
    public VisitFacts {
      outOfWarranty = Set.copyOf(outOfWarranty);
      times = List.copyOf(times);
      parts = List.copyOf(parts);
      drivesHome = List.copyOf(drivesHome);
    }

    /** With nothing taken out of warranty. */
    public VisitFacts(
        long id,
        LocalDate day,
        Charging charging,
        List<TimeEntry> times,
        List<PartUse> parts,
        List<TimeEntry> drivesHome) {
      this(id, day, charging, Set.of(), times, parts, drivesHome);
    }
  }

  /** How far a visit may be charged by time and parts. */
  public enum Charging {
    WHOLE,
    /**
     * An invoice charged the visit before these facts were added: its call-out and minimum are
     * paid.
     */
    WHAT_WAS_ADDED,
    /** It did not happen or was called off: its time costs us, but nobody is charged. */
    NOTHING
  }

  /**
   * A supplier's net amount for the job: subcontract, hire, permits.
   *
   * @param day of the supplier's bill
   * @param cost below nothing for what a supplier bears; that is never passed on
   */
  public record OtherCost(
      long id,
      LocalDate day,
      String description,
      Money cost,
      VatTreatment vatTreatment,
      PassedOn passedOn) {
    /** With the company's markup. */
    public OtherCost(
        long id, LocalDate day, String description, Money cost, VatTreatment vatTreatment) {
      this(id, day, description, cost, vatTreatment, PassedOn.WITH_MARKUP);
    }
  }

  /**
   * What the customer pays besides the work, such as a diagnosis or a certificate; it costs us
   * nothing of its own.
   *
   * @param vatTreatment null for as the job's
   */
  public record Charge(
      long id,
      String description,
      BigDecimal quantity,
      UnitPrice unitPrice,
      @Nullable VatTreatment vatTreatment) {
    /** Quantity x price, rounded half up. */
    public Money net() {
      return Money.rounded(unitPrice.major().multiply(quantity));
    }
  }

  /** Without charges of its own. */
  public JobFacts(
      List<QuoteLine> promise, List<VisitFacts> visits, List<OtherCost> otherCosts, JobVat vat) {
    this(promise, visits, otherCosts, List.of(), vat);
  }

  /** Of whose VAT nothing was said. */
  public JobFacts(List<QuoteLine> promise, List<VisitFacts> visits, List<OtherCost> otherCosts) {
    this(promise, visits, otherCosts, JobVat.UNSAID);
  }

  public JobFacts {
    promise = List.copyOf(promise);
    visits = List.copyOf(visits);
    otherCosts = List.copyOf(otherCosts);
    charges = List.copyOf(charges);
  }

  /** Whether anything was done that is charged, or was before these facts were added. */
  public boolean chargeable() {
    return !otherCosts.isEmpty()
        || visits.stream()
            .anyMatch(
                visit ->
                    switch (visit.charging()) {
                      case WHOLE -> !(visit.times().isEmpty() && visit.parts().isEmpty());
                      case WHAT_WAS_ADDED -> true;
                      case NOTHING -> false;
                    });
  }

  /** Whether anything is recorded yet that costs us. */
  public boolean begun() {
    return !otherCosts.isEmpty()
        || visits.stream().anyMatch(visit -> !(visit.times().isEmpty() && visit.parts().isEmpty()));
  }

  /**
   * All time that the job bears: what was recorded on its visits, and its shares of drives home.
   */
  public Stream<TimeEntry> times(TimeEntry.Kind kind) {
    return visits.stream()
        .flatMap(visit -> Stream.concat(visit.times().stream(), visit.drivesHome().stream()))
        .filter(entry -> entry.kind() == kind);
  }

  public Stream<PartUse> parts() {
    return visits.stream().flatMap(visit -> visit.parts().stream());
  }
}
