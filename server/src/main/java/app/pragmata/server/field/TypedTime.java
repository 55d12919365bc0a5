package app.pragmata.server.field;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.server.jobs.WrittenTime;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Reads time that somebody writes down or puts right. */
final class TypedTime {
  private static final int LONGEST_TEXT = 300;

  private TypedTime() {}

  /**
   * Reads a form whose times are those of a day; refused, all faults together, when anything in it
   * is wrong.
   */
  static WrittenTime read(
      Act act,
      CheckService.TimeForm form,
      TimeEntry.Kind kind,
      LocalDate day,
      WorkingCalendar hours) {
    var reading = new Reading();
    Instant from = reading.required("from", form.from(), typed -> moment(act, day, typed));
    Instant to = reading.required("to", form.to(), typed -> moment(act, day, typed));
    BigDecimal miles =
        kind == TimeEntry.Kind.DRIVE
            ? reading.optional("miles", form.miles(), Reading::miles)
            : null;
    String description = reading.optionalText("description", form.description(), LONGEST_TEXT);
    String reason = reading.text("reason", form.reason(), LONGEST_TEXT);
    Instant start = from == null ? act.at() : from;
    Instant end = to == null ? start : to;
    TimeEntry.check(start, end, act.at(), reading);
    reading.refuseIfFaulty();
    return new WrittenTime(
        spans(start, end, form.rateClass(), hours),
        miles == null ? BigDecimal.ZERO : miles,
        description,
        Objects.requireNonNull(reason));
  }

  /** Time as one of its rate class, or cut where the working hours change for null. */
  static List<WorkingCalendar.Span> spans(
      Instant from, Instant to, @Nullable RateClass rateClass, WorkingCalendar hours) {
    return rateClass == null && from.isBefore(to)
        ? hours.split(from, to)
        : List.of(
            new WorkingCalendar.Span(rateClass == null ? hours.at(from) : rateClass, from, to));
  }

  /** A time of a day, or of the next with "+1" behind it. */
  static Instant moment(Act act, LocalDate day, String typed) {
    return Day.momentOf(Day.parseTimeOf(day, typed), act.zone());
  }
}
