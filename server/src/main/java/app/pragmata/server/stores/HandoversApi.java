package app.pragmata.server.stores;

import static app.pragmata.server.generated.Tables.HANDOVER;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.STOCK_LEVEL;
import static app.pragmata.server.generated.Tables.STOCK_PLACE;

import app.pragmata.core.people.Role;
import app.pragmata.core.stores.HandoverState;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import app.pragmata.server.stores.Handovers.HandoverForm;
import java.math.BigDecimal;
import java.time.LocalDateTime;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Parts that go from one place to another, for the office and on a technician's phone. */
@RestController
class HandoversApi {
  /**
   * Parts on their way, until the other side has said yes or no.
   *
   * @param waitsFor whose yes it waits for; null for the office
   * @param yours whether one's own yes is what it waits for
   * @param askedByYou whether one may take it back
   */
  record Handover(
      long id,
      int version,
      String part,
      BigDecimal quantity,
      String unit,
      String from,
      String to,
      String askedBy,
      LocalDateTime askedAt,
      @Nullable String waitsFor,
      boolean yours,
      boolean askedByYou) {}

  /** Another place that parts may go to or come from. */
  record OtherPlace(long id, String name) {}

  /** A technician's own van. */
  record Van(String name, List<PartInVan> parts, List<OtherPlace> others, List<Handover> waiting) {}

  /** What a van holds of a part; below zero where more was taken than it held. */
  record PartInVan(long id, String number, String name, String unit, BigDecimal quantity) {}

  private final DSLContext database;
  private final Handovers handovers;
  private final StockStore stock;

  HandoversApi(DSLContext database, Handovers handovers, StockStore stock) {
    this.database = database;
    this.handovers = handovers;
    this.stock = stock;
  }

  /** All that wait for somebody's answer, the oldest first. */
  @GetMapping("/api/handovers")
  List<Handover> listHandovers(Act act) {
    return waiting(act, DSL.noCondition());
  }

  @PostMapping("/api/handovers")
  @Transactional
  public List<Handover> askForHandover(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody HandoverForm form) {
    handovers.ask(act, key, form);
    return listHandovers(act);
  }

  @PostMapping("/api/handovers/{id}/agree")
  @Transactional
  public List<Handover> agreeToHandover(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    handovers.agree(act, id, at.version());
    return listHandovers(act);
  }

  @PostMapping("/api/handovers/{id}/refuse")
  @Transactional
  public List<Handover> refuseHandover(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    handovers.refuse(act, id, at.version());
    return listHandovers(act);
  }

  @PostMapping("/api/handovers/{id}/withdraw")
  @Transactional
  public List<Handover> withdrawHandover(
      Act act, @PathVariable long id, @RequestBody AtVersion at) {
    handovers.withdraw(act, id, at.version());
    return listHandovers(act);
  }

  /** What one's own van holds, and what waits for an answer of or for it. */
  @GetMapping("/api/pocket/van")
  Van getVan(Act act) {
    long van = stock.getPlaceOf(act.personId());
    return new Van(
        database
            .select(STOCK_PLACE.NAME)
            .from(STOCK_PLACE)
            .where(STOCK_PLACE.ID.eq(van))
            .fetchSingle(STOCK_PLACE.NAME),
        database
            .select(PART.ID, PART.NUMBER, PART.NAME, PART.UNIT, STOCK_LEVEL.QUANTITY)
            .from(STOCK_LEVEL)
            .join(PART)
            .on(PART.ID.eq(STOCK_LEVEL.PART_ID))
            .where(STOCK_LEVEL.PLACE_ID.eq(van))
            .and(STOCK_LEVEL.QUANTITY.ne(BigDecimal.ZERO))
            .orderBy(STOCK_LEVEL.QUANTITY.lt(BigDecimal.ZERO).desc(), PART.NAME.asc())
            .fetch(
                row ->
                    new PartInVan(
                        row.value1(),
                        row.value2(),
                        row.value3(),
                        row.value4(),
                        row.value5().stripTrailingZeros())),
        database
            .select(STOCK_PLACE.ID, STOCK_PLACE.NAME)
            .from(STOCK_PLACE)
            .leftJoin(PERSON)
            .on(PERSON.ID.eq(STOCK_PLACE.PERSON_ID))
            .where(STOCK_PLACE.ID.ne(van))
            .and(STOCK_PLACE.PERSON_ID.isNull().or(PERSON.ACTIVE))
            .orderBy(STOCK_PLACE.PERSON_ID.isNotNull(), STOCK_PLACE.NAME)
            .fetch(row -> new OtherPlace(row.value1(), row.value2())),
        waiting(
            act,
            HANDOVER.ASKED_BY.eq(act.personId()).or(HANDOVER.ANSWER_PERSON_ID.eq(act.personId()))));
  }

  /** Gives parts out of one's own van, or takes them into it, once the other side says yes. */
  @PostMapping("/api/pocket/handovers")
  @Transactional
  public Van handPartsOver(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody HandoverForm form) {
    handovers.ask(act, key, form);
    return getVan(act);
  }

  @PostMapping("/api/pocket/handovers/{id}/agree")
  @Transactional
  public Van agreeToHandingOver(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    handovers.agree(act, id, at.version());
    return getVan(act);
  }

  @PostMapping("/api/pocket/handovers/{id}/refuse")
  @Transactional
  public Van refuseHandingOver(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    handovers.refuse(act, id, at.version());
    return getVan(act);
  }

  @PostMapping("/api/pocket/handovers/{id}/withdraw")
  @Transactional
  public Van withdrawHandingOver(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    handovers.withdraw(act, id, at.version());
    return getVan(act);
  }

  private List<Handover> waiting(Act act, Condition which) {
    var from = STOCK_PLACE.as("from_place");
    var to = STOCK_PLACE.as("to_place");
    var asker = PERSON.as("asker");
    var answerer = PERSON.as("answerer");
    return database
        .select(HANDOVER.fields())
        .select(PART.NAME, PART.UNIT, from.NAME, to.NAME, asker.NAME, answerer.NAME)
        .from(HANDOVER)
        .join(PART)
        .on(PART.ID.eq(HANDOVER.PART_ID))
        .join(from)
        .on(from.ID.eq(HANDOVER.FROM_PLACE_ID))
        .join(to)
        .on(to.ID.eq(HANDOVER.TO_PLACE_ID))
        .join(asker)
        .on(asker.ID.eq(HANDOVER.ASKED_BY))
        .leftJoin(answerer)
        .on(answerer.ID.eq(HANDOVER.ANSWER_PERSON_ID))
        .where(HANDOVER.STATE.eq(HandoverState.WAITING))
        .and(which)
        .orderBy(HANDOVER.ID)
        .fetch(
            found -> {
              var row = found.into(HANDOVER);
              boolean technician = act.role() == Role.TECHNICIAN;
              Long answers = row.getAnswerPersonId();
              return new Handover(
                  row.getId(),
                  row.getVersion(),
                  found.get(PART.NAME),
                  row.getQuantity().stripTrailingZeros(),
                  found.get(PART.UNIT),
                  found.get(from.NAME),
                  found.get(to.NAME),
                  found.get(asker.NAME),
                  LocalDateTime.ofInstant(row.getAskedAt(), act.zone()),
                  found.get(answerer.NAME),
                  answers == null ? !technician : answers == act.personId(),
                  row.getAskedBy() == act.personId() || !technician);
            });
  }
}
