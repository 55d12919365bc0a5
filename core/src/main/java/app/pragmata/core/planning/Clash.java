package app.pragmata.core.planning;

import app.pragmata.core.Coded;
import app.pragmata.core.Fault;
import app.pragmata.core.Rule;
import java.util.List;

/** Why a visit should not be at a time; the planner may know better. */
public enum Clash implements Coded {
  /** Somebody is to be at two places. */
  OVERLAP(Rule.OVERLAP, "is to be at another visit at this time"),
  /** They are on holiday, ill or being trained. */
  ABSENT(Rule.ABSENT, "is away at this time"),
  /** The time is held for another customer. */
  HELD(Rule.HELD, "has this time held for another customer"),
  /** What the visit waits for is not there yet. */
  TOO_EARLY(Rule.TOO_EARLY, "would be there before what the visit waits for"),
  /** They do not work at that time. */
  OUTSIDE_HOURS(Rule.OUTSIDE_HOURS, "does not work at this time"),
  /** Nobody can get in at that time. */
  SITE_CLOSED(Rule.SITE_CLOSED, "would be there while the site is closed"),
  /** They lack what the job needs, or it has run out. */
  SKILL_MISSING(
      Rule.SKILL_MISSING, "lacks a skill that the job needs, or its certificate has run out"),
  /** They do not go to that part of the country. */
  OUT_OF_AREA(Rule.OUT_OF_AREA, "does not go to this postcode district"),
  /** The job needs more people than come. */
  CREW_TOO_SMALL(Rule.CREW_TOO_SMALL, "would come with fewer people than the job needs"),
  /** They cannot be there in time, or not in time at the next stop. */
  DRIVE_DOES_NOT_FIT(
      Rule.DRIVE_DOES_NOT_FIT, "has no time to drive there, or from there to the next stop"),
  /** Somebody was promised earlier. */
  AFTER_RESPOND_BY(Rule.AFTER_RESPOND_BY, "would be there later than the customer was promised"),
  /** The customer was told another time. */
  WINDOW_BROKEN(Rule.WINDOW_BROKEN, "would not come when the customer was told");

  private final Rule rule;
  private final String says;

  Clash(Rule rule, String says) {
    this.rule = rule;
    this.says = says;
  }

  /**
   * The refusal of a plan for this reason.
   *
   * @param who has it against the time; at least one name
   */
  public Fault fault(List<String> who) {
    return new Fault(
        "overruled",
        rule,
        "%s %s. Choose another time, or plan it there all the same."
            .formatted(String.join(" and ", who), says));
  }
}
