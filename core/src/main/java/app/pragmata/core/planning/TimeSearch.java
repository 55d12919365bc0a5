package app.pragmata.core.planning;

import app.pragmata.core.planning.PersonDay.Stop;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.BinaryOperator;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Looks for the best times for a visit: what was promised is kept where it can be; then an hour of
 * waiting counts as much as two more minutes of driving, and a day as a quarter of an hour more.
 *
 * @param earliest before which nothing begins, by the company's clock
 * @param within the part of a day that suits the customer
 * @param personId who must be among those who come; null for anybody
 */
public record TimeSearch(
    Ways ways, LocalDateTime earliest, Stretch within, @Nullable Long personId) {
  /** For anybody. */
  public TimeSearch(Ways ways, LocalDateTime earliest, Stretch within) {
    this(ways, earliest, within, null);
  }

  /** Nobody promises 10:03. */
  private static final int STEP = 5;

  // In tenths of a minute of driving.
  private static final int MINUTE_OF_DRIVING = 10;
  private static final int DAY_OF_WAITING = 150;
  private static final int MINUTES_OF_WAITING = 3;

  /**
   * A time that is free for the visit and the drives around it.
   *
   * @param personId who is responsible
   * @param companionIds who comes along; empty for nobody
   * @param afterVisitId the stop before it of whoever is responsible; null for from the base
   * @param drive to it from there
   * @param addedMinutes by how much those who come drive longer that day; less than nothing when
   *     the visit lies on a better way
   * @param lateMinutes by how much it is later than was promised
   */
  public record Found(
      long personId,
      List<Long> companionIds,
      LocalDate day,
      Stretch at,
      @Nullable Long afterVisitId,
      Way drive,
      int addedMinutes,
      int lateMinutes) {
    public Found {
      companionIds = List.copyOf(companionIds);
    }

    /** The days with the visit at this time, on those of everybody who comes and on no other. */
    public List<PersonDay> taken(Wanted wanted, List<PersonDay> days) {
      long visitId = wanted.visitId() == null ? 0 : wanted.visitId();
      var stop = new Stop(visitId, wanted.place(), at);
      return days.stream()
          .map(each -> each.without(wanted.visitId()))
          .map(each -> each.day().equals(day) && comes(each.personId()) ? each.with(stop) : each)
          .toList();
    }

    private boolean comes(long id) {
      return id == personId || companionIds.contains(id);
    }
  }

  /**
   * A gap in somebody's day that is long enough for the visit.
   *
   * @param from the first minute at which it may begin
   * @param to the last one
   */
  private record Gap(
      PersonDay day, int from, int to, @Nullable Long afterVisitId, Way drive, int addedMinutes) {
    boolean isOf(long personId) {
      return day.personId() == personId;
    }

    boolean holds(int start) {
      return from <= start && start <= to;
    }

    /** What of these skills they know. */
    Set<Long> knows(Set<Long> skillIds) {
      return skillIds.stream().filter(day.skillIds()::contains).collect(Collectors.toSet());
    }
  }

  /**
   * The best times of these days, the best first, at most one of each; of a visit for several, at
   * most one of each day and crew. Those who go know together what it needs.
   */
  public List<Found> best(Wanted wanted, List<PersonDay> days, int most) {
    Stream<List<Found>> found =
        wanted.crewSize() == 1
            ? days.stream().map(day -> ofOne(wanted, day))
            : days.stream().collect(Collectors.groupingBy(PersonDay::day)).values().stream()
                .map(together -> ofCrew(wanted, together));
    return found.flatMap(List::stream).sorted(order()).limit(most).toList();
  }

  /** The best time at which somebody comes as the customer was told; none where nobody can. */
  List<Found> keeping(Promised promised, Wanted wanted, List<PersonDay> days) {
    List<PersonDay> then = days.stream().filter(day -> day.day().equals(promised.day())).toList();
    long minutes = Duration.between(promised.earliest(), promised.latest()).toMinutes();
    int from = Stretch.minuteOf(promised.window().from());
    int begins = Math.max(from, within.from());
    int ends = Math.min(from + Math.toIntExact(minutes) + wanted.minutes(), within.to());
    return begins >= ends
        ? List.of()
        : new TimeSearch(ways, earliest, new Stretch(begins, ends), personId).best(wanted, then, 1);
  }

  private List<Found> ofOne(Wanted wanted, PersonDay day) {
    if (!isWanted(day.personId()) || !day.skillIds().containsAll(wanted.skillIds())) {
      return List.of();
    }
    return gaps(wanted, day).stream()
        .map(gap -> found(wanted, List.of(gap), gap.from()))
        .min(order())
        .stream()
        .toList();
  }

  /** A crew can begin when the last of them can, so the times to be tried are those of each. */
  private List<Found> ofCrew(Wanted wanted, List<PersonDay> together) {
    List<Gap> gaps = together.stream().flatMap(day -> gaps(wanted, day).stream()).toList();
    var best = new HashMap<Set<Long>, Found>();
    gaps.stream()
        .map(Gap::from)
        .distinct()
        .forEach(
            start -> {
              List<Gap> free = free(gaps, start);
              List<Gap> crew = crewWithWhoeverIsWanted(free, wanted);
              if (crew != null) {
                Set<Long> ids =
                    crew.stream().map(gap -> gap.day().personId()).collect(Collectors.toSet());
                best.merge(ids, found(wanted, crew, start), BinaryOperator.minBy(order()));
              }
            });
    return List.copyOf(best.values());
  }

  private boolean isWanted(long id) {
    return personId == null || personId == id;
  }

  private @Nullable List<Gap> crewWithWhoeverIsWanted(List<Gap> free, Wanted wanted) {
    if (personId == null) {
      return crew(free, wanted.skillIds(), wanted.crewSize());
    }
    return free.stream()
        .filter(gap -> gap.isOf(personId))
        .findFirst()
        .map(gap -> crewWith(gap, free, wanted.skillIds(), wanted.crewSize()))
        .orElse(null);
  }

  /** The same with this person among them. */
  private static @Nullable List<Gap> crewWith(
      Gap gap, List<Gap> free, Set<Long> missing, int size) {
    Set<Long> knows = gap.knows(missing);
    List<Gap> rest =
        crew(
            free.stream().filter(other -> !other.isOf(gap.day().personId())).toList(),
            missing.stream().filter(id -> !knows.contains(id)).collect(Collectors.toSet()),
            size - 1);
    return rest == null ? null : Stream.concat(Stream.of(gap), rest.stream()).toList();
  }

  /** Of everybody who can begin then the way that costs least, the cheapest first. */
  private static List<Gap> free(List<Gap> gaps, int start) {
    var cheapest = new LinkedHashMap<Long, Gap>();
    for (Gap gap : gaps) {
      if (gap.holds(start)) {
        cheapest.merge(gap.day().personId(), gap, BinaryOperator.minBy(CHEAPEST));
      }
    }
    return cheapest.values().stream().sorted(CHEAPEST).toList();
  }

  private static final Comparator<Gap> CHEAPEST =
      Comparator.comparingInt(Gap::addedMinutes).thenComparing(gap -> gap.day().personId());

  /**
   * So many of those who are free that know all of this together and drive least; null for none. Of
   * those who know the same of it only the cheapest is tried, for the others are no better.
   *
   * @param free the cheapest first
   */
  private static @Nullable List<Gap> crew(List<Gap> free, Set<Long> missing, int size) {
    if (free.size() < size || (size == 0 && !missing.isEmpty())) {
      return null;
    }
    if (missing.isEmpty()) {
      return free.subList(0, size);
    }
    long skill = Collections.min(missing);
    var tried = new HashSet<Set<Long>>();
    List<Gap> best = null;
    for (Gap gap : free) {
      Set<Long> knows = gap.knows(missing);
      if (!knows.contains(skill) || !tried.add(knows)) {
        continue;
      }
      List<Gap> with = crewWith(gap, free, missing, size);
      if (with != null && (best == null || added(with) < added(best))) {
        best = with;
      }
    }
    return best;
  }

  private static int added(List<Gap> crew) {
    return crew.stream().mapToInt(Gap::addedMinutes).sum();
  }

  /** Whoever knows most of what is needed is responsible. */
  private Found found(Wanted wanted, List<Gap> crew, int start) {
    Gap first =
        crew.stream()
            .min(
                Comparator.comparingInt((Gap gap) -> -gap.knows(wanted.skillIds()).size())
                    .thenComparing(CHEAPEST))
            .orElseThrow();
    var at = new Stretch(start, start + wanted.minutes());
    LocalDate day = first.day().day();
    return new Found(
        first.day().personId(),
        crew.stream()
            .map(gap -> gap.day().personId())
            .filter(id -> id != first.day().personId())
            .sorted()
            .toList(),
        day,
        at,
        first.afterVisitId(),
        first.drive(),
        added(crew),
        late(wanted, day.atTime(at.start())));
  }

  private Comparator<Found> order() {
    return Comparator.comparingInt(Found::lateMinutes)
        .thenComparingInt(this::cost)
        .thenComparing(Found::day)
        .thenComparingInt(found -> found.at().from())
        .thenComparingLong(Found::personId);
  }

  private int cost(Found found) {
    int days = Math.toIntExact(ChronoUnit.DAYS.between(earliest.toLocalDate(), found.day()));
    return MINUTE_OF_DRIVING * found.addedMinutes()
        + DAY_OF_WAITING * days
        + found.at().from() / MINUTES_OF_WAITING;
  }

  private List<Gap> gaps(Wanted wanted, PersonDay whole) {
    PersonDay day = whole.without(wanted.visitId());
    boolean never =
        day.day().isBefore(earliest.toLocalDate())
            || !day.covers(wanted)
            || (wanted.notBefore() != null && wanted.notBefore().toLocalDate().isAfter(day.day()));
    if (never) {
      return List.of();
    }
    int first =
        day.day().equals(earliest.toLocalDate()) ? Stretch.minuteOf(earliest.toLocalTime()) : 0;
    var gaps = new ArrayList<Gap>();
    for (int i = 0; i <= day.stops().size(); i++) {
      Stop before = i == 0 ? null : day.stops().get(i - 1);
      Stop after = i == day.stops().size() ? null : day.stops().get(i);
      for (Stretch free : day.open()) {
        Stretch allowed = wanted.openIn(free);
        if (allowed != null) {
          between(wanted, day, before, after, allowed, first).ifPresent(gaps::add);
        }
      }
    }
    return gaps;
  }

  private Optional<Gap> between(
      Wanted wanted,
      PersonDay day,
      @Nullable Stop before,
      @Nullable Stop after,
      Stretch free,
      int first) {
    Place from = before == null ? day.base() : before.place();
    Place to = after == null ? day.base() : after.place();
    Way there = PersonDay.way(ways, from, wanted.place());
    Way onward = PersonDay.way(ways, wanted.place(), to);
    int begins = Math.max(Math.max(free.from(), within.from()), first);
    if (before != null) {
      begins = Math.max(begins, before.at().to() + there.minutes());
    } else if (first > 0) {
      begins = Math.max(begins, first + there.minutes());
    }
    if (wanted.notBefore() != null && wanted.notBefore().toLocalDate().equals(day.day())) {
      begins = Math.max(begins, Stretch.minuteOf(wanted.notBefore().toLocalTime()));
    }
    begins = (begins + STEP - 1) / STEP * STEP;
    int ends = Math.min(free.to(), within.to());
    if (after != null) {
      ends = Math.min(ends, after.at().from() - onward.minutes());
    }
    int latest = ends - wanted.minutes();
    int instead = PersonDay.way(ways, from, to).minutes();
    return begins > latest
        ? Optional.empty()
        : Optional.of(
            new Gap(
                day,
                begins,
                latest,
                before == null ? null : before.visitId(),
                there,
                there.minutes() + onward.minutes() - instead));
  }

  private static int late(Wanted wanted, LocalDateTime start) {
    return wanted.respondBy() == null
        ? 0
        : (int) Math.max(0, Duration.between(wanted.respondBy(), start).toMinutes());
  }
}
