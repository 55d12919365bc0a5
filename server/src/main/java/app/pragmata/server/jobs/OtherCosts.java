package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.OTHER_COST;

import app.pragmata.core.books.BooksEvent;
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
      VatTreatment vatTreatment) {
    OtherCostRecord row = database.newRecord(OTHER_COST);
    row.setJobId(job.id());
    row.setSupplier(supplier);
    row.setDescription(description);
    row.setCostMinor(cost.minor());
    row.setVatCode(vatTreatment.code());
    row.setAddedAt(act.at());
    row.setCostReleaseId(job.costReleaseId());
    events.store(act, JobEvent.SUPPLIER_BILLED, row);
    books.post(
        act,
        new BooksEvent.SupplierBilled(
            job.costObject(),
            job.costPlace(),
            cost,
            VatBreakdown.vatOn(vatTreatment.group(), cost)),
        VisitStore.source(RecordKind.OTHER_COST, row.getId(), supplier + ": " + description, job));
    visits.follow(act, job);
    return row.getId();
  }
}
