package app.pragmata.core.company;

import app.pragmata.core.Coded;

/**
 * How an hour is paid. What it costs a job and is charged at goes by the clock alone, by its {@link
 * RateClass}: that somebody had worked long that week is no fault of the job that they then did.
 */
public enum PayClass implements Coded {
  NORMAL,
  /** Outside the working hours, or past what is normal for a day or a week. */
  OVERTIME,
  NIGHT,
  WEEKEND,
  HOLIDAY
}
