package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.COST_CENTRE;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.KIT;

import app.pragmata.core.Coded;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.jobs.Capture;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.VisitLength;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.company.SettingsChanges;
import app.pragmata.server.generated.tables.records.KindOfJobRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.InUse;
import app.pragmata.server.records.References;
import app.pragmata.server.records.RepeatableRequests;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What a job takes on from its kind. */
@RestController
class KindsOfJobApi {
  /** All of them by name, with the version that a change is sent with. */
  record KindsOfJobSettings(int version, List<KindOfJobSettings> kinds) {}

  /**
   * A kind of job. A change holds for the next quote or job; those that are open keep what they
   * have.
   *
   * @param promise what its quotes promise unless they say otherwise
   * @param defaultMinutes how long a visit is reckoned to take
   * @param crewSize how many go to such jobs together
   * @param vatCode how VAT applies to such jobs; null for as the customer's
   * @param usualForCalls whether a job straight from a call is taken for it
   * @param kitId the lines with which its quotes begin; null for labour of its length and a
   *     call-out
   * @param beforeFinish what must be there before a technician finishes a visit
   * @param clockPerLine whether technicians start and finish the lines of its promise one by one
   * @param uses how many records are of it
   */
  record KindOfJobSettings(
      long id,
      String name,
      PromiseKind promise,
      int defaultMinutes,
      int crewSize,
      String costCentre,
      @Nullable String vatCode,
      boolean usualForCalls,
      @Nullable Long kitId,
      List<Capture> beforeFinish,
      boolean clockPerLine,
      int uses) {}

  /**
   * The same as typed; one person goes where nobody says how many, nothing must be there before a
   * visit is finished where nobody says what, and work is clocked as a whole.
   */
  record KindOfJobForm(
      int version,
      @Nullable String name,
      @Nullable PromiseKind promise,
      @Nullable String defaultMinutes,
      @Nullable Integer crewSize,
      @Nullable String costCentre,
      @Nullable String vatCode,
      boolean usualForCalls,
      @Nullable Long kitId,
      @Nullable List<Capture> beforeFinish,
      @Nullable Boolean clockPerLine) {}

  private static final String[] NONE = {};

  private final DSLContext database;
  private final SettingsChanges settings;
  private final CompanyStore companies;
  private final References references;
  private final RepeatableRequests repeats;

  KindsOfJobApi(
      DSLContext database,
      SettingsChanges settings,
      CompanyStore companies,
      References references,
      RepeatableRequests repeats) {
    this.database = database;
    this.settings = settings;
    this.companies = companies;
    this.references = references;
    this.repeats = repeats;
  }

  @GetMapping("/api/settings/kinds-of-job")
  KindsOfJobSettings listKindsOfJob() {
    Map<Long, Integer> uses = references.countAll(KIND_OF_JOB, Set.of());
    return new KindsOfJobSettings(
        settings.version(),
        database
            .selectFrom(KIND_OF_JOB)
            .orderBy(KIND_OF_JOB.NAME)
            .fetch(
                row ->
                    new KindOfJobSettings(
                        row.getId(),
                        row.getName(),
                        row.getPromise(),
                        row.getDefaultMinutes(),
                        row.getCrewSize(),
                        row.getCostCentre(),
                        row.getVatCode(),
                        row.getUsualForCalls(),
                        row.getKitId(),
                        captures(row),
                        row.getClockPerLine(),
                        uses.getOrDefault(row.getId(), 0))));
  }

  @PostMapping("/api/settings/kinds-of-job")
  @Transactional
  public KindsOfJobSettings addKindOfJob(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody KindOfJobForm form) {
    repeats.once(
        act, key, "add kind of job", form, () -> store(act, database.newRecord(KIND_OF_JOB), form));
    return listKindsOfJob();
  }

  @PutMapping("/api/settings/kinds-of-job/{id}")
  @Transactional
  public KindsOfJobSettings changeKindOfJob(
      Act act, @PathVariable long id, @RequestBody KindOfJobForm form) {
    store(act, get(id), form);
    return listKindsOfJob();
  }

  /** Deletes one that nothing is of. */
  @DeleteMapping("/api/settings/kinds-of-job/{id}")
  @Transactional
  public KindsOfJobSettings deleteKindOfJob(
      Act act, @PathVariable long id, @RequestParam int version) {
    KindOfJobRecord row = get(id);
    settings.change(act, CompanyEvent.KIND_OF_JOB_CHANGED, version, values(row), Map.of());
    if (row.getUsualForCalls()) {
      throw new Refused(
          Rule.IN_USE,
          "%s is what a job straight from a call is taken for. Choose another kind for that first."
              .formatted(row.getName()));
    }
    InUse.refuse(row.getName(), references.count(KIND_OF_JOB, id, Set.of()), "Rename it instead.");
    row.delete();
    return listKindsOfJob();
  }

