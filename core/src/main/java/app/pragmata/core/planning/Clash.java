package app.pragmata.core.planning;

import app.pragmata.core.Coded;

/** Why a visit should not be at a time; the planner may know better. */
public enum Clash implements Coded {
  /** Somebody is to be at two places. */
  OVERLAP,
  /** They are on holiday, ill or being trained. */
  ABSENT,
  /** They do not work at that time. */
  OUTSIDE_HOURS,
  /** They lack what the job needs, or it has run out. */
  SKILL_MISSING,
  /** They cannot be there in time, or not in time at the next stop. */
  DRIVE_DOES_NOT_FIT,
  /** Somebody was promised earlier. */
  AFTER_RESPOND_BY
}
