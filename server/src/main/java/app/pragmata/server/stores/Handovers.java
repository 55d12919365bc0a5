package app.pragmata.server.stores;

import static app.pragmata.server.generated.Tables.HANDOVER;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;

import app.pragmata.core.Decimal;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.people.Role;
import app.pragmata.core.stores.HandoverState;
import app.pragmata.server.generated.tables.records.HandoverRecord;
import app.pragmata.server.generated.tables.records.StockPlaceRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.math.BigDecimal;
import java.util.Objects;
import java.util.Optional;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Moves parts between vans and the store, with the yes of the side that did not ask. The store is
 * the office's side: it has a to-do for what waits for its yes.
 */
@Service
@Transactional
public class Handovers {
  /**
   * What goes from where to where; one of the places may be left out by a technician, whose van it
   * is.
   *
   * @param quantity as typed
   */
  public record HandoverForm(
      @Nullable Long partId,
      @Nullable Long fromPlaceId,
      @Nullable Long toPlaceId,
      @Nullable String quantity) {}

  private final DSLContext database;
  private final StockStore stock;
  private final ToDoService toDos;
  private final RepeatableRequests repeats;
  private final Events events;

  Handovers(
      DSLContext database,
      StockStore stock,
      ToDoService toDos,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.stock = stock;
    this.toDos = toDos;
    this.repeats = repeats;
    this.events = events;
  }

  /**
   * Asks for the other side's yes; gives the id. A technician gives out of the own van or takes
   * into it; the office moves between any two places, and the van waits for its technician's yes,
   * of two vans the one that takes.
   */
  public long ask(Act act, @Nullable String key, HandoverForm form) {
    return repeats.once(act, key, "ask for handover", form, () -> insert(act, form));
  }

  private long insert(Act act, HandoverForm form) {
    var reading = new Reading();
    BigDecimal quantity = reading.required("quantity", form.quantity(), Reading::quantity);
    if (form.partId() == null || !database.fetchExists(PART, PART.ID.eq(form.partId()))) {
      reading.fault("partId", Rule.MISSING, "Choose a part of the price list.");
    }
    Long own = act.role() == Role.TECHNICIAN ? stock.getPlaceOf(act.personId()) : null;
    StockPlaceRecord from = readPlace(reading, "fromPlaceId", form.fromPlaceId(), own);
    StockPlaceRecord to = readPlace(reading, "toPlaceId", form.toPlaceId(), own);
    if (from != null && to != null) {
      if (from.getId().equals(to.getId())) {
        reading.fault("toPlaceId", Rule.REPEATED, "It is there already. Choose another place.");
      } else if (own != null && !own.equals(from.getId()) && !own.equals(to.getId())) {
        reading.fault("toPlaceId", Rule.MISSING, "Give out of your van, or take into it.");
      }
    }
    reading.refuseIfFaulty();
    HandoverRecord row = database.newRecord(HANDOVER);
    row.setPartId(Objects.requireNonNull(form.partId()));
    row.setFromPlaceId(Objects.requireNonNull(from).getId());
    row.setToPlaceId(Objects.requireNonNull(to).getId());
    row.setQuantity(Objects.requireNonNull(quantity));
    row.setState(HandoverState.WAITING);
    row.setAskedAt(act.at());
    row.setAskedBy(act.personId());
    StockPlaceRecord other = otherSide(act, own, from, to);
    row.setAnswerPersonId(other.getPersonId());
    if (other.getPersonId() == null) {
      row.setToDoId(tellOffice(act, row, from, to));
    }
    events.store(act, StoresEvent.HANDOVER_ASKED, row);
    return row.getId();
  }

  /** Whose yes it waits for. */
  private static StockPlaceRecord otherSide(
      Act act, @Nullable Long own, StockPlaceRecord from, StockPlaceRecord to) {
    if (own != null) {
      return own.equals(from.getId()) ? to : from;
    }
    Optional<StockPlaceRecord> van =
        Stream.of(to, from)
            .filter(place -> place.getPersonId() != null && place.getPersonId() != act.personId())
            .findFirst();
    return van.orElse(to);
  }

