package app.pragmata.server.planning;

import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.planning.Stretch;
import app.pragmata.server.company.CompanyStore;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** When somebody works by their pattern, or else by the company's hours. */
@Component
public class PersonHours {
  private final PlannerStore planner;
  private final CompanyStore companies;

  PersonHours(PlannerStore planner, CompanyStore companies) {
    this.planner = planner;
    this.companies = companies;
  }

  /** How many minutes of work somebody's pattern has on a day. */
  public interface OfDays {
    int minutes(long personId, LocalDate day);
  }

  /** Everybody's on days up to the last, read at once. */
  public OfDays until(LocalDate last) {
    WorkingCalendar calendar = companies.getCompany().calendar();
    Map<Long, List<PlannerStore.Pattern>> patterns = planner.patterns(last);
    return (personId, day) ->
        PlannerStore.working(patterns.getOrDefault(personId, List.of()), calendar, day).stream()
            .mapToInt(stretch -> stretch.to() - stretch.from())
            .sum();
  }

  /** When their hours of a day end; null on a day without any. */
  public @Nullable Instant endOf(long personId, LocalDate day) {
    WorkingCalendar calendar = companies.getCompany().calendar();
    List<Stretch> working =
        PlannerStore.working(
            planner.patterns(day).getOrDefault(personId, List.of()), calendar, day);
    return working.isEmpty()
        ? null
        : day.atStartOfDay()
            .plusMinutes(working.getLast().to())
            .atZone(calendar.zone())
            .toInstant();
  }
}
