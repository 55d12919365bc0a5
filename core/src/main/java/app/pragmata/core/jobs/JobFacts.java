package app.pragmata.core.jobs;

import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatRate;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.Stream;

/** All that is known of a job for costing and billing it: what was promised and what was done. */
public record JobFacts(
    List<QuoteLine> promise, List<VisitFacts> visits, List<OtherCost> otherCosts) {
  /**
   * What was recorded on one visit.
   *
   * @param billable false when the visit did not happen or was called off: its time costs us, but
   *     nobody is charged
   */
  public record VisitFacts(
      long id, LocalDate day, boolean billable, List<TimeEntry> times, List<PartUse> parts) {
    public VisitFacts {
      times = List.copyOf(times);
      parts = List.copyOf(parts);
    }
  }

  /**
   * A supplier's net amount for the job: subcontract, hire, permits.
   *
   * @param day of the supplier's bill
   */
  public record OtherCost(
      long id, LocalDate day, String description, Money cost, VatRate vatRate) {}

  public JobFacts {
    promise = List.copyOf(promise);
    visits = List.copyOf(visits);
    otherCosts = List.copyOf(otherCosts);
  }

  /** Whether anything is recorded yet that costs us. */
  public boolean begun() {
    return !otherCosts.isEmpty()
        || visits.stream().anyMatch(visit -> !(visit.times().isEmpty() && visit.parts().isEmpty()));
  }

  public Stream<TimeEntry> times(TimeEntry.Kind kind) {
    return visits.stream()
        .flatMap(visit -> visit.times().stream())
        .filter(entry -> entry.kind() == kind);
  }

  public Stream<PartUse> parts() {
    return visits.stream().flatMap(visit -> visit.parts().stream());
  }
}
