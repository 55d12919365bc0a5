package app.pragmata.core.planning;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.jobs.VisitLength;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.HashSet;
import java.util.List;

/**
 * Who goes on which day, at what time, for how long.
 *
 * @param technicianId who is responsible
 * @param companionIds who comes along; empty for nobody
 */
public record VisitPlan(
    long technicianId,
    List<Long> companionIds,
    LocalDate day,
    LocalTime start,
    int expectedMinutes) {
  public VisitPlan {
    companionIds = List.copyOf(companionIds);
  }

  private static final int MOST_SKILLS = 6;

  private static final int MOST_PEOPLE = 10;

  /** Notes every rule that those who come along break. */
  public static void checkCompanions(long technicianId, List<Long> companionIds, Reading reading) {
    if (companionIds.contains(technicianId)) {
      reading.fault(
          "companionIds",
          Rule.REPEATED,
          "Whoever is responsible comes anyway. Choose who comes along.");
    }
    if (new HashSet<>(companionIds).size() < companionIds.size()) {
      reading.fault("companionIds", Rule.REPEATED, "Choose each who comes along once.");
    }
    if (companionIds.size() >= MOST_PEOPLE) {
      reading.fault(
          "companionIds", Rule.EXCEEDS_LIMIT, "At most nine people come along to a visit.");
    }
  }

  /** Notes when nobody or a crowd goes to a job. */
  public static void checkCrewSize(int crewSize, Reading reading) {
    if (crewSize < 1 || crewSize > MOST_PEOPLE) {
      reading.fault(
          "crewSize", Rule.EXCEEDS_LIMIT, "Between one and ten people go to a job together.");
    }
  }

  /**
   * Notes when more is asked for than a crew is searched for: the ways in which people can know
   * several things together grow with the Bell numbers.
   */
  public static void checkSkills(String field, int count, Reading reading) {
    if (count > MOST_SKILLS) {
      reading.fault(
          field,
          Rule.EXCEEDS_LIMIT,
          "At most six skills are asked for together. Take those that matter.");
    }
  }

  /** Notes when nobody plans so far ahead, or so long ago. */
  public static void checkDay(String field, LocalDate day, LocalDate today, Reading reading) {
    Day.checkNotLongAgo(field, day, today, reading);
    if (day.isAfter(today.plusYears(2))) {
      reading.fault(field, Rule.TOO_LARGE, "This day is more than two years away. Check it.");
    }
  }

  /** Notes every rule that the plan breaks; work of a day that has passed may be written down. */
  public static void check(LocalDate day, int expectedMinutes, LocalDate today, Reading reading) {
    checkDay("day", day, today, reading);
    try {
      VisitLength.check(expectedMinutes);
    } catch (Unreadable other) {
      reading.fault("expected", other.rule(), other.getMessage());
    }
  }
}
