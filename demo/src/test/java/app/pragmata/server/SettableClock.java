package app.pragmata.server;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;

/** The clock of a test: it stands still until somebody sets it. */
public final class SettableClock extends Clock {
  private volatile Instant now;

  public SettableClock(Instant now) {
    this.now = now;
  }

  /** A moment by Ostmere's clocks, such as "2026-11-24T15:00". */
  public static Instant moment(String local) {
    return LocalDateTime.parse(local).atZone(ZoneId.of("Europe/London")).toInstant();
  }

  /** Sets a moment by Ostmere's clocks, such as "2026-11-24T15:00". */
  public void set(String local) {
    now = moment(local);
  }

  /** Nine in the morning of the day so many days from now, by Ostmere's clocks. */
  public void later(int days) {
    LocalDateTime local = LocalDateTime.ofInstant(now, ZoneId.of("Europe/London"));
    set(local.toLocalDate().plusDays(days) + "T09:00");
  }

  public void advance(Duration duration) {
    now = now.plus(duration);
  }

  @Override
  public Instant instant() {
    return now;
  }

  @Override
  public ZoneId getZone() {
    return ZoneOffset.UTC;
  }

  @Override
  public Clock withZone(ZoneId zone) {
    return this;
  }
}
