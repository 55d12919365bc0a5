package app.pragmata.server.finding;

import app.pragmata.core.Coded;

/** What has a number that people say and write. */
public enum DocumentKind implements Coded {
  QUOTE,
  JOB,
  INVOICE
}
