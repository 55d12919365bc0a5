package app.pragmata.server.http;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.util.Objects;
import java.util.function.UnaryOperator;

/**
 * Days with a beginning and an end for which something is asked, both inclusive.
 *
 * @param first never after the last
 */
public record AskedSpan(LocalDate first, LocalDate last) {
  /**
   * As they stand in the address. The last is today when it is empty; what is no day, the wrong way
   * round or too long is refused.
   *
   * @param usualFirst the first day, by the last one, when it is empty
   * @param mostDays it may have
   */
  public static AskedSpan read(
      Act act, String from, String to, UnaryOperator<LocalDate> usualFirst, int mostDays) {
    AskedDays asked = AskedDays.read(act, from, to);
    LocalDate last = Objects.requireNonNullElse(asked.last(), act.today());
    LocalDate first = Objects.requireNonNullElseGet(asked.first(), () -> usualFirst.apply(last));
    var reading = new Reading();
    if (first.isAfter(last)) {
      reading.fault(
          "to", Rule.ENDS_BEFORE_START, "The last day is before the first. Change one of them.");
    } else if (!first.plusDays(mostDays).isAfter(last)) {
      reading.fault(
          "from", Rule.EXCEEDS_LIMIT, "Ask for at most %d days at once.".formatted(mostDays));
    }
    reading.refuseIfFaulty();
    return new AskedSpan(first, last);
  }

  /** Whether the day is one of them. */
  public boolean includes(LocalDate day) {
    return !day.isBefore(first) && !day.isAfter(last);
  }
}
