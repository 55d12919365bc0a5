package app.pragmata.server.field;

import app.pragmata.core.Reading;
import app.pragmata.core.field.Tap;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How a step is reported.
 *
 * @param miles of a drive that ends, by whoever drove; may be empty
 * @param endedAt when the clock was stopped too late, as a time of the day on which it was started
 * @param lineId of work that starts: on which line of the promise; null for on none
 * @param crewIds for whom else the tap counts; empty and null for nobody
 * @param tappedAt when it was tapped, by the phone; null is now
 * @param sentAt when the phone sent it, so that its clock need not be right
 * @param position where the phone was; null where it does not say
 */
public record StepForm(
    @Nullable String miles,
    @Nullable String endedAt,
    @Nullable Long lineId,
    @Nullable List<Long> crewIds,
    @Nullable Instant tappedAt,
    @Nullable Instant sentAt,
    @Nullable PositionForm position) {
  /** A step with nothing to say, tapped now. */
  public static final StepForm PLAIN = driven(null);

  /** The end of a drive, tapped now. */
  public static StepForm driven(@Nullable String miles) {
    return new StepForm(miles, null, null, null, null, null, null);
  }

  Instant moment(Act act) {
    return Tap.moment(tappedAt, sentAt, act.at());
  }

  BigDecimal readMiles() {
    var reading = new Reading();
    BigDecimal read = reading.optional("miles", miles, Reading::miles);
    reading.refuseIfFaulty();
    return read == null ? BigDecimal.ZERO : read;
  }
}
