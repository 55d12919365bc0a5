package app.pragmata.server.checkdesk;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PART_WANTED;
import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static app.pragmata.server.generated.Tables.STOCK_LEVEL;
import static app.pragmata.server.generated.Tables.UNLISTED_PART;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_PART;
import static java.util.stream.Collectors.groupingBy;
import static java.util.stream.Collectors.summingInt;
import static java.util.stream.Collectors.toSet;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.inline;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.checkdesk.WorkedVisit;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.server.checkdesk.FinishedVisits.Shown;
import app.pragmata.server.field.UnpricedParts;
import app.pragmata.server.partswanted.PartsWanted;
import app.pragmata.server.records.Cells;
import java.math.BigDecimal;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Reads the parts of finished visits, and what their jobs promised and wait for. */
@Component
class PartsToCheck {
  /** A part of a job. */
  record OfJob(long jobId, long partId) {}

  record Used(
      long visitId,
      long jobId,
      long partId,
      String name,
      BigDecimal quantity,
      long costMinor,
      boolean free,
      boolean belowZero) {
    OfJob ofJob() {
      return new OfJob(jobId, partId);
    }
  }

  private record Promised(
      long jobId,
      @Nullable Long partId,
      @Nullable BigDecimal quantity,
      boolean labour,
      @Nullable Integer minutes) {}

  /**
   * What is asked about one visit.
   *
   * @param minutes of labour that each job promises, where it does
   * @param used by visit
   * @param beyond of which parts jobs have taken more than they promised
   * @param unpriced names of parts on no list and without a price, by visit
   * @param waitsFor what jobs still wait for
   */
  record OfVisits(
      Map<Long, Integer> minutes,
      Map<Long, List<Used>> used,
      Set<OfJob> beyond,
      Map<Long, List<String>> unpriced,
      Map<Long, List<String>> waitsFor) {
    /** How many lines of parts were used. */
    int lines(Shown visit) {
      return of(visit).size();
    }

    /** What they cost, in minor units. */
    long costMinor(Shown visit) {
      return of(visit).stream().mapToLong(Used::costMinor).sum();
    }

    WorkedVisit.Parts parts(Shown visit) {
      return new WorkedVisit.Parts(
          names(visit, Used::free),
          names(visit, part -> beyond.contains(part.ofJob())),
          names(visit, Used::belowZero),
          unpriced.getOrDefault(visit.id(), List.of()));
    }

    /** All that it used. */
    List<String> names(Shown visit) {
      return names(visit, part -> true);
    }

    /** What its job still waits for. */
    List<String> wanted(Shown visit) {
      return waitsFor.getOrDefault(visit.jobId(), List.of());
    }

    /** The labour that its job promises; 0 for none. */
    int promisedMinutes(Shown visit) {
      return minutes.getOrDefault(visit.jobId(), 0);
    }

    private List<String> names(Shown visit, Predicate<Used> which) {
      List<Used> own = of(visit);
      return own.isEmpty()
          ? List.of()
          : own.stream().filter(which).map(Used::name).distinct().toList();
    }

    private List<Used> of(Shown visit) {
      return used.getOrDefault(visit.id(), List.of());
    }
  }

  private final DSLContext database;

  PartsToCheck(DSLContext database) {
    this.database = database;
  }

  /** Those of these visits, read at once. */
  OfVisits read(List<Shown> shown) {
    Field<Long[]> visitIds = val(shown.stream().map(Shown::id).toArray(Long[]::new));
    Field<Long[]> jobIds = val(shown.stream().map(Shown::jobId).distinct().toArray(Long[]::new));
    List<Promised> promised = promised(jobIds);
    Map<Long, Integer> minutes =
        promised.stream()
            .filter(line -> line.labour() && line.minutes() != null)
            .collect(
                groupingBy(
                    Promised::jobId, summingInt(line -> Objects.requireNonNull(line.minutes()))));
    List<Used> ofTheJobs = used(jobIds);
    return new OfVisits(
        minutes,
        ofTheJobs.stream().collect(groupingBy(Used::visitId)),
        beyond(promised, ofTheJobs),
        unpriced(visitIds),
        wanted(jobIds));
  }

