package app.pragmata.core.people;

import java.util.Locale;

/** What a person is here, and so what they may see and do. */
public enum Role {
  OFFICE,
  TECHNICIAN,
  BOOKKEEPER,
  OWNER,
  /** Whoever acts through a customer's link, without signing in. */
  CUSTOMER,
  /** The program, for what it does of itself. */
  PROGRAM;

  public static Role ofStored(String stored) {
    return valueOf(stored.toUpperCase(Locale.ROOT));
  }

  public String stored() {
    return name().toLowerCase(Locale.ROOT);
  }
}
