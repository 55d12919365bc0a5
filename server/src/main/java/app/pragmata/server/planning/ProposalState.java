package app.pragmata.server.planning;

import app.pragmata.core.Coded;

/** Where a plan that is searched for stands. */
public enum ProposalState implements Coded {
  SEARCHING,
  /** The search is over, by itself or because somebody stopped it. */
  FOUND,
  /** It came to nothing by a fault of the program. */
  FAILED
}
