package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.STANDING;

import app.pragmata.server.company.CompanyStore;
import java.math.BigDecimal;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Records;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** Jobs that keep less of their charge than the company wants to, while something can be done. */
@RestController
class JobsBelowFloorApi {
  private static final int MOST = 500;

  /** A job that nobody has billed, with what it keeps at its end, in per cent of its net. */
  record JobBelowFloor(long jobId, BigDecimal forecastPercent) {}

  private final DSLContext database;
  private final CompanyStore companies;

  JobsBelowFloorApi(DSLContext database, CompanyStore companies) {
    this.database = database;
    this.companies = companies;
  }

  /** The first 500 of them, the worst first. */
  @GetMapping("/api/jobs-below-floor")
  List<JobBelowFloor> listJobsBelowFloor() {
    return database
        .select(STANDING.RECORD_ID, STANDING.FORECAST_PERCENT)
        .from(STANDING)
        .where(STANDING.KIND.eq(WorkKind.JOB))
        .and(STANDING.FORECAST_PERCENT.lt(companies.getCompany().quoting().floorMarginPercent()))
        .orderBy(STANDING.FORECAST_PERCENT, STANDING.RECORD_ID)
        .limit(MOST)
        .fetch(Records.mapping(JobBelowFloor::new));
  }
}
