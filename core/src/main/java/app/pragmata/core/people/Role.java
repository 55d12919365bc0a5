package app.pragmata.core.people;

import app.pragmata.core.Coded;

/** What a person is here, and so what they may see and do. */
public enum Role implements Coded {
  OFFICE,
  TECHNICIAN,
  BOOKKEEPER,
  OWNER,
  /** Whoever acts through a customer's link, without signing in. */
  CUSTOMER,
  /** The program, for what it does of itself. */
  PROGRAM
}
