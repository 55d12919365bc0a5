package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.VISIT_PART;

import app.pragmata.core.books.BooksEvent;
import app.pragmata.core.money.Money;
import app.pragmata.server.books.BooksStore;
import app.pragmata.server.generated.tables.records.VisitPartRecord;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.stores.StockStore;
import java.math.BigDecimal;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/**
 * Parts leave stock, and reach work in progress, at the moment they are used; a correction reverses
 * and books anew.
 */
@Repository
class PartsUsed {
  private final DSLContext database;
  private final StockStore stock;
  private final BooksStore books;
  private final VisitStore visits;
  private final Events events;

  PartsUsed(
      DSLContext database, StockStore stock, BooksStore books, VisitStore visits, Events events) {
    this.database = database;
    this.stock = stock;
    this.books = books;
    this.visits = visits;
    this.events = events;
  }

  /** Books a part out of the technician's van; gives the id of the use. */
  long add(Act act, FieldEvent event, VisitStore.Locked locked, long partId, BigDecimal quantity) {
    long place = stock.getPlaceOf(locked.visit().getTechnicianId());
    Money cost = stock.issue(act, partId, place, quantity);
    VisitPartRecord use = database.newRecord(VISIT_PART);
    use.setVisitId(locked.visit().getId());
    use.setPartId(partId);
    use.setQuantity(quantity);
    use.setCostMinor(cost.minor());
    use.setUnitPrice(stock.getPrice(partId, locked.job().getCustomerId(), act.today()));
    use.setPlaceId(place);
    use.setAddedAt(act.at());
    store(act, event, locked, use, "");
    // Its entry points at it, and it at its entry.
    use.setJournalEntryId(post(act, locked, use));
    use.update();
    return use.getId();
  }

  /** Puts the old quantity back and takes the new one. */
  void change(
      Act act, VisitStore.Locked locked, VisitPartRecord use, BigDecimal quantity, String why) {
    putBack(act, locked, use);
    use.setQuantity(quantity);
    use.setCostMinor(stock.issue(act, use.getPartId(), use.getPlaceId(), quantity).minor());
    use.setJournalEntryId(post(act, locked, use));
    store(act, FieldEvent.PART_CORRECTED, locked, use, why);
  }

  void remove(Act act, VisitStore.Locked locked, VisitPartRecord use, String why) {
    putBack(act, locked, use);
    use.setRemovedAt(act.at());
    store(act, FieldEvent.PART_REMOVED, locked, use, why);
  }

  private void store(
      Act act, FieldEvent event, VisitStore.Locked locked, VisitPartRecord use, String why) {
    events.store(act, event, use, About.partOf(locked.job().getId()).why(why));
  }

  private void putBack(Act act, VisitStore.Locked locked, VisitPartRecord use) {
    stock.putBack(
        act,
        use.getPartId(),
        use.getPlaceId(),
        use.getQuantity(),
        Money.ofMinor(use.getCostMinor()));
    if (use.getJournalEntryId() != null) {
      books.reverse(act, use.getJournalEntryId(), source(locked, use, "part corrected: "));
    }
  }

  private @Nullable Long post(Act act, VisitStore.Locked locked, VisitPartRecord use) {
    return books.post(
        act, new BooksEvent.PartUsed(Money.ofMinor(use.getCostMinor())), source(locked, use, ""));
  }

  private BooksStore.Source source(VisitStore.Locked locked, VisitPartRecord use, String prefix) {
    String part =
        database
            .select(PART.NAME)
            .from(PART)
            .where(PART.ID.eq(use.getPartId()))
            .fetchSingle(PART.NAME);
    String what = prefix + use.getQuantity().stripTrailingZeros().toPlainString() + " " + part;
    return visits.source("visit_part", use.getId(), what, locked.job());
  }
}
