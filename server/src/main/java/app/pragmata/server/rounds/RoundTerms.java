package app.pragmata.server.rounds;

import static app.pragmata.server.generated.Tables.AGREEMENT;
import static app.pragmata.server.generated.Tables.ROUND;
import static java.util.stream.Collectors.toMap;

import app.pragmata.core.rounds.Repeat;
import app.pragmata.core.rounds.Round;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads on which days rounds are due by what was agreed. */
@Repository
class RoundTerms {
  /**
   * A round by its agreement.
   *
   * @param round as it is due, until it or its agreement ends
   * @param enteredOn when it was written down: what was due before is nobody's to do
   */
  record Terms(long roundId, Round round, LocalDate enteredOn) {
    /** On which days between two, which both count, it is due; in order. */
    List<LocalDate> dueBetween(LocalDate from, LocalDate until) {
      return round.dueBetween(from.isBefore(enteredOn) ? enteredOn : from, until);
    }

    /** The next day after this one on which it is due; null for none. */
    @Nullable LocalDate nextAfter(LocalDate day) {
      return round.nextAfter(day.isBefore(enteredOn) ? enteredOn.minusDays(1) : day);
    }
  }

  private final DSLContext database;

  RoundTerms(DSLContext database) {
    this.database = database;
  }

  /** All rounds of agreements that run on any of these days. */
  Map<Long, Terms> runningBetween(LocalDate from, LocalDate until) {
    return fetch(
        ROUND
            .FROM_DAY
            .le(until)
            .and(ROUND.UNTIL_DAY.isNull().or(ROUND.UNTIL_DAY.ge(from)))
            .and(AGREEMENT.UNTIL_DAY.isNull().or(AGREEMENT.UNTIL_DAY.ge(from))));
  }

  /** These rounds. */
  Map<Long, Terms> get(Collection<Long> roundIds) {
    return fetch(ROUND.ID.in(roundIds));
  }

  private Map<Long, Terms> fetch(Condition which) {
    return database
        .select(
            ROUND.ID,
            ROUND.REPEATS,
            ROUND.FROM_DAY,
            DSL.least(ROUND.UNTIL_DAY, AGREEMENT.UNTIL_DAY),
            ROUND.ENTERED_ON)
        .from(ROUND)
        .join(AGREEMENT)
        .on(AGREEMENT.ID.eq(ROUND.AGREEMENT_ID))
        .where(which)
        .orderBy(ROUND.ID)
        .fetch(
            row ->
                new Terms(
                    row.value1(),
                    new Round(Repeat.parse(row.value2()), row.value3(), row.value4()),
                    row.value5()))
        .stream()
        .collect(toMap(Terms::roundId, terms -> terms));
  }
}
