package app.pragmata.server.finding;

import app.pragmata.core.Coded;

/**
 * Where a document of a customer stands: a quote's state, that of a job's work, or an invoice's.
 */
enum DocumentState implements Coded {
  DRAFT,
  SENT,
  ACCEPTED,
  DECLINED,
  OPEN,
  WORKED,
  CHECKED,
  CALLED_OFF,
  SETTLED
}
