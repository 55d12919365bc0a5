package app.pragmata.server.telling;

import static app.pragmata.server.generated.Tables.ACCEPTED_QUOTE;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.PROMISED_LINE;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;

import app.pragmata.core.Category;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.TellBy;
import app.pragmata.server.customers.SiteService;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;

/** Reads what somebody is told of a visit. */
@Repository
class VisitFacts {
  /**
   * A visit and whom it is for.
   *
   * @param technicianId null while it waits for a time, as its day and start are
   * @param technician empty while it waits for a time
   * @param equipment empty for none
   * @param warrantyUntil of its labour; null for none
   * @param quotedMinor the net price of all accepted quotes; null for none
   * @param lateMinutes how much later than planned they expect to be there; null for as planned
   * @param parts that were promised
   * @param mailAddress of the site's contact or the customer; empty for none
   * @param phone of the customer; empty for none
   */
  record Facts(
      long visitId,
      int version,
      VisitState.Code state,
      @Nullable Long technicianId,
      String technician,
      @Nullable LocalDate day,
      @Nullable LocalTime start,
      int expectedMinutes,
      @Nullable Short lateMinutes,
      String title,
      String site,
      String address,
      String equipment,
      @Nullable LocalDate warrantyUntil,
      @Nullable BigDecimal quotedMinor,
      List<String> parts,
      long customerId,
      String customer,
      String mailAddress,
      String phone,
      TellBy planToldBy,
      TellBy comingToldBy) {}

  private static final Field<String> MAIL_ADDRESS = SiteService.mailAddress();

  private static final Field<BigDecimal> QUOTED =
      field(
          select(sum(ACCEPTED_QUOTE.NET_MINOR))
              .from(ACCEPTED_QUOTE)
              .where(ACCEPTED_QUOTE.JOB_ID.eq(JOB.ID)));

  private final DSLContext database;

  VisitFacts(DSLContext database) {
    this.database = database;
  }

  /** One visit; refused when there is no such visit. */
  Facts get(long visitId) {
    var row =
        database
            .select(VISIT.ID, VISIT.VERSION, VISIT.STATE, VISIT.TECHNICIAN_ID, PERSON.NAME)
            .select(VISIT.DAY, VISIT.START_TIME, VISIT.EXPECTED_MINUTES, VISIT.LATE_MINUTES)
            .select(JOB.ID, JOB.TITLE, SITE.NAME, SITE.ADDRESS)
            .select(EQUIPMENT.MODEL, EQUIPMENT.LABOUR_WARRANTY_UNTIL)
            .select(CUSTOMER.ID, CUSTOMER.NAME, CUSTOMER.PHONE)
            .select(CUSTOMER.PLAN_TOLD_BY, CUSTOMER.COMING_TOLD_BY)
            .select(QUOTED, MAIL_ADDRESS)
            .from(VISIT)
            .join(JOB)
            .on(JOB.ID.eq(VISIT.JOB_ID))
            .join(CUSTOMER)
            .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
            .join(SITE)
            .on(SITE.ID.eq(JOB.SITE_ID))
            .leftJoin(EQUIPMENT)
            .on(EQUIPMENT.ID.eq(JOB.EQUIPMENT_ID))
            .leftJoin(PERSON)
            .on(PERSON.ID.eq(VISIT.TECHNICIAN_ID))
            .where(VISIT.ID.eq(visitId))
            .fetchOne();
    if (row == null) {
      throw new Refused(Rule.NOT_FOUND, "This visit does not exist. Reload the page.");
    }
    return new Facts(
        visitId,
        row.get(VISIT.VERSION),
        row.get(VISIT.STATE),
        row.get(VISIT.TECHNICIAN_ID),
        row.get(PERSON.NAME) == null ? "" : row.get(PERSON.NAME),
        row.get(VISIT.DAY),
        row.get(VISIT.START_TIME),
        row.get(VISIT.EXPECTED_MINUTES),
        row.get(VISIT.LATE_MINUTES),
        row.get(JOB.TITLE),
        row.get(SITE.NAME),
        row.get(SITE.ADDRESS),
        row.get(EQUIPMENT.MODEL) == null ? "" : row.get(EQUIPMENT.MODEL),
        row.get(EQUIPMENT.LABOUR_WARRANTY_UNTIL),
        row.get(QUOTED),
        promisedParts(row.get(JOB.ID)),
        row.get(CUSTOMER.ID),
        row.get(CUSTOMER.NAME),
        row.get(MAIL_ADDRESS),
        row.get(CUSTOMER.PHONE),
        row.get(CUSTOMER.PLAN_TOLD_BY),
        row.get(CUSTOMER.COMING_TOLD_BY));
  }

  private List<String> promisedParts(long jobId) {
    return database
        .selectDistinct(PROMISED_LINE.DESCRIPTION)
        .from(PROMISED_LINE)
        .join(ACCEPTED_QUOTE)
        .on(ACCEPTED_QUOTE.QUOTE_ID.eq(PROMISED_LINE.QUOTE_ID))
        .where(ACCEPTED_QUOTE.JOB_ID.eq(jobId))
        .and(PROMISED_LINE.CATEGORY.eq(Category.PARTS))
        .orderBy(PROMISED_LINE.DESCRIPTION)
        .fetch(PROMISED_LINE.DESCRIPTION);
  }
}
