package app.pragmata.core.planning;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;

/** When a customer was told that somebody comes. */
public record Promised(LocalDate day, ArrivalWindow window) {
  /** What is told of a visit that begins then. */
  public static Promised of(LocalDate day, LocalTime start) {
    return new Promised(day, ArrivalWindow.of(start));
  }

  /** Whether somebody who begins then comes as was told; the window's last minute still does. */
  public boolean isKeptBy(LocalDateTime start) {
    return !start.isBefore(earliest()) && !start.isAfter(latest());
  }

  LocalDateTime earliest() {
    return day.atTime(window.from());
  }

  /** A window that reaches over midnight ends on the next day. */
  LocalDateTime latest() {
    LocalDateTime end = day.atTime(window.to());
    return window.to().isBefore(window.from()) ? end.plusDays(1) : end;
  }
}
