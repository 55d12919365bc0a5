package app.pragmata.core.planning;

import java.time.LocalDateTime;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A visit for which a time is looked for.
 *
 * @param visitId its own; null while there is none yet
 * @param place where it is; null where nobody knows, which costs no driving
 * @param district the postcode district that it lies in; empty where nobody knows, which anybody
 *     covers
 * @param siteOpen the hours of any day at which somebody can get in; null for all
 * @param minutes how long it is expected to take
 * @param skillIds what those who go must know, each at least one of them
 * @param crewSize how many go, at least one
 * @param notBefore what it waits for is there by then, such as a part or the end of another visit;
 *     null for nothing
 * @param respondBy until when somebody was promised on site, by the company's clock; null for no
 *     promise
 * @param promised when the customer was told that somebody comes; null where they were not
 */
public record Wanted(
    @Nullable Long visitId,
    @Nullable Place place,
    String district,
    @Nullable Stretch siteOpen,
    int minutes,
    Set<Long> skillIds,
    int crewSize,
    @Nullable LocalDateTime notBefore,
    @Nullable LocalDateTime respondBy,
    @Nullable Promised promised) {
  public Wanted {
    skillIds = Set.copyOf(skillIds);
    if (minutes < 1) {
      throw new IllegalArgumentException("A visit takes some time");
    }
    if (crewSize < 1) {
      throw new IllegalArgumentException("Somebody comes to a visit");
    }
  }

  /** A visit of one person in no district of which the customer was told nothing yet. */
  public Wanted(
      @Nullable Long visitId,
      @Nullable Place place,
      int minutes,
      Set<Long> skillIds,
      @Nullable LocalDateTime notBefore,
      @Nullable LocalDateTime respondBy) {
    this(visitId, place, "", null, minutes, skillIds, 1, notBefore, respondBy, null);
  }

  /** The same for so many people. */
  public Wanted forCrewOf(int people) {
    return new Wanted(
        visitId, place, district, siteOpen, minutes, skillIds, people, notBefore, respondBy,
        promised);
  }

  /** The same, not before a moment; what it waits for besides still counts. */
  public Wanted from(LocalDateTime moment) {
    LocalDateTime later = notBefore != null && notBefore.isAfter(moment) ? notBefore : moment;
    return new Wanted(
        visitId, place, district, siteOpen, minutes, skillIds, crewSize, later, respondBy,
        promised);
  }

  /** The part of a stretch at which somebody can get in; null for none. */
  @Nullable Stretch openIn(Stretch stretch) {
    return siteOpen == null ? stretch : stretch.within(siteOpen);
  }
}
