package app.pragmata.server.records;

import app.pragmata.core.Coded;

/** What can happen to records of one kind; each capability lists its own. */
public interface Event extends Coded {
  /** What it happens to. */
  RecordKind kind();
}
