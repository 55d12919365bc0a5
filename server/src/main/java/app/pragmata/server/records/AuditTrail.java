package app.pragmata.server.records;

import static app.pragmata.server.generated.Tables.AUDIT_ENTRY;

import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Repository;
import tools.jackson.databind.json.JsonMapper;

/** Keeps who changed what, when, from what to what, and why. */
@Repository
public class AuditTrail {
  /** What was changed, by its table's name; the job is null for what belongs to none. */
  public record Subject(String recordType, long recordId, @Nullable Long jobId) {}

  private final DSLContext database;
  private final JsonMapper json;

  AuditTrail(DSLContext database, JsonMapper json) {
    this.database = database;
    this.json = json;
  }

  /** Notes something that happened to a record. */
  public void note(Act act, Subject subject, String action) {
    note(act, subject, action, "", Map.of(), Map.of());
  }

  /** Notes a change with its values; the reason may be empty. */
  public void note(
      Act act,
      Subject subject,
      String action,
      String reason,
      Map<String, Object> before,
      Map<String, Object> after) {
    database
        .insertInto(AUDIT_ENTRY)
        .set(AUDIT_ENTRY.AT, act.at())
        .set(AUDIT_ENTRY.PERSON_ID, act.personId())
        .set(AUDIT_ENTRY.RECORD_TYPE, subject.recordType())
        .set(AUDIT_ENTRY.RECORD_ID, subject.recordId())
        .set(AUDIT_ENTRY.JOB_ID, subject.jobId())
        .set(AUDIT_ENTRY.ACTION, action)
        .set(AUDIT_ENTRY.REASON, reason)
        .set(AUDIT_ENTRY.BEFORE, JSONB.valueOf(json.writeValueAsString(before)))
        .set(AUDIT_ENTRY.AFTER, JSONB.valueOf(json.writeValueAsString(after)))
        .execute();
  }
}