  private long tellOffice(Act act, HandoverRecord row, StockPlaceRecord from, StockPlaceRecord to) {
    String part =
        database
            .select(PART.NAME)
            .from(PART)
            .where(PART.ID.eq(row.getPartId()))
            .fetchSingle(PART.NAME);
    String what =
        "%s %s from %s to %s: yes or no?"
            .formatted(Decimal.text(row.getQuantity()), part, from.getName(), to.getName());
    return toDos.insertForOffice(
        act, act.personId(), new ToDoForm(0, what, null, null, null, null, null));
  }

  private @Nullable StockPlaceRecord readPlace(
      Reading reading, String field, @Nullable Long typed, @Nullable Long own) {
    Long id = typed == null ? own : typed;
    StockPlaceRecord place =
        id == null
            ? null
            : database.selectFrom(STOCK_PLACE).where(STOCK_PLACE.ID.eq(id)).fetchOne();
    if (place == null) {
      reading.fault(field, Rule.MISSING, "Choose a van or the store.");
    }
    return place;
  }

  /** Says yes: the parts are moved. */
  public void agree(Act act, long id, int version) {
    HandoverRecord row = lockToAnswer(act, id, version);
    stock.transfer(
        act, row.getPartId(), row.getFromPlaceId(), row.getToPlaceId(), row.getQuantity());
    close(act, row, HandoverState.AGREED, StoresEvent.HANDOVER_AGREED, "Yes");
  }

  /** Says no: the parts are where they were. */
  public void refuse(Act act, long id, int version) {
    close(
        act,
        lockToAnswer(act, id, version),
        HandoverState.REFUSED,
        StoresEvent.HANDOVER_REFUSED,
        "No");
  }

  /** Takes back what one asked for. */
  public void withdraw(Act act, long id, int version) {
    HandoverRecord row = lock(id, version);
    boolean asker = row.getAskedBy() == act.personId();
    if (!asker && act.role() == Role.TECHNICIAN) {
      throw notThere();
    }
    close(
        act,
        row,
        HandoverState.WITHDRAWN,
        StoresEvent.HANDOVER_WITHDRAWN,
        "Not asked for any more");
  }

  /** How many wait for somebody's yes. */
  public int countAsked(long personId) {
    return database.fetchCount(
        HANDOVER,
        HANDOVER.STATE.eq(HandoverState.WAITING).and(HANDOVER.ANSWER_PERSON_ID.eq(personId)));
  }

  private void close(
      Act act, HandoverRecord row, HandoverState state, StoresEvent event, String outcome) {
    row.setState(state);
    row.setAnsweredAt(act.at());
    row.setAnsweredBy(act.personId());
    events.store(act, event, row);
    if (row.getToDoId() != null) {
      toDos.settle(act, row.getToDoId(), outcome);
    }
  }

  private HandoverRecord lockToAnswer(Act act, long id, int version) {
    HandoverRecord row = lock(id, version);
    Long answerer = row.getAnswerPersonId();
    boolean may = answerer == null ? act.role() != Role.TECHNICIAN : answerer == act.personId();
    if (!may) {
      throw notThere();
    }
    return row;
  }

  private HandoverRecord lock(long id, int version) {
    HandoverRecord row =
        database.selectFrom(HANDOVER).where(HANDOVER.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw notThere();
    }
    if (row.getState() != HandoverState.WAITING) {
      throw new Refused(
          Rule.HANDOVER_ANSWERED, "This was answered or withdrawn already. Reload the page.");
    }
    Versions.require(version, row.getVersion());
    return row;
  }

  private static Refused notThere() {
    return new Refused(Rule.NOT_FOUND, "Nothing like that waits for your answer. Reload the page.");
  }
}