  /** All parts of all visits of these jobs, by name. */
  private List<Used> used(Field<Long[]> jobIds) {
    return Cells.fetch(
        database
            .select(
                VISIT.ID,
                VISIT.JOB_ID,
                PART.ID,
                PART.NAME,
                VISIT_PART.QUANTITY,
                VISIT_PART.COST_MINOR,
                field(VISIT_PART.COST_MINOR.eq(0L).or(VISIT_PART.UNIT_PRICE.eq(UnitPrice.ZERO))),
                field(STOCK_LEVEL.PART_ID.isNotNull()))
            .from(VISIT)
            .join(VISIT_PART)
            .on(VISIT_PART.VISIT_ID.eq(VISIT.ID))
            .join(PART)
            .on(PART.ID.eq(VISIT_PART.PART_ID))
            .leftJoin(STOCK_LEVEL)
            .on(STOCK_LEVEL.PLACE_ID.eq(VISIT_PART.PLACE_ID))
            .and(STOCK_LEVEL.PART_ID.eq(VISIT_PART.PART_ID))
            .and(STOCK_LEVEL.QUANTITY.lt(inline(BigDecimal.ZERO)))
            .where(VISIT.JOB_ID.eq(any(jobIds)).and(VISIT_PART.REMOVED_AT.isNull()))
            .orderBy(PART.NAME),
        cells ->
            new Used(
                cells.number(),
                cells.number(),
                cells.number(),
                cells.text(),
                Objects.requireNonNull(cells.decimal()),
                cells.number(),
                cells.truth(),
                cells.truth()));
  }

  private List<Promised> promised(Field<Long[]> jobIds) {
    return Cells.fetch(
        database
            .select(
                ACCEPTED_QUOTE.JOB_ID,
                PROMISED_LINE.PART_ID,
                PROMISED_LINE.QUANTITY,
                field(PROMISED_LINE.RATE_CLASS.isNotNull()),
                PROMISED_LINE.MINUTES)
            .from(ACCEPTED_QUOTE)
            .join(PROMISED_LINE)
            .on(PROMISED_LINE.QUOTE_ID.eq(ACCEPTED_QUOTE.QUOTE_ID))
            .where(ACCEPTED_QUOTE.JOB_ID.eq(any(jobIds))),
        cells ->
            new Promised(
                cells.number(),
                cells.optional(),
                cells.decimal(),
                cells.truth(),
                cells.optionalCount()));
  }

  /** Of which parts jobs that promised anything have taken more than they promised. */
  private static Set<OfJob> beyond(List<Promised> promised, List<Used> used) {
    Set<Long> jobs = promised.stream().map(Promised::jobId).collect(toSet());
    var left = new HashMap<OfJob, BigDecimal>();
    for (Promised line : promised) {
      if (line.partId() != null && line.quantity() != null) {
        left.merge(new OfJob(line.jobId(), line.partId()), line.quantity(), BigDecimal::add);
      }
    }
    for (Used part : used) {
      left.merge(part.ofJob(), part.quantity().negate(), BigDecimal::add);
    }
    return left.entrySet().stream()
        .filter(part -> part.getValue().signum() < 0 && jobs.contains(part.getKey().jobId()))
        .map(Map.Entry::getKey)
        .collect(toSet());
  }

  private Map<Long, List<String>> unpriced(Field<Long[]> visitIds) {
    return database
        .select(UNLISTED_PART.VISIT_ID, UNLISTED_PART.NAME)
        .from(UNLISTED_PART)
        .where(UNLISTED_PART.VISIT_ID.eq(any(visitIds)).and(UnpricedParts.OPEN))
        .orderBy(UNLISTED_PART.ID)
        .fetchGroups(UNLISTED_PART.VISIT_ID, UNLISTED_PART.NAME);
  }

  private Map<Long, List<String>> wanted(Field<Long[]> jobIds) {
    return database
        .select(PART_WANTED.JOB_ID, coalesce(PART.NAME, PART_WANTED.WORDS))
        .from(PART_WANTED)
        .leftJoin(PART)
        .on(PART.ID.eq(PART_WANTED.PART_ID))
        .where(PART_WANTED.JOB_ID.eq(any(jobIds)).and(PartsWanted.isOpen()))
        .orderBy(PART_WANTED.ID)
        .fetchGroups(PART_WANTED.JOB_ID, row -> row.value2());
  }
}
