package app.pragmata.server.field;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What technicians tell customers on site that a job costs; the office charges it or does not. */
@Service
@Transactional
class ToldPrices {
  /**
   * A price as typed, for all of the job.
   *
   * @param withVat whether it is with VAT, as it is where nobody says
   */
  public record ToldPriceForm(@Nullable String told, @Nullable Boolean withVat) {}

  private final VisitStore visits;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;

  ToldPrices(VisitStore visits, CompanyStore companies, RepeatableRequests repeats) {
    this.visits = visits;
    this.companies = companies;
    this.repeats = repeats;
  }

  /** Notes it on one's own visit; gives the visit's id. */
  long note(Act act, @Nullable String key, long visitId, ToldPriceForm form) {
    return repeats.once(
        act,
        key,
        "note told price",
        visitId + " " + form,
        () -> {
          LockedVisit visit = OwnVisit.require(visits.lock(visitId), act.personId());
          OwnVisit.requireWasThere(visit);
          return note(act, visit, form);
        });
  }

  /** The same on a visit that is locked, whatever its state. */
  long note(Act act, LockedVisit visit, ToldPriceForm form) {
    var reading = new Reading();
    Money told = reading.required("told", form.told(), companies.getCompany().typed()::money);
    if (told != null && !told.isPositive()) {
      reading.fault("told", Rule.MISSING, "Enter the price that you told them, above nothing.");
    }
    reading.refuseIfFaulty();
    visit.tellPrice(
        new BillingBasis.PromisedOnSite(
            Objects.requireNonNull(told), !Boolean.FALSE.equals(form.withVat())));
    visits.store(act, JobEvent.VISIT_PRICE_TOLD, visit, visit.state(), "");
    return visit.id();
  }
}
