package app.pragmata.server.worklists;

import app.pragmata.core.Coded;

/** What a row of a worklist is. */
public enum WorkKind implements Coded {
  QUOTE,
  JOB,
  INVOICE,
  RECEIPT
}
