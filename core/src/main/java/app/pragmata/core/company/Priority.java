package app.pragmata.core.company;

import java.util.Locale;

/** How pressing a job is, the most pressing first. */
public enum Priority {
  EMERGENCY,
  URGENT,
  NORMAL,
  LOW;

  /** As it is stored and sent. */
  public String label() {
    return name().toLowerCase(Locale.ROOT);
  }
}
