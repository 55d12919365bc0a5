package app.pragmata.server.jobpages;

import static app.pragmata.server.generated.Tables.JOB_PAGE;

import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.generated.tables.records.JobPageRecord;
import app.pragmata.server.http.PublicAddress;
import app.pragmata.server.http.Unguessable;
import java.time.Instant;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** The customer's way to their page of a job. */
@Repository
class JobPageLinks {
  private final DSLContext database;
  private final PublicAddress publicAddress;

  JobPageLinks(DSLContext database, PublicAddress publicAddress) {
    this.database = database;
    this.publicAddress = publicAddress;
  }

  /** The whole address of a job's page; in place of a withdrawn one comes a new, other address. */
  String open(long jobId, Instant at) {
    String token = Unguessable.make();
    database
        .insertInto(JOB_PAGE)
        .set(JOB_PAGE.JOB_ID, jobId)
        .set(JOB_PAGE.TOKEN, token)
        .set(JOB_PAGE.MADE_AT, at)
        .onConflict(JOB_PAGE.JOB_ID)
        .doUpdate()
        .set(JOB_PAGE.TOKEN, token)
        .set(JOB_PAGE.MADE_AT, at)
        .setNull(JOB_PAGE.OPENED_AT)
        .setNull(JOB_PAGE.WITHDRAWN_AT)
        .where(JOB_PAGE.WITHDRAWN_AT.isNotNull())
        .execute();
    return address(find(jobId).orElseThrow());
  }

  /** Opens nothing any more; withdrawn again it stays so. */
  void withdraw(long jobId, Instant at) {
    database
        .update(JOB_PAGE)
        .set(JOB_PAGE.WITHDRAWN_AT, at)
        .where(JOB_PAGE.JOB_ID.eq(jobId).and(JOB_PAGE.WITHDRAWN_AT.isNull()))
        .execute();
  }

  /** The link that opens a job's page; empty while none does. */
  Optional<JobPageRecord> find(long jobId) {
    return database
        .selectFrom(JOB_PAGE)
        .where(JOB_PAGE.JOB_ID.eq(jobId).and(JOB_PAGE.WITHDRAWN_AT.isNull()))
        .fetchOptional();
  }

  String address(JobPageRecord link) {
    return publicAddress.of("/work/" + link.getToken());
  }

  /** The job that a link opens; refused when it opens none. */
  long require(String token) {
    JobPageRecord link = database.selectFrom(JOB_PAGE).where(JOB_PAGE.TOKEN.eq(token)).fetchOne();
    if (link == null) {
      throw new Refused(
          Rule.NOT_FOUND,
          "There is nothing at this address. Check that the whole link was copied, or ask us for a new one.");
    }
    if (link.getWithdrawnAt() != null) {
      throw new Refused(
          Rule.NOT_FOUND, "This link was withdrawn. Ask us, and we send you the right one.");
    }
    return link.getJobId();
  }

  /** Notes that the customer has read it, the first time. */
  void noteOpened(long jobId, Instant at) {
    database
        .update(JOB_PAGE)
        .set(JOB_PAGE.OPENED_AT, at)
        .where(JOB_PAGE.JOB_ID.eq(jobId).and(JOB_PAGE.OPENED_AT.isNull()))
        .execute();
  }
}