  private KindOfJobRecord get(long id) {
    return database
        .selectFrom(KIND_OF_JOB)
        .where(KIND_OF_JOB.ID.eq(id))
        .fetchOptional()
        .orElseThrow(
            () -> new Refused(Rule.NOT_FOUND, "Somebody deleted this kind of job meanwhile."));
  }

  private long store(Act act, KindOfJobRecord row, KindOfJobForm form) {
    var reading = new Reading();
    boolean isNew = row.getId() == null;
    String name = reading.text("name", form.name(), 60);
    if (name != null
        && database.fetchExists(
            KIND_OF_JOB,
            KIND_OF_JOB
                .NAME
                .equalIgnoreCase(name)
                .and(KIND_OF_JOB.ID.ne(isNew ? 0L : row.getId())))) {
      reading.fault("name", Rule.REPEATED, "There is a kind of this name. Enter another.");
    }
    if (form.promise() == null) {
      reading.fault("promise", Rule.MISSING, "Choose what its quotes promise.");
    }
    Integer minutes = reading.required("defaultMinutes", form.defaultMinutes(), VisitLength::parse);
    int crewSize = Objects.requireNonNullElse(form.crewSize(), 1);
    VisitPlan.checkCrewSize(crewSize, reading);
    if (form.costCentre() == null
        || !database.fetchExists(COST_CENTRE, COST_CENTRE.CODE.eq(form.costCentre()))) {
      reading.fault("costCentre", Rule.MISSING, "Choose the part of the company it belongs to.");
    }
    companies.getCompany().terms().vat().requireKnown(reading, "vatCode", form.vatCode());
    if (form.kitId() != null && !database.fetchExists(KIT, KIT.ID.eq(form.kitId()))) {
      reading.fault("kitId", Rule.NOT_FOUND, "This kit does not exist. Choose another.");
    }
    if (!isNew && row.getUsualForCalls() && !form.usualForCalls()) {
      reading.fault(
          "usualForCalls",
          Rule.MISSING,
          "A job straight from a call is of some kind: tick it at another kind instead.");
    }
    reading.refuseIfFaulty();
    Map<String, Object> before = isNew ? Map.of() : values(row);
    row.setName(Objects.requireNonNull(name));
    row.setPromise(Objects.requireNonNull(form.promise()));
    row.setDefaultMinutes(Objects.requireNonNull(minutes));
    row.setCrewSize((short) crewSize);
    row.setCostCentre(Objects.requireNonNull(form.costCentre()));
    row.setVatCode(form.vatCode() == null || form.vatCode().isEmpty() ? null : form.vatCode());
    row.setUsualForCalls(form.usualForCalls());
    row.setKitId(form.kitId());
    row.setBeforeFinish(
        Objects.requireNonNullElse(form.beforeFinish(), List.<Capture>of()).stream()
            .distinct()
            .sorted()
            .map(Capture::code)
            .toArray(String[]::new));
    row.setClockPerLine(Boolean.TRUE.equals(form.clockPerLine()));
    settings.change(act, CompanyEvent.KIND_OF_JOB_CHANGED, form.version(), before, values(row));
    if (form.usualForCalls()) {
      database
          .update(KIND_OF_JOB)
          .set(KIND_OF_JOB.USUAL_FOR_CALLS, false)
          .where(KIND_OF_JOB.USUAL_FOR_CALLS)
          .execute();
      row.touched(KIND_OF_JOB.USUAL_FOR_CALLS, true);
    }
    row.store();
    return row.getId();
  }

  private static List<Capture> captures(KindOfJobRecord row) {
    return Coded.getAll(Capture.class, row.getBeforeFinish());
  }

  private static Map<String, Object> values(KindOfJobRecord row) {
    var values = new LinkedHashMap<String, Object>();
    values.put("name", row.getName());
    values.put("promise", row.getPromise());
    values.put("defaultMinutes", row.getDefaultMinutes());
    values.put("crewSize", row.getCrewSize());
    values.put("costCentre", row.getCostCentre());
    values.put("vatCode", row.getVatCode() == null ? "" : row.getVatCode());
    values.put("usualForCalls", row.getUsualForCalls());
    values.put("kitId", row.getKitId() == null ? "" : row.getKitId());
    values.put("beforeFinish", List.of(Objects.requireNonNullElse(row.getBeforeFinish(), NONE)));
    values.put("clockPerLine", Boolean.TRUE.equals(row.getClockPerLine()));
    return values;
  }
}
