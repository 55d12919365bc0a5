package app.pragmata.core.planning;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What one person has on one day.
 *
 * @param base where the day begins and ends; null for at the first stop and at the last
 * @param working when they work as a rule; the work itself lies in it, the drive from and to the
 *     base need not
 * @param away when they do not, all the same
 * @param held when they are kept free for a customer who is still choosing
 * @param skillIds what they know and may do on that day
 * @param districts the postcode districts to which they go; empty for everywhere
 * @param stops where they are to be, the earliest first
 */
public record PersonDay(
    long personId,
    LocalDate day,
    @Nullable Place base,
    List<Stretch> working,
    List<Stretch> away,
    List<Stretch> held,
    Set<Long> skillIds,
    Set<String> districts,
    List<Stop> stops) {
  /**
   * Somewhere to be at a time.
   *
   * @param place where; null where nobody knows, which costs no driving
   */
  public record Stop(long visitId, @Nullable Place place, Stretch at) {}

  /**
   * A drive of the day, as late as it may begin; to the base it begins at once.
   *
   * @param fromVisitId null for from the base
   * @param toVisitId null for to the base
   * @param lateMinutes by how much it does not fit between the two stops
   */
  public record Leg(
      @Nullable Long fromVisitId, @Nullable Long toVisitId, Way way, int from, int lateMinutes) {}

  public PersonDay {
    working = List.copyOf(working);
    away = List.copyOf(away);
    held = List.copyOf(held);
    skillIds = Set.copyOf(skillIds);
    districts = Set.copyOf(districts);
    stops = stops.stream().sorted(Comparator.comparingInt(stop -> stop.at().from())).toList();
  }

  /** The day of somebody who goes everywhere. */
  public PersonDay(
      long personId,
      LocalDate day,
      @Nullable Place base,
      List<Stretch> working,
      List<Stretch> away,
      List<Stretch> held,
      Set<Long> skillIds,
      List<Stop> stops) {
    this(personId, day, base, working, away, held, skillIds, Set.of(), stops);
  }

  /** Whether they go to where a visit is. */
  public boolean covers(Wanted wanted) {
    return districts.isEmpty()
        || wanted.district().isEmpty()
        || districts.contains(wanted.district());
  }

  /** The drives of the day in order; none for a day without stops. */
  public List<Leg> legs(Ways ways) {
    var legs = new ArrayList<Leg>();
    Stop before = null;
    for (Stop stop : stops) {
      Way way = way(ways, before == null ? base : before.place(), stop.place());
      int begins = stop.at().from() - way.minutes();
      int late = before == null ? 0 : Math.max(0, before.at().to() - begins);
      legs.add(
          new Leg(before == null ? null : before.visitId(), stop.visitId(), way, begins, late));
      before = stop;
    }
    if (before != null) {
      Way home = way(ways, before.place(), base);
      legs.add(new Leg(before.visitId(), null, home, before.at().to(), 0));
    }
    return legs.stream().filter(leg -> leg.way().metres() > 0).toList();
  }

  static Way way(Ways ways, @Nullable Place from, @Nullable Place to) {
    return from == null || to == null ? Way.NONE : ways.between(from, to);
  }

  /** The same day without one visit. */
  public PersonDay without(@Nullable Long visitId) {
    return at(stops.stream().filter(stop -> visitId == null || stop.visitId() != visitId).toList());
  }

  /** The same day with one visit more. */
  public PersonDay with(Stop stop) {
    return at(Stream.concat(stops.stream(), Stream.of(stop)).toList());
  }

  private PersonDay at(List<Stop> otherStops) {
    return new PersonDay(personId, day, base, working, away, held, skillIds, districts, otherStops);
  }

  /** When they may be given a visit: at work, not called away, and not held for somebody. */
  public List<Stretch> open() {
    return atWork().stream().flatMap(stretch -> stretch.without(held).stream()).toList();
  }

  /** When they are at work and nobody called them away. */
  public List<Stretch> atWork() {
    return working.stream().flatMap(stretch -> stretch.without(away).stream()).toList();
  }

  /**
   * All that speaks against a visit at a time of this day; the visit itself does not. How many come
   * is for {@link Crew} to say.
   */
  public Set<Clash> clashes(Wanted wanted, Stretch at, Ways ways) {
    var clashes = EnumSet.noneOf(Clash.class);
    beside(wanted, at, ways).ifPresent(clashes::add);
    if (away.stream().anyMatch(stretch -> stretch.overlaps(at))) {
      clashes.add(Clash.ABSENT);
    }
    if (held.stream().anyMatch(stretch -> stretch.overlaps(at))) {
      clashes.add(Clash.HELD);
    }
    if (working.stream().noneMatch(stretch -> stretch.holds(at))) {
      clashes.add(Clash.OUTSIDE_HOURS);
    }
    if (!skillIds.containsAll(wanted.skillIds())) {
      clashes.add(Clash.SKILL_MISSING);
    }
    if (!covers(wanted)) {
      clashes.add(Clash.OUT_OF_AREA);
    }
    if (wanted.siteOpen() != null && !wanted.siteOpen().holds(at)) {
      clashes.add(Clash.SITE_CLOSED);
    }
    if (wanted.promised() != null && !wanted.promised().isKeptBy(day.atTime(at.start()))) {
      clashes.add(Clash.WINDOW_BROKEN);
    }
    if (wanted.notBefore() != null && day.atTime(at.start()).isBefore(wanted.notBefore())) {
      clashes.add(Clash.TOO_EARLY);
    }
    if (wanted.respondBy() != null && day.atTime(at.start()).isAfter(wanted.respondBy())) {
      clashes.add(Clash.AFTER_RESPOND_BY);
    }
    return clashes;
  }

  /** Whether the other stops leave it no room, or no time for the drives; empty where they do. */
  private Optional<Clash> beside(Wanted wanted, Stretch at, Ways ways) {
    Stop before = null;
    Stop after = null;
    for (Stop stop : stops) {
      if (wanted.visitId() != null && stop.visitId() == wanted.visitId()) {
        continue;
      }
      if (stop.at().overlaps(at)) {
        return Optional.of(Clash.OVERLAP);
      }
      if (stop.at().to() <= at.from()) {
        before = stop;
      } else if (after == null) {
        after = stop;
      }
    }
    boolean comesLate =
        before != null
            && before.at().to() + way(ways, before.place(), wanted.place()).minutes() > at.from();
    boolean leavesLate =
        after != null
            && at.to() + way(ways, wanted.place(), after.place()).minutes() > after.at().from();
    return comesLate || leavesLate ? Optional.of(Clash.DRIVE_DOES_NOT_FIT) : Optional.empty();
  }
}
