package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.JOB_SKILL;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB_SKILL;
import static app.pragmata.server.generated.Tables.SKILL;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.planning.VisitPlan;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.records.Versions;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** How many people go to a job together and what they must know, over HTTP. */
@RestController
class JobNeedsApi {
  /**
   * What a job needs.
   *
   * @param crewSize how many go together
   * @param skills what those who go must know, each at least one of them
   * @param asKind whether it is what its kind needs, and changes with it
   * @param choices all that could be asked for
   */
  record JobNeeds(
      int version,
      int crewSize,
      List<NamedSkill> skills,
      boolean asKind,
      List<NamedSkill> choices) {}

  /** A skill or certificate. */
  record NamedSkill(long id, String name) {}

  /**
   * What a job needs in place of what its kind does.
   *
   * @param crewSize null for as its kind again; the skills then do not count
   */
  record JobNeedsForm(int version, @Nullable Integer crewSize, List<Long> skillIds) {}

  private final VisitStore visits;
  private final VersionStore versions;
  private final DSLContext database;

  JobNeedsApi(VisitStore visits, VersionStore versions, DSLContext database) {
    this.visits = visits;
    this.versions = versions;
    this.database = database;
  }

  @GetMapping("/api/jobs/{id}/needs")
  JobNeeds getJobNeeds(@PathVariable long id) {
    var job =
        database
            .select(JOB.VERSION, JOB.CREW_SIZE, JOB.KIND_OF_JOB_ID, KIND_OF_JOB.CREW_SIZE)
            .from(JOB)
            .join(KIND_OF_JOB)
            .on(KIND_OF_JOB.ID.eq(JOB.KIND_OF_JOB_ID))
            .where(JOB.ID.eq(id))
            .fetchOptional()
            .orElseThrow(VisitStore::unknownJob);
    Short own = job.get(JOB.CREW_SIZE);
    List<NamedSkill> all =
        database
            .selectFrom(SKILL)
            .orderBy(SKILL.NAME)
            .fetch(row -> new NamedSkill(row.getId(), row.getName()));
    var asked =
        new HashSet<>(
            own == null
                ? database
                    .selectFrom(KIND_OF_JOB_SKILL)
                    .where(KIND_OF_JOB_SKILL.KIND_OF_JOB_ID.eq(job.get(JOB.KIND_OF_JOB_ID)))
                    .fetch(KIND_OF_JOB_SKILL.SKILL_ID)
                : database
                    .selectFrom(JOB_SKILL)
                    .where(JOB_SKILL.JOB_ID.eq(id))
                    .fetch(JOB_SKILL.SKILL_ID));
    return new JobNeeds(
        job.get(JOB.VERSION),
        own == null ? job.get(KIND_OF_JOB.CREW_SIZE) : own,
        all.stream().filter(skill -> asked.contains(skill.id())).toList(),
        own == null,
        all);
  }

  /** Says what a job needs; visits that are planned already stay as they are. */
  @PutMapping("/api/jobs/{id}/needs")
  @Transactional
  public Changed changeJobNeeds(Act act, @PathVariable long id, @RequestBody JobNeedsForm form) {
    var reading = new Reading();
    Integer size = form.crewSize();
    if (size != null) {
      VisitPlan.checkCrewSize(size, reading);
    }
    var skills = new HashSet<>(size == null ? List.of() : form.skillIds());
    VisitPlan.checkSkills("skillIds", skills.size(), reading);
    if (database.fetchCount(SKILL, SKILL.ID.in(skills)) < skills.size()) {
      reading.fault("skillIds", Rule.NOT_FOUND, "One of these skills does not exist.");
    }
    reading.refuseIfFaulty();
    LockedJob job = visits.lockJob(id);
    Versions.require(form.version(), job.version());
    job.requireUnbilled();
    database.deleteFrom(JOB_SKILL).where(JOB_SKILL.JOB_ID.eq(id)).execute();
    skills.stream()
        .map(Objects::requireNonNull)
        .forEach(skill -> database.insertInto(JOB_SKILL).values(id, skill).execute());
    job.need(size);
    visits.storeJob(act, JobEvent.NEEDS_CHANGED, job, "");
    return versions.changed(JOB.ID, id);
  }
}
