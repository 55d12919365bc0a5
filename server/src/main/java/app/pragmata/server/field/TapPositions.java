package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TAP_POSITION;
import static app.pragmata.server.generated.Tables.TIME_ENTRY;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.val;

import app.pragmata.core.field.TapPosition;
import app.pragmata.core.planning.Place;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Retention;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Where phones were when a clock was started or stopped or a photo was taken, where the company
 * wants to know. They are kept for as many days as it says and never longer.
 */
@Service
public class TapPositions implements Retention.KeptForAWhile {
  /**
   * A start or stop of a clock that was tapped at a known place.
   *
   * @param atStart whether the clock was started there; it was stopped there otherwise
   * @param miles from the site in a straight line
   * @param accuracyMetres as the phone said
   * @param away whether the phone was surely not at the site, where it is expected there
   */
  record TapAtSite(
      long timeEntryId, boolean atStart, BigDecimal miles, int accuracyMetres, boolean away) {}

  private final DSLContext database;
  private final CompanyStore companies;

  TapPositions(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** Notes where somebody tapped; nothing where the phone does not say or nobody asks. */
  void note(Act act, @Nullable PositionForm form, Instant moment) {
    if (form == null || companies.getCompany().tapPositionDays() == 0) {
      return;
    }
    TapPosition position = form.read();
    database
        .insertInto(TAP_POSITION)
        .set(TAP_POSITION.PERSON_ID, act.personId())
        .set(TAP_POSITION.TAPPED_AT, TimeEntries.second(moment))
        .set(TAP_POSITION.LATITUDE, BigDecimal.valueOf(position.place().latitude()))
        .set(TAP_POSITION.LONGITUDE, BigDecimal.valueOf(position.place().longitude()))
        .set(TAP_POSITION.ACCURACY_METRES, position.accuracyMetres())
        .onConflictDoNothing()
        .execute();
  }

  /**
   * How far from its site the clocks of a job were tapped; empty where the site has no position.
   */
  @Transactional(readOnly = true)
  public List<TapAtSite> list(long jobId) {
    return fetch(JOB.ID.eq(jobId)).stream().map(OnVisit::tap).toList();
  }

  /**
   * Of these visits, those of which a clock was surely tapped away from the site, with the farthest
   * miles.
   */
  @Transactional(readOnly = true)
  public Map<Long, BigDecimal> listAway(Collection<Long> visitIds) {
    return fetch(VISIT.ID.eq(any(val(visitIds.toArray(Long[]::new))))).stream()
        .filter(one -> one.tap().away())
        .collect(Collectors.toMap(OnVisit::visitId, one -> one.tap().miles(), BigDecimal::max));
  }

  private record OnVisit(long visitId, TapAtSite tap) {}

  private List<OnVisit> fetch(Condition which) {
    if (companies.getCompany().tapPositionDays() == 0) {
      // Nobody wants to know any more, and what was kept goes within the day.
      return List.of();
    }
    return database
        .select(
            TIME_ENTRY.ID,
            TIME_ENTRY.KIND,
            TAP_POSITION.TAPPED_AT.eq(TIME_ENTRY.MEASURED_FROM),
            TAP_POSITION.LATITUDE,
            TAP_POSITION.LONGITUDE,
            TAP_POSITION.ACCURACY_METRES,
            SITE.LATITUDE,
            SITE.LONGITUDE,
            VISIT.ID)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .join(TIME_ENTRY)
        .on(TIME_ENTRY.VISIT_ID.eq(VISIT.ID).and(TIME_ENTRY.REMOVED_AT.isNull()))
        .join(TAP_POSITION)
        .on(TAP_POSITION.PERSON_ID.eq(TIME_ENTRY.PERSON_ID))
        .and(TAP_POSITION.TAPPED_AT.in(TIME_ENTRY.MEASURED_FROM, TIME_ENTRY.MEASURED_TO))
        .where(which.and(SITE.LATITUDE.isNotNull()))
        .orderBy(TIME_ENTRY.ID, TAP_POSITION.TAPPED_AT)
        .fetch(
            row -> {
              TapPosition tapped = Objects.requireNonNull(position(row));
              Place site = Objects.requireNonNull(site(row));
              return new OnVisit(
                  row.value9(),
                  new TapAtSite(
                      row.value1(),
                      row.value3(),
                      tapped.milesFrom(site),
                      tapped.accuracyMetres(),
                      TapPosition.isExpectedAtSite(row.value2(), row.value3())
                          && tapped.isAwayFrom(site)));
            });
  }

  /** Where the phone was by a row with all columns of that; null where it did not say. */
  static @Nullable TapPosition position(Record row) {
    Place place = place(row.get(TAP_POSITION.LATITUDE), row.get(TAP_POSITION.LONGITUDE));
    return place == null ? null : new TapPosition(place, row.get(TAP_POSITION.ACCURACY_METRES));
  }

  /** Where the site is by a row with its position; null where nobody gave one. */
  static @Nullable Place site(Record row) {
    return place(row.get(SITE.LATITUDE), row.get(SITE.LONGITUDE));
  }

  private static @Nullable Place place(
      @Nullable BigDecimal latitude, @Nullable BigDecimal longitude) {
    return latitude == null || longitude == null
        ? null
        : new Place(latitude.doubleValue(), longitude.doubleValue());
  }

  @Override
  public void forget(Instant now) {
    database
        .select(COMPANY.TAP_POSITION_DAYS)
        .from(COMPANY)
        .fetchOptional(COMPANY.TAP_POSITION_DAYS)
        .ifPresent(
            days ->
                database
                    .deleteFrom(TAP_POSITION)
                    .where(TAP_POSITION.TAPPED_AT.lt(now.minus(Duration.ofDays(days))))
                    .execute());
  }
}
