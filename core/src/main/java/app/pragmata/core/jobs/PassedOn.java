package app.pragmata.core.jobs;

import app.pragmata.core.Coded;

/** What the customer pays of a supplier's bill, where the job is charged by time and parts. */
public enum PassedOn implements Coded {
  /** Its net amount and the company's markup on such bills. */
  WITH_MARKUP,
  /** Its net amount. */
  AT_COST,
  /** Nothing: it is ours to bear. */
  NOT_CHARGED
}
