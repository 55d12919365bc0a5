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
 * @param members on the same day; whoever is responsible first
 */
public record Crew(List<Member> members) {
  /**
   * One of them.
   *
   * @param day all that they have on it
   * @param at when they are there: all the time, or for some hours of it
   */
  public record Member(PersonDay day, Stretch at) {}

  /** What is so of the visit, whoever of them it is asked of. */
  private static final Set<Clash> OF_ALL =
      EnumSet.of(
          Clash.SITE_CLOSED,
          Clash.SKILL_MISSING,
          Clash.TOO_EARLY,
          Clash.AFTER_RESPOND_BY,
          Clash.WINDOW_BROKEN);

  public Crew {
    members = List.copyOf(members);
    if (members.isEmpty()) {
      throw new IllegalArgumentException("Somebody comes to a visit");
    }
  }

  /** These people, all there for all of the time. */
  public static Crew of(List<PersonDay> days, Stretch at) {
    return new Crew(days.stream().map(day -> new Member(day, at)).toList());
  }

  /** All that speaks against the visit, with whose day it is that it speaks of. */
  public Map<Clash, Set<Long>> clashes(Wanted wanted, Ways ways) {
    var clashes = new EnumMap<Clash, Set<Long>>(Clash.class);
    // What one of them knows need not be known by the others.
    boolean skilled = skillIds().containsAll(wanted.skillIds());
    long responsible = members.getFirst().day().personId();
    for (Member member : members) {
      long person = member.day().personId();
      for (Clash clash : member.day().clashes(wanted, member.at(), ways)) {
        if (person == responsible || !OF_ALL.contains(clash)) {
          clashes.computeIfAbsent(clash, any -> new TreeSet<>()).add(person);
        }
      }
    }
    if (skilled) {
      clashes.remove(Clash.SKILL_MISSING);
    } else {
      clashes.put(Clash.SKILL_MISSING, Set.of(responsible));
    }
    if (members.size() < wanted.crewSize()) {
      clashes.put(Clash.CREW_TOO_SMALL, Set.of(responsible));
    }
    return clashes;
  }

  private Set<Long> skillIds() {
    var skillIds = new HashSet<Long>();
    members.forEach(member -> skillIds.addAll(member.day().skillIds()));
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
