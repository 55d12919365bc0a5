package app.pragmata.server.checkdesk;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.checkdesk.CheckRules;
import app.pragmata.core.checkdesk.WorkedVisit;
import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.server.checkdesk.CheckDeskApi.VisitToCheck;
import app.pragmata.server.http.AskedSpan;
import app.pragmata.server.planning.SuggestedMiles.Stored;
import app.pragmata.server.records.Cells;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import java.util.Objects;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads finished visits with all that may be odd about them, in as many statements as for one. */
@Repository
class FinishedVisits {
  /**
   * Which are asked for.
   *
   * @param technicianId who is responsible; null for everybody
   * @param kindOfJobId null for every kind
   * @param district the postcode district of the site; empty for every one
   * @param costCentre empty for every one
   */
  record Asked(
      AskedSpan days,
      @Nullable Long technicianId,
      @Nullable Long kindOfJobId,
      String district,
      String costCentre) {}

  /**
   * A finished visit.
   *
   * @param latitude of its site; null where nobody has given it, as is the longitude
   * @param done whether what was to be done is, as far as anybody has said
   */
  record Shown(
      long id,
      int version,
      LocalDate day,
      @Nullable LocalTime start,
      @Nullable Long technicianId,
      @Nullable String technician,
      long jobId,
      long jobNumber,
      long customerId,
      String customer,
      String title,
      long kindOfJobId,
      @Nullable BigDecimal latitude,
      @Nullable BigDecimal longitude,
      boolean done) {
    Stored place() {
      return new Stored(latitude, longitude, "");
    }
  }

  private static final int MOST = 500;

  private final DSLContext database;
  private final ClocksToCheck clocks;
  private final PartsToCheck parts;
  private final LooseEnds looseEnds;
  private final AgreedWork agreedWork;
  private final CheckRuleStore rules;

  FinishedVisits(
      DSLContext database,
      ClocksToCheck clocks,
      PartsToCheck parts,
      LooseEnds looseEnds,
      AgreedWork agreedWork,
      CheckRuleStore rules) {
    this.database = database;
    this.clocks = clocks;
    this.parts = parts;
    this.looseEnds = looseEnds;
    this.agreedWork = agreedWork;
    this.rules = rules;
  }

  /** Those of these days that nobody has checked; the first of many. */
  List<VisitToCheck> list(Asked asked) {
    List<Shown> shown = fetch(which(asked));
    ClocksToCheck.OfVisits clocked = clocks.read(shown, asked.days().last());
    PartsToCheck.OfVisits used = parts.read(shown);
    LooseEnds.OfVisits loose = looseEnds.read(shown);
    AgreedWork.OfVisits agreed = agreedWork.read(shown);
    CheckRules watched = rules.get();
    return shown.stream()
        .map(visit -> toCheck(visit, clocked, used, loose, agreed, watched))
        .toList();
  }

  private static Condition which(Asked asked) {
    Condition which =
        VISIT
            .STATE
            .eq(VisitState.Code.FINISHED)
            .and(VISIT.DAY.between(asked.days().first(), asked.days().last()));
    if (asked.technicianId() != null) {
      which = which.and(VISIT.TECHNICIAN_ID.eq(asked.technicianId()));
    }
    if (asked.kindOfJobId() != null) {
      which = which.and(JOB.KIND_OF_JOB_ID.eq(asked.kindOfJobId()));
    }
    if (!asked.district().isEmpty()) {
      which =
          which.and(DSL.upper(SITE.POSTCODE).likeRegex("^" + asked.district() + "([^0-9A-Z]|$)"));
    }
    return asked.costCentre().isEmpty() ? which : which.and(JOB.COST_CENTRE.eq(asked.costCentre()));
  }

  private List<Shown> fetch(Condition which) {
    var query =
        database
            .select(
                VISIT.ID,
                VISIT.VERSION,
                VISIT.DAY,
                VISIT.START_TIME,
                VISIT.TECHNICIAN_ID,
                PERSON.NAME,
                JOB.ID,
                JOB.NUMBER,
                CUSTOMER.ID,
                CUSTOMER.NAME,
                JOB.TITLE,
                JOB.KIND_OF_JOB_ID,
                SITE.LATITUDE,
                SITE.LONGITUDE,
                DSL.field(VISIT.OUTCOME.isNull().or(VISIT.OUTCOME.eq(VisitOutcome.DONE))))
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .leftJoin(PERSON)
            .on(PERSON.ID.eq(VISIT.TECHNICIAN_ID))
            .where(which)
            .orderBy(VISIT.DAY, PERSON.NAME, VISIT.START_TIME, VISIT.ID)
            .limit(MOST);
    return Cells.fetch(
        query,
        cells ->
            new Shown(
                cells.number(),
                cells.count(),
                Objects.requireNonNull(cells.day()),
                cells.time(),
                cells.optional(),
                cells.text(),
                cells.number(),
                cells.number(),
                cells.number(),
                cells.text(),
                cells.text(),
                cells.number(),
                cells.decimal(),
                cells.decimal(),
                cells.truth()));
  }

  private static VisitToCheck toCheck(
      Shown visit,
      ClocksToCheck.OfVisits clocked,
      PartsToCheck.OfVisits used,
      LooseEnds.OfVisits loose,
      AgreedWork.OfVisits agreed,
      CheckRules rules) {
    var worked =
        new WorkedVisit(
            clocked.clocks(visit),
            clocked.day(visit),
            clocked.labourOfJob(visit),
            Math.max(used.promisedMinutes(visit), agreed.minutes(visit)),
            used.parts(visit),
            agreed.agreed(visit, used.names(visit)),
            used.wanted(visit),
            loose.extraWorkOpen(visit),
            loose.signatureMissing(visit),
            loose.questionsOpen(visit),
            loose.answersOutOfLimits(visit),
            loose.phone(visit));
    return new VisitToCheck(
        visit.id(),
        visit.version(),
        visit.day(),
        visit.start(),
        visit.technicianId(),
        visit.technician() == null ? "" : visit.technician(),
        visit.jobId(),
        visit.jobNumber(),
        visit.customerId(),
        visit.customer(),
        visit.title(),
        worked.clocks().labourMinutes(),
        worked.clocks().driveMinutes(),
        used.lines(visit),
        clocked.cost(visit).plus(Money.ofMinor(used.costMinor(visit))).minor(),
        worked.oddities(rules));
  }
}
