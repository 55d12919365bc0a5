package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.PHONE_UNSENT;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.generated.tables.records.PhoneUnsentRecord;
import app.pragmata.server.records.Act;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Which visits a phone has more of than we do, as it has said itself. */
@Service
@Transactional
public class PhonesBehind {
  /** How much of a visit is still on a phone: taps and photos. */
  public record Unsent(long visitId, int things) {}

  private static final int MOST_VISITS = 100;
  private static final int MOST_THINGS = 10_000;

  private final DSLContext database;

  PhonesBehind(DSLContext database) {
    this.database = database;
  }

  /** Keeps what somebody's phone says now, instead of what it said before; nothing for all sent. */
  public void note(Act act, @Nullable List<@Nullable Unsent> said) {
    var reading = new Reading();
    if (said == null || said.stream().anyMatch(Objects::isNull)) {
      reading.fault("visits", Rule.MISSING, "Say of which visits there is something to send.");
    } else if (said.size() > MOST_VISITS) {
      reading.fault("visits", Rule.EXCEEDS_LIMIT, "Name at most 100 visits.");
    } else if (said.stream().anyMatch(each -> each.things() < 1 || each.things() > MOST_THINGS)) {
      reading.fault("visits", Rule.EXCEEDS_LIMIT, "Between 1 and 10,000 things are to be sent.");
    }
    reading.refuseIfFaulty();
    Map<Long, Integer> things =
        Objects.requireNonNull(said).stream()
            .collect(Collectors.toMap(Unsent::visitId, Unsent::things, Integer::max));
    database.deleteFrom(PHONE_UNSENT).where(PHONE_UNSENT.PERSON_ID.eq(act.personId())).execute();
    var rows = new ArrayList<PhoneUnsentRecord>();
    for (long visitId : known(things.keySet())) {
      var row = database.newRecord(PHONE_UNSENT);
      row.setPersonId(act.personId());
      row.setVisitId(visitId);
      row.setThings(Objects.requireNonNull(things.get(visitId)).shortValue());
      rows.add(row);
    }
    if (!rows.isEmpty()) {
      // Another page of the same phone may say so in the same moment.
      database
          .insertInto(PHONE_UNSENT)
          .set(rows)
          .onConflict(PHONE_UNSENT.PERSON_ID, PHONE_UNSENT.VISIT_ID)
          .doUpdate()
          .setAllToExcluded()
          .execute();
    }
  }

  private Set<Long> known(Set<Long> visitIds) {
    return database.select(VISIT.ID).from(VISIT).where(VISIT.ID.in(visitIds)).fetchSet(VISIT.ID);
  }

  /** How many things of these visits are still on phones; those of which none are left out. */
  @Transactional(readOnly = true)
  public Map<Long, Integer> unsent(Collection<Long> visitIds) {
    return database
        .select(PHONE_UNSENT.VISIT_ID, sum(PHONE_UNSENT.THINGS).cast(Integer.class))
        .from(PHONE_UNSENT)
        .where(PHONE_UNSENT.VISIT_ID.in(visitIds))
        .groupBy(PHONE_UNSENT.VISIT_ID)
        .fetchMap(row -> row.value1(), row -> row.value2());
  }
}
