package app.pragmata.core.partswanted;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;

/** How far a part is that a job waits for. */
public enum PartWantedState implements Coded {
  WANTED,
  ORDERED,
  ARRIVED,
  FITTED,
  NO_LONGER_WANTED;

  /** Whether the job waits for it. */
  public boolean isOpen() {
    return this != FITTED && this != NO_LONGER_WANTED;
  }

  /**
   * The next state, which may leave some out: a part that lay in the store is never ordered. What
   * is ordered may be ordered anew, elsewhere or for another day. Refused where the part is past
   * it.
   */
  public PartWantedState become(PartWantedState next) {
    boolean mayBecome =
        switch (next) {
          case WANTED -> false;
          case ORDERED, ARRIVED -> this == WANTED || this == ORDERED;
          case FITTED, NO_LONGER_WANTED -> isOpen();
        };
    if (!mayBecome) {
      throw new Refused(
          Rule.PART_MOVED_ON, "This part is %s. Take that back first.".formatted(words()));
    }
    return next;
  }

  /**
   * The state before the last step; refused of a part that is only wanted.
   *
   * @param wasOrdered whether it ever was
   * @param hadArrived whether it ever had
   */
  public PartWantedState before(boolean wasOrdered, boolean hadArrived) {
    if (this == WANTED) {
      throw new Refused(Rule.PART_MOVED_ON, "Nothing was done about this part yet.");
    }
    PartWantedState earlier = wasOrdered && this != ORDERED ? ORDERED : WANTED;
    return !isOpen() && hadArrived ? ARRIVED : earlier;
  }

  private String words() {
    return this == ARRIVED ? "there" : code().replace("_", " ");
  }
}
