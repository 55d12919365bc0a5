package app.pragmata.core.planning;

import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Those who come to a visit together.
 *
 * @param days of each of them, all the same day; whoever is responsible first
 */
public record Crew(List<PersonDay> days) {
  /** What is so of the visit, whoever of them it is asked of. */
  private static final Set<Clash> OF_ALL =
      EnumSet.of(Clash.SKILL_MISSING, Clash.TOO_EARLY, Clash.AFTER_RESPOND_BY);

  public Crew {
    days = List.copyOf(days);
    if (days.isEmpty()) {
      throw new IllegalArgumentException("Somebody comes to a visit");
    }
  }

  /** All that speaks against a visit at a time, with whose day it is that it speaks of. */
  public Map<Clash, Set<Long>> clashes(Wanted wanted, Stretch at, Ways ways) {
    var clashes = new EnumMap<Clash, Set<Long>>(Clash.class);
    // What one of them knows need not be known by the others.
    boolean skilled = skillIds().containsAll(wanted.skillIds());
    long responsible = days.getFirst().personId();
    for (PersonDay day : days) {
      for (Clash clash : day.clashes(wanted, at, ways)) {
        boolean ofAll = OF_ALL.contains(clash);
        clashes
            .computeIfAbsent(clash, any -> new TreeSet<>())
            .add(ofAll ? responsible : day.personId());
      }
    }
    if (skilled) {
      clashes.remove(Clash.SKILL_MISSING);
    }
    return clashes;
  }

  private Set<Long> skillIds() {
    var skillIds = new HashSet<Long>();
    days.forEach(day -> skillIds.addAll(day.skillIds()));
    return skillIds;
  }

  /**
   * Of these, what matters once the day has passed: where somebody was, not when they should be.
   */
  public static Set<Clash> ofThePast(Set<Clash> clashes) {
    var left = EnumSet.noneOf(Clash.class);
    left.addAll(clashes);
    left.retainAll(EnumSet.of(Clash.OVERLAP));
    return left;
  }
}
