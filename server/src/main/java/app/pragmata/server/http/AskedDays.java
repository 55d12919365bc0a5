package app.pragmata.server.http;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;

/**
 * Days for which a list is asked, both inclusive; null is left open.
 *
 * @param first not before this day
 * @param last not after this day
 */
public record AskedDays(@Nullable LocalDate first, @Nullable LocalDate last) {
  /** As they stand in the address; empty is left open, and what is no day is refused. */
  public static AskedDays read(Act act, String from, String to) {
    var reading = new Reading();
    LocalDate first = reading.optional("from", from, typed -> Day.parsePast(typed, act.today()));
    LocalDate last = reading.optional("to", to, typed -> Day.parsePast(typed, act.today()));
    reading.refuseIfFaulty();
    return new AskedDays(first, last);
  }

  /** Whether no day is left out. */
  public boolean areAll() {
    return first == null && last == null;
  }

  /** Whether a day is one of them. */
  public Condition contain(Field<LocalDate> day) {
    Condition condition = first == null ? DSL.noCondition() : day.ge(first);
    return last == null ? condition : condition.and(day.le(last));
  }
}
