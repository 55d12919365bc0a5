package app.pragmata.server.checkdesk;

import static app.pragmata.server.generated.Tables.COST_CENTRE;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.checkdesk.WorkedVisit.Odd;
import app.pragmata.core.planning.Districts;
import app.pragmata.server.http.AskedSpan;
import app.pragmata.server.records.Act;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
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
   * @param plainCostMinor what those cost: time at the rates in force when it was worked, and parts
   * @param costCentres of all jobs, to choose from
   */
  record CheckDesk(
      LocalDate from,
      LocalDate to,
      List<VisitToCheck> visits,
      int plain,
      int plainLabourMinutes,
      long plainCostMinor,
      List<CostCentreChoice> costCentres) {}

  /** A cost centre by its code. */
  record CostCentreChoice(String code, String name) {}

  /**
   * A finished visit.
   *
   * @param labourMinutes by whoever worked on it
   * @param parts how many lines of parts were used
   * @param costMinor its time at the rates in force when it was worked, and its parts
   * @param odd what is looked at before it is checked; empty for nothing
   */
  record VisitToCheck(
      long visitId,
      int version,
      LocalDate day,
      @Nullable LocalTime start,
      @Nullable Long technicianId,
      String technician,
      long jobId,
      long jobNumber,
      long customerId,
      String customer,
      String title,
      int labourMinutes,
      int driveMinutes,
      int parts,
      long costMinor,
      List<Odd> odd) {}

  private static final int DAYS = 14;
  private static final int MOST_DAYS = 366;
  private static final int LONGEST_COST_CENTRE = 40;

  private final FinishedVisits visits;
  private final DSLContext database;

  CheckDeskApi(FinishedVisits visits, DSLContext database) {
    this.visits = visits;
    this.database = database;
  }

  /**
   * What is finished and not checked.
   *
   * @param from a day as people type it; two weeks before the last one when it is left out
   * @param to today when it is left out
   * @param technicianId who is responsible for the visits; null for everybody
   * @param kindOfJobId of their jobs; null for every kind
   * @param district in which their sites are, such as OS5; empty for everywhere
   * @param costCentre of their jobs; empty for every one
   */
  @GetMapping("/api/check-desk")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public CheckDesk getCheckDesk(
      Act act,
      @RequestParam(defaultValue = "") String from,
      @RequestParam(defaultValue = "") String to,
      @RequestParam(required = false) @Nullable Long technicianId,
      @RequestParam(required = false) @Nullable Long kindOfJobId,
      @RequestParam(defaultValue = "") String district,
      @RequestParam(defaultValue = "") String costCentre) {
    AskedSpan days = AskedSpan.read(act, from, to, last -> last.minusDays(DAYS), MOST_DAYS);
    var reading = new Reading();
    Set<String> districts = reading.optional("district", district, Districts::parse);
    if (districts != null && districts.size() > 1) {
      reading.fault("district", Rule.EXCEEDS_LIMIT, "Name one postcode district, such as OS5.");
    }
    String centre = reading.optionalText("costCentre", costCentre, LONGEST_COST_CENTRE);
    reading.refuseIfFaulty();
    List<VisitToCheck> list =
        visits.list(
            new FinishedVisits.Asked(
                days,
                technicianId,
                kindOfJobId,
                districts == null ? "" : districts.iterator().next(),
                centre));
    List<VisitToCheck> plain = list.stream().filter(visit -> visit.odd().isEmpty()).toList();
    return new CheckDesk(
        days.first(),
        days.last(),
        list,
        plain.size(),
        plain.stream().mapToInt(VisitToCheck::labourMinutes).sum(),
        plain.stream().mapToLong(VisitToCheck::costMinor).sum(),
        database
            .select(COST_CENTRE.CODE, COST_CENTRE.NAME)
            .from(COST_CENTRE)
            .orderBy(COST_CENTRE.NAME)
            .fetch(Records.mapping(CostCentreChoice::new)));
  }
}
