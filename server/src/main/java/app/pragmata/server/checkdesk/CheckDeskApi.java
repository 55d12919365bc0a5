package app.pragmata.server.checkdesk;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.checkdesk.WorkedVisit.Odd;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Finished visits that the office has not checked, over HTTP. */
@RestController
class CheckDeskApi {
  /**
   * Finished visits of some days.
   *
   * @param visits the first 500, by day, technician and time
   * @param plain how many of these have nothing odd about them
   * @param plainLabourMinutes worked on those
   */
  record CheckDesk(
      LocalDate from, LocalDate to, List<VisitToCheck> visits, int plain, int plainLabourMinutes) {}

  /**
   * A finished visit.
   *
   * @param labourMinutes by whoever worked on it
   * @param parts how many lines of parts were used
   * @param odd what is looked at before it is checked; empty for nothing
   */
  record VisitToCheck(
      long visitId,
      int version,
      LocalDate day,
      @Nullable Long technicianId,
      String technician,
      long jobId,
      long jobNumber,
      String customer,
      String title,
      int labourMinutes,
      int driveMinutes,
      int parts,
      List<Odd> odd) {}

  private static final int DAYS = 14;

  private final FinishedVisits visits;

  CheckDeskApi(FinishedVisits visits) {
    this.visits = visits;
  }

  /**
   * What is finished and not checked.
   *
   * @param from a day as people type it; two weeks before the last one when it is left out
   * @param to today when it is left out
   * @param technicianId who is responsible for the visits; null for everybody
   */
  @GetMapping("/api/check-desk")
  CheckDesk getCheckDesk(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(required = false) @Nullable Long technicianId) {
    var reading = new Reading();
    LocalDate first = reading.optional("from", from, day -> Day.parsePast(day, act.today()));
    LocalDate last = reading.optional("to", to, day -> Day.parsePast(day, act.today()));
    LocalDate end = Objects.requireNonNullElse(last, act.today());
    LocalDate start = Objects.requireNonNullElse(first, end.minusDays(DAYS));
    if (start.isAfter(end)) {
      reading.fault(
          "to", Rule.ENDS_BEFORE_START, "The last day is before the first. Change one of them.");
    }
    reading.refuseIfFaulty();
    List<VisitToCheck> list = visits.list(start, end, technicianId);
    List<VisitToCheck> plain = list.stream().filter(visit -> visit.odd().isEmpty()).toList();
    return new CheckDesk(
        start, end, list, plain.size(), plain.stream().mapToInt(VisitToCheck::labourMinutes).sum());
  }
}
