package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.OTHER_COST;

import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.jobs.PassedOn;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.VatBreakdown;
import app.pragmata.core.money.VatTreatment;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.generated.tables.records.OtherCostRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RecordKind;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What jobs cost besides time and parts; the books follow at once. */
@Component
public class OtherCosts {
  private final DSLContext database;
  private final VisitStore visits;
  private final BooksStore books;
  private final Events events;

  OtherCosts(DSLContext database, VisitStore visits, BooksStore books, Events events) {
    this.database = database;
    this.visits = visits;
    this.books = books;
    this.events = events;
  }

  /** Adds a supplier's bill without its VAT to a job's cost; gives its id. */
  public long add(
      Act act,
      LockedJob job,
      String supplier,
      String description,
      Money cost,
      VatTreatment vatTreatment,
      PassedOn passedOn) {
    OtherCostRecord row = row(act, job, supplier, description, vatTreatment);
    row.setCostMinor(cost.minor());
    row.setPassedOn(passedOn);
    events.store(act, JobEvent.SUPPLIER_BILLED, row);
    post(
        act,
        job,
        row,
        new BooksEvent.SupplierBilled(
            job.costObject(),
            job.costPlace(),
            cost,
            VatBreakdown.vatOn(vatTreatment.group(), cost)));
    return row.getId();
  }

  /**
   * A supplier bears so much of a job's cost, without VAT: it is less by that, from where it stands
   * by now. Gives the id of the row that says so.
   */
  public long credit(
      Act act,
      LockedJob job,
      String supplier,
      String description,
      Money credited,
      VatTreatment vatTreatment) {
    OtherCostRecord row = row(act, job, supplier, description, vatTreatment);
    row.setCostMinor(credited.negated().minor());
    row.setPassedOn(PassedOn.NOT_CHARGED);
    events.store(act, JobEvent.SUPPLIER_CREDITED, row);
    post(
        act,
        job,
        row,
        new BooksEvent.SupplierCredited(job.costObject(), job.costPlace(), credited));
    return row.getId();
  }

  private OtherCostRecord row(
      Act act, LockedJob job, String supplier, String description, VatTreatment vatTreatment) {
    OtherCostRecord row = database.newRecord(OTHER_COST);
    row.setJobId(job.id());
    row.setSupplier(supplier);
    row.setDescription(description);
    row.setVatCode(vatTreatment.code());
    row.setAddedAt(act.at());
    row.setCostReleaseId(job.costReleaseId());
    return row;
  }

  private void post(Act act, LockedJob job, OtherCostRecord row, BooksEvent event) {
    books.post(
        act,
        event,
        VisitStore.source(
            RecordKind.OTHER_COST,
            row.getId(),
            row.getSupplier() + ": " + row.getDescription(),
            job));
    visits.follow(act, job);
  }
}
