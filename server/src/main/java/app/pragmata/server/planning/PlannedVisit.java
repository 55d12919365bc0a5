package app.pragmata.server.planning;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.Clash;
import app.pragmata.core.planning.Crew;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.Place;
import app.pragmata.core.planning.Promised;
import app.pragmata.core.planning.Stretch;
import app.pragmata.core.planning.Wanted;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.function.LongFunction;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A visit as the planner shows it.
 *
 * @param phone the customer's; may be empty
 * @param district the postcode district of its site; empty where nobody knows
 * @param siteOpen the hours of any day at which somebody can get in; null for all
 * @param technicianId who is responsible; null while it waits
 * @param day null while it waits for one
 * @param overruled what spoke against its time when it was planned
 * @param finished by the company's clock; null until then
 * @param notBefore before which what it waits for is not there; null for nothing
 * @param awaitedPart the part that it waits for; empty for none
 * @param partArrived whether that part is there
 * @param respondBy by the company's clock; null where nobody was promised
 * @param promised when the customer was told that somebody comes; null where they were not
 * @param located null where nobody knows where the site is
 * @param crewSize how many people its job needs
 */
record PlannedVisit(
    long id,
    int version,
    long jobId,
    long jobNumber,
    String title,
    long customerId,
    String customer,
    String phone,
    String site,
    String area,
    String district,
    @Nullable Stretch siteOpen,
    String kindOfJob,
    VisitState.Code state,
    @Nullable Long technicianId,
    List<Companion> companions,
    @Nullable LocalDate day,
    @Nullable LocalTime start,
    int expectedMinutes,
    Set<Clash> overruled,
    @Nullable LocalDateTime finished,
    @Nullable LocalDateTime notBefore,
    String awaitedPart,
    boolean partArrived,
    @Nullable LocalDateTime respondBy,
    @Nullable Promised promised,
    RoadMap.@Nullable Located located,
    Set<Long> skillIds,
    int crewSize) {

  /**
   * Who comes along.
   *
   * @param startsAfter how many minutes after the visit they come; null for all of it
   * @param minutes for how long; null for all of it
   */
  record Companion(long personId, @Nullable Integer startsAfter, @Nullable Integer minutes) {
    /** When they are there, of a visit at this time. */
    Stretch of(Stretch at) {
      return startsAfter == null || minutes == null
          ? at
          : new Stretch(at.from() + startsAfter, at.from() + startsAfter + minutes);
    }
  }

  @Nullable Place place() {
    return located == null ? null : located.place();
  }

  /** When it is; what was done sooner than expected ends when it was done. */
  Stretch at() {
    LocalTime from = Objects.requireNonNull(start);
    boolean soonDone =
        finished != null
            && finished.toLocalDate().equals(day)
            && finished.isAfter(day.atTime(from))
            && finished.isBefore(day.atTime(from).plusMinutes(expectedMinutes));
    return soonDone
        ? Stretch.between(from, finished.toLocalTime())
        : Stretch.of(from, expectedMinutes);
  }

  boolean isOf(long personId) {
    return crewIds().contains(personId);
  }

  List<Long> companionIds() {
    return companions.stream().map(Companion::personId).toList();
  }

  /** Who comes, whoever is responsible first; only of a visit that has its time. */
  List<Long> crewIds() {
    if (companions.isEmpty()) {
      return List.of(Objects.requireNonNull(technicianId));
    }
    return Stream.concat(Stream.of(Objects.requireNonNull(technicianId)), companionIds().stream())
        .toList();
  }

  /** How many come when it is planned anew: as many as it needs, or as come to it now. */
  int people() {
    return Math.max(crewSize, 1 + companions.size());
  }

  /** It on the day of one of those who come. */
  PersonDay.Stop stop(long personId) {
    return new PersonDay.Stop(id, place(), of(personId, at()));
  }

  /** When this person is there, of the visit at this time. */
  Stretch of(long personId, Stretch at) {
    if (companions.isEmpty()) {
      return at;
    }
    return companions.stream()
        .filter(companion -> companion.personId() == personId)
        .map(companion -> companion.of(at))
        .findFirst()
        .orElse(at);
  }

  /** These people with the visit at this time; whoever came for some hours does again. */
  Crew crew(List<Long> crewIds, Stretch at, LongFunction<PersonDay> days) {
    return new Crew(
        crewIds.stream()
            .map(person -> new Crew.Member(days.apply(person), of(person, at)))
            .toList());
  }

  Wanted wanted(int minutes) {
    return new Wanted(
        id, place(), district, siteOpen, minutes, skillIds, crewSize, notBefore, respondBy,
        promised);
  }
}
