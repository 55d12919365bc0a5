package app.pragmata.server.records;

/** Told inside the transaction when a quote or a job is not what it was. */
public record RecordChanged(Kind kind, long id) {
  /** What changed. */
  public enum Kind {
    QUOTE,
    JOB
  }
}
