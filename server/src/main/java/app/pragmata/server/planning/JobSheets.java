package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.CONTACT;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.server.people.PeopleStore.Colleague;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Records;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/**
 * Reads what stands on paper: each technician's round of a day, and a sheet for each of its stops.
 */
@Repository
class JobSheets {
  /**
   * Which visits are printed.
   *
   * @param technicianIds none means everybody's
   * @param kindsOfJob by their names; none means all
   * @param areas none means all
   * @param onlyPlanned leaves out what has begun or is over
   */
  record Filter(
      LocalDate from,
      LocalDate to,
      Set<Long> technicianIds,
      Set<String> kindsOfJob,
      Set<String> areas,
      boolean onlyPlanned) {
    private boolean takes(PlannedVisit visit) {
      return (kindsOfJob.isEmpty() || kindsOfJob.contains(visit.kindOfJob()))
          && (areas.isEmpty() || areas.contains(visit.area()))
          && (!onlyPlanned || visit.state() == VisitState.Code.PLANNED);
    }

    private boolean takes(long technicianId) {
      return technicianIds.isEmpty() || technicianIds.contains(technicianId);
    }
  }

  /** A technician's day on paper. */
  record Round(String technician, LocalDate day, List<Stop> stops) {}

  /**
   * A stop of a round.
   *
   * @param driveMinutes to it from the stop before or the base
   * @param crew who else comes
   */
  record Stop(PlannedVisit visit, int driveMinutes, List<String> crew) {}

  /** What is to be done, as it was promised. */
  record Line(
      String description,
      @Nullable Integer minutes,
      @Nullable BigDecimal quantity,
      BigDecimal unitPrice) {}

  /** All that a sheet says beside the plan. */
  record Sheet(
      String address,
      String postcode,
      String accessNotes,
      @Nullable LocalTime opens,
      @Nullable LocalTime closes,
      @Nullable String contact,
      String notes,
      @Nullable String model,
      @Nullable String serialNumber,
      @Nullable LocalDate fittedOn,
      @Nullable LocalDate labourWarrantyUntil,
      List<Line> lines,
      List<EarlierVisit> earlier) {}

  private static final Field<List<Line>> LINES =
      multiset(
              select(
                      PROMISED_LINE.DESCRIPTION,
                      PROMISED_LINE.MINUTES,
                      PROMISED_LINE.QUANTITY,
                      PROMISED_LINE.UNIT_PRICE.cast(BigDecimal.class))
                  .from(PROMISED_LINE)
                  .join(ACCEPTED_QUOTE)
                  .on(ACCEPTED_QUOTE.QUOTE_ID.eq(PROMISED_LINE.QUOTE_ID))
                  .where(ACCEPTED_QUOTE.JOB_ID.eq(JOB.ID))
                  .orderBy(PROMISED_LINE.QUOTE_ID, PROMISED_LINE.POSITION))
          .as("lines")
          .convertFrom(rows -> rows.map(Records.mapping(Line::new)));

  private static final Field<List<EarlierVisit>> EARLIER = EarlierVisit.before();

  private static final Field<List<String>> CONTACTS =
      multiset(
              select(CONTACT.NAME.concat(", ").concat(CONTACT.PHONE))
                  .from(CONTACT)
                  .where(CONTACT.SITE_ID.eq(SITE.ID))
                  .orderBy(CONTACT.OPENS.desc(), CONTACT.ID)
                  .limit(1))
          .as("contacts")
          .convertFrom(rows -> rows.map(row -> row.value1()));

  private final DSLContext database;
  private final PlannerStore store;
  private final RoadMap roads;

  JobSheets(DSLContext database, PlannerStore store, RoadMap roads) {
    this.database = database;
    this.store = store;
    this.roads = roads;
  }

  /** The rounds by day and then by name; a day without stops has none. */
  List<Round> rounds(Act act, Filter filter) {
    Days days = store.days(filter.from(), filter.to(), act.at());
    Map<Long, PlannedVisit> visits =
        days.visits().stream().collect(Collectors.toMap(PlannedVisit::id, Function.identity()));
    Map<Long, String> names =
        days.people().stream().collect(Collectors.toMap(Colleague::id, Colleague::name));
    var rounds = new ArrayList<Round>();
    for (LocalDate day = filter.from(); !day.isAfter(filter.to()); day = day.plusDays(1)) {
      for (Colleague person : days.people()) {
        List<Stop> stops =
            filter.takes(person.id())
                ? stops(days.of(person.id(), day), visits, names, filter)
                : List.of();
        if (!stops.isEmpty()) {
          rounds.add(new Round(person.name(), day, stops));
        }
      }
    }
    return rounds;
  }

  private List<Stop> stops(
      PersonDay day, Map<Long, PlannedVisit> visits, Map<Long, String> names, Filter filter) {
    Map<Long, Integer> drives =
        day.legs(roads).stream()
            .filter(leg -> leg.toVisitId() != null)
            .collect(
                Collectors.toMap(
                    leg -> Objects.requireNonNull(leg.toVisitId()), leg -> leg.way().minutes()));
    return day.stops().stream()
        .map(stop -> Objects.requireNonNull(visits.get(stop.visitId())))
        .filter(filter::takes)
        .map(
            visit ->
                new Stop(
                    visit,
                    drives.getOrDefault(visit.id(), 0),
                    visit.crewIds().stream()
                        .filter(id -> id != day.personId())
                        .map(id -> names.getOrDefault(id, ""))
                        .toList()))
        .toList();
  }

  /** What the sheets of these visits say, by visit. */
  Map<Long, Sheet> sheets(Collection<Long> visitIds) {
    return database
        .select(VISIT.ID, SITE.ADDRESS, SITE.POSTCODE, SITE.ACCESS_NOTES, CONTACTS, JOB.NOTES)
        .select(SITE.OPENS, SITE.CLOSES)
        .select(
            EQUIPMENT.MODEL,
            EQUIPMENT.SERIAL_NUMBER,
            EQUIPMENT.FITTED_ON,
            EQUIPMENT.LABOUR_WARRANTY_UNTIL)
        .select(LINES, EARLIER)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .leftJoin(EQUIPMENT)
        .on(EQUIPMENT.ID.eq(JOB.EQUIPMENT_ID))
        .where(VISIT.ID.in(visitIds))
        .fetchMap(
            VISIT.ID,
            row ->
                new Sheet(
                    row.get(SITE.ADDRESS),
                    row.get(SITE.POSTCODE),
                    row.get(SITE.ACCESS_NOTES),
                    row.get(SITE.OPENS),
                    row.get(SITE.CLOSES),
                    row.get(CONTACTS).stream().findFirst().orElse(null),
                    row.get(JOB.NOTES),
                    row.get(EQUIPMENT.MODEL),
                    row.get(EQUIPMENT.SERIAL_NUMBER),
                    row.get(EQUIPMENT.FITTED_ON),
                    row.get(EQUIPMENT.LABOUR_WARRANTY_UNTIL),
                    row.get(LINES),
                    row.get(EARLIER)));
  }
}
