package app.pragmata.core.claims;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;

/** How far a claim on a manufacturer's warranty is. */
public enum ClaimState implements Coded {
  /** It is written down and not sent yet. */
  OPEN,
  /** The manufacturer has it. */
  SENT,
  /** They credited it; it is in the books. */
  CREDITED,
  /** They did not; it may be sent again. */
  REFUSED;

  /**
   * The next state: one that was refused may be sent again, and one may be credited or refused that
   * nobody noted as sent. Refused of one that is credited.
   */
  public ClaimState become(ClaimState next) {
    boolean mayBecome =
        switch (next) {
          case OPEN -> false;
          case SENT -> this == OPEN || this == REFUSED;
          case CREDITED, REFUSED -> this == OPEN || this == SENT;
        };
    if (!mayBecome) {
      throw new Refused(
          Rule.CLAIM_MOVED_ON, "This claim is %s already. Reload the page.".formatted(code()));
    }
    return next;
  }

  /** Whether an answer of the manufacturer is waited for, or is still to be asked for. */
  public boolean isOpen() {
    return this == OPEN || this == SENT;
  }
}
