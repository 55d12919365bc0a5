package app.pragmata.core.checkdesk;

import app.pragmata.core.Coded;

/** Why a finished visit is looked at before its work is said to be correct. */
public enum Oddity implements Coded {
  /** A clock of it still runs, or its end was set by the next one. */
  NO_END,
  /** Nobody worked on it by any clock. */
  NO_LABOUR,
  /** Somebody worked on it and nobody drove to it. */
  NO_DRIVE,
  /** The job has taken more than twice the labour that it was promised for. */
  LONG_LABOUR,
  /** Time of it was put right or written down by hand. */
  CORRECTED_CLOCK,
  /** A clock of it was started or stopped away from the site. */
  AWAY_FROM_SITE,
  /** A part of it is charged at nothing, or came out of stock at no cost. */
  FREE_PART,
  /** The job has taken more of a part than was promised. */
  MORE_PARTS,
  /** Where one of its parts was taken from, less than nothing is left. */
  BELOW_ZERO,
  /** One of its parts is on no price list and has no price yet. */
  UNPRICED_PART,
  /** The job still waits for a part. */
  PART_WANTED,
  /** A reading or an answer is out of its limits. */
  OUT_OF_LIMITS
}
