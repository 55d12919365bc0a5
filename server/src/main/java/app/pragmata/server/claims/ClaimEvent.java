package app.pragmata.server.claims;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to a claim on a manufacturer's warranty. */
public enum ClaimEvent implements Event {
  CLAIM_MADE,
  CLAIM_SENT,
  CLAIM_CREDITED,
  CLAIM_REFUSED;

  @Override
  public RecordKind kind() {
    return RecordKind.WARRANTY_CLAIM;
  }
}
