package app.pragmata.server.jobs;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_PART;

import app.pragmata.core.Decimal;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.customers.EquipmentService;
import app.pragmata.server.generated.tables.records.VisitPartRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.stores.StockStore;
import java.math.BigDecimal;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.springframework.stereotype.Component;

/** Parts on visits; stock and books follow each change at once. */
@Component
public class PartsUsed {
  /** A use of a part as it is stored. */
  public static final class Use {
    private final VisitPartRecord row;

    private Use(VisitPartRecord row) {
      this.row = row;
    }

    public long id() {
      return row.getId();
    }

    public int version() {
      return row.getVersion();
    }

    public long visitId() {
      return row.getVisitId();
    }
  }

  private final DSLContext database;
  private final StockStore stock;
  private final BooksStore books;
  private final Events events;

  PartsUsed(DSLContext database, StockStore stock, BooksStore books, Events events) {
    this.database = database;
    this.stock = stock;
    this.books = books;
    this.events = events;
  }

  /** The use as it stands; empty when there is none or it was taken off. */
  public Optional<Use> find(long id) {
    return database
        .selectFrom(VISIT_PART)
        .where(VISIT_PART.ID.eq(id).and(VISIT_PART.REMOVED_AT.isNull()))
        .fetchOptional(Use::new);
  }

  /** The same; refused when there is none. */
  public Use get(long id) {
    return find(id)
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NOT_FOUND, "This part is not on the visit any more. Reload the sheet."));
  }

  /**
   * The part as it was fitted, locked until the transaction ends; refused when it is not one that
   * is kept on record.
   */
  public EquipmentService.Fitted lockFitted(long id) {
    return database
        .select(
            VISIT_PART.ID,
            JOB.SITE_ID,
            PART.EQUIPMENT_KIND_ID,
            PART.NAME,
            VISIT.DAY,
            PART.WARRANTY_MONTHS.cast(Integer.class),
            VISIT_PART.QUANTITY.cast(Integer.class))
        .from(VISIT_PART)
        .join(PART)
        .on(PART.ID.eq(VISIT_PART.PART_ID))
        .join(VISIT)
        .on(VISIT.ID.eq(VISIT_PART.VISIT_ID))
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .where(VISIT_PART.ID.eq(id).and(VISIT_PART.REMOVED_AT.isNull()))
        .and(PART.EQUIPMENT_KIND_ID.isNotNull())
        .forUpdate()
        .of(VISIT_PART)
        .fetchOptional(Records.mapping(EquipmentService.Fitted::new))
        .orElseThrow(
            () ->
                new Refused(
                    Rule.NOT_FOUND,
                    "This part is not one that is kept on record once fitted. Reload the page."));
  }

  /** The uses on a visit, in the order they were added. */
  public List<Use> listOn(LockedVisit visit) {
    return database
        .selectFrom(VISIT_PART)
        .where(VISIT_PART.VISIT_ID.eq(visit.id()).and(VISIT_PART.REMOVED_AT.isNull()))
        .orderBy(VISIT_PART.ID)
        .fetch(Use::new);
  }

  /** Books a part out of the technician's van; gives the id of the use. */
  public long add(Act act, JobEvent event, LockedVisit visit, long partId, BigDecimal quantity) {
    long place = stock.getPlaceOf(Objects.requireNonNull(visit.technicianId()));
    Money cost = stock.issue(act, partId, place, quantity);
    VisitPartRecord use = database.newRecord(VISIT_PART);
    use.setVisitId(visit.id());
    use.setPartId(partId);
    use.setQuantity(quantity);
    use.setCostMinor(cost.minor());
    use.setUnitPrice(stock.getPrice(partId, visit.job().customerId(), act.today()));
    use.setPlaceId(place);
    use.setAddedAt(act.at());
    use.setCostReleaseId(visit.job().costReleaseId());
    store(act, event, visit, use, "");
    books.post(act, used(visit, use), source(visit, use, ""));
    return use.getId();
  }

  /** Puts the old quantity back and takes the new one. */
  public void change(Act act, LockedVisit visit, Use used, BigDecimal quantity, String why) {
    VisitPartRecord use = used.row;
    visit.requireOpen(use.getCostReleaseId());
    putBack(act, visit, use);
    use.setCostReleaseId(visit.job().costReleaseId());
    use.setQuantity(quantity);
    use.setCostMinor(stock.issue(act, use.getPartId(), use.getPlaceId(), quantity).minor());
    books.post(act, used(visit, use), source(visit, use, ""));
    store(act, JobEvent.PART_CORRECTED, visit, use, why);
  }

  /** Puts a part back; the reason may be empty. */
  public void remove(Act act, LockedVisit visit, Use used, String why) {
    visit.requireOpen(used.row.getCostReleaseId());
    putBack(act, visit, used.row);
    used.row.setRemovedAt(act.at());
    store(act, JobEvent.PART_REMOVED, visit, used.row, why);
  }

  /** Takes a part out of the equipment's warranty, or back under it when the reason is empty. */
  public void excludeFromWarranty(Act act, LockedVisit visit, Use used, String why) {
    visit.requireOpen(used.row.getCostReleaseId());
    used.row.setWarrantyExclusion(why.isEmpty() ? null : why);
    store(
        act,
        why.isEmpty() ? JobEvent.PART_UNDER_WARRANTY : JobEvent.PART_NOT_UNDER_WARRANTY,
        visit,
        used.row,
        why);
  }

  private void store(Act act, JobEvent event, LockedVisit visit, VisitPartRecord use, String why) {
    events.store(act, event, use, About.partOf(visit.job().id()).why(why));
  }

  private void putBack(Act act, LockedVisit visit, VisitPartRecord use) {
    stock.putBack(
        act,
        use.getPartId(),
        use.getPlaceId(),
        use.getQuantity(),
        Money.ofMinor(use.getCostMinor()));
    books.reverse(act, used(visit, use), source(visit, use, "part corrected: "));
  }

  private static BooksEvent used(LockedVisit visit, VisitPartRecord use) {
    LockedJob job = visit.job();
    return new BooksEvent.PartUsed(
        job.costObject(), job.costPlace(), Money.ofMinor(use.getCostMinor()));
  }

  private BooksStore.Source source(LockedVisit visit, VisitPartRecord use, String prefix) {
    String part =
        database
            .select(PART.NAME)
            .from(PART)
            .where(PART.ID.eq(use.getPartId()))
            .fetchSingle(PART.NAME);
    String what = prefix + Decimal.text(use.getQuantity()) + " " + part;
    return VisitStore.source(RecordKind.VISIT_PART, use.getId(), what, visit.job());
  }
}
