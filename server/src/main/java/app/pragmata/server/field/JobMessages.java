package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.JOB_MESSAGE;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TO_DO;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectCount;

import app.pragmata.core.Reading;
import app.pragmata.server.generated.tables.records.JobMessageRecord;
import app.pragmata.server.jobs.LockedJob;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import app.pragmata.server.todos.ToDoState;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What technicians and the office say to each other about a job. What comes from site is a to-do
 * until the office answers; what the office says is marked on the phone until it is seen.
 */
@Service
@Transactional
class JobMessages {
  /** What somebody says. */
  record MessageForm(@Nullable String text) {}

  /**
   * A message.
   *
   * @param fromSite whether a technician says it, and not the office
   * @param seenAt when somebody on the job's visits saw what the office says; null until then, and
   *     of what comes from site
   */
  record JobMessage(
      long id,
      String text,
      LocalDateTime sentAt,
      String sentBy,
      boolean fromSite,
      @Nullable LocalDateTime seenAt) {}

  private static final int LONGEST = 1_000;

  private final DSLContext database;
  private final VisitStore visits;
  private final ToDoService toDos;
  private final RepeatableRequests repeats;
  private final Events events;

  JobMessages(
      DSLContext database,
      VisitStore visits,
      ToDoService toDos,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.visits = visits;
    this.toDos = toDos;
    this.repeats = repeats;
    this.events = events;
  }

  /** What was said about the job that is selected, as it was said. */
  static Field<List<JobMessage>> ofJob(ZoneId zone) {
    return multiset(
            select(JOB_MESSAGE.fields())
                .select(PERSON.NAME)
                .from(JOB_MESSAGE)
                .join(PERSON)
                .on(PERSON.ID.eq(JOB_MESSAGE.SENT_BY))
                .where(JOB_MESSAGE.JOB_ID.eq(JOB.ID))
                .orderBy(JOB_MESSAGE.ID))
        .as("messages")
        .convertFrom(
            rows ->
                rows.map(
                    found -> {
                      JobMessageRecord row = found.into(JOB_MESSAGE);
                      return new JobMessage(
                          row.getId(),
                          row.getText(),
                          LocalDateTime.ofInstant(row.getSentAt(), zone),
                          Objects.requireNonNull(found.get(PERSON.NAME)),
                          row.getVisitId() != null,
                          row.getSeenAt() == null
                              ? null
                              : LocalDateTime.ofInstant(row.getSeenAt(), zone));
                    }));
  }

  /** How many messages of the office nobody has seen, about the job that is selected. */
  static Field<Integer> unseen() {
    return field(
            selectCount()
                .from(JOB_MESSAGE)
                .where(JOB_MESSAGE.JOB_ID.eq(JOB.ID))
                .and(JOB_MESSAGE.VISIT_ID.isNull().and(JOB_MESSAGE.SEEN_AT.isNull())))
        .as("unseen_messages");
  }

  /** From site to the office; gives its id. */
  long send(Act act, @Nullable String key, long visitId, MessageForm form) {
    return repeats.once(
        act,
        key,
        "send message from site",
        visitId + " " + form.text(),
        () -> send(act, OwnVisit.require(visits.lock(visitId), act.personId()), form));
  }

  /**
   * The same inside the caller's transaction.
   *
   * @param visit locked
   */
  long send(Act act, LockedVisit visit, MessageForm form) {
    JobMessageRecord row = read(act, visit.job(), form);
    row.setVisitId(visit.id());
    row.setToDoId(toDoOf(act, visit.job(), row.getText()));
    events.store(act, FieldEvent.MESSAGE_SENT, row);
    return row.getId();
  }

  /**
   * From the office to whoever is on the job's visits; gives its id. What was asked is answered.
   */
  long sendToSite(Act act, @Nullable String key, long jobId, MessageForm form) {
    return repeats.once(
        act,
        key,
        "send message to site",
        jobId + " " + form.text(),
        () -> {
          LockedJob job = visits.lockJob(jobId);
          JobMessageRecord row = read(act, job, form);
          events.store(act, FieldEvent.MESSAGE_SENT, row);
          openToDos(job.id())
              .forEach(toDo -> toDos.settle(act, toDo, "Answered: " + shortened(row.getText())));
          return row.getId();
        });
  }

  private JobMessageRecord read(Act act, LockedJob job, MessageForm form) {
    var reading = new Reading();
    String text = reading.text("text", form.text(), LONGEST);
    reading.refuseIfFaulty();
    JobMessageRecord row = database.newRecord(JOB_MESSAGE);
    row.setJobId(job.id());
    row.setText(Objects.requireNonNull(text));
    row.setSentAt(act.at());
    row.setSentBy(act.personId());
    return row;
  }

  /** One to-do for all that was said and is not answered. */
  private long toDoOf(Act act, LockedJob job, String text) {
    List<Long> open = openToDos(job.id());
    return open.isEmpty()
        ? toDos.insertForOffice(
            act,
            act.personId(),
            ToDoForm.ofJob(
                "%s asks about job %d, %s: “%s”"
                    .formatted(
                        database.fetchValue(PERSON.NAME, PERSON.ID.eq(act.personId())),
                        job.number(),
                        database.fetchValue(CUSTOMER.NAME, CUSTOMER.ID.eq(job.customerId())),
                        shortened(text)),
                act.today(),
                job.customerId(),
                job.id()))
        : open.getFirst();
  }

  private List<Long> openToDos(long jobId) {
    return database
        .selectDistinct(TO_DO.ID)
        .from(TO_DO)
        .join(JOB_MESSAGE)
        .on(JOB_MESSAGE.TO_DO_ID.eq(TO_DO.ID))
        .where(JOB_MESSAGE.JOB_ID.eq(jobId).and(TO_DO.STATE.eq(ToDoState.OPEN)))
        .orderBy(TO_DO.ID)
        .fetch(TO_DO.ID);
  }

  private static String shortened(String text) {
    return text.length() <= 160 ? text : text.substring(0, 160) + "…";
  }

  /** Somebody on the visit has seen what the office says about its job. */
  void see(Act act, long visitId) {
    LockedVisit visit = OwnVisit.require(visits.lock(visitId), act.personId());
    List<JobMessageRecord> unseen =
        database
            .selectFrom(JOB_MESSAGE)
            .where(JOB_MESSAGE.JOB_ID.eq(visit.job().id()))
            .and(JOB_MESSAGE.VISIT_ID.isNull().and(JOB_MESSAGE.SEEN_AT.isNull()))
            .fetch();
    unseen.forEach(message -> message.setSeenAt(act.at()));
    events.updateAll(act, FieldEvent.MESSAGE_SEEN, unseen);
  }

  /** What was said about a job, as it was said. */
  @Transactional(readOnly = true)
  List<JobMessage> list(Act act, long jobId) {
    Field<List<JobMessage>> messages = ofJob(act.zone());
    return database
        .select(messages)
        .from(JOB)
        .where(JOB.ID.eq(jobId))
        .fetchOptional(messages)
        .orElse(List.of());
  }
}
