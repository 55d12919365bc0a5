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
import app.pragmata.core.Rule;
import app.pragmata.core.field.TalkSide;
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
 * What technicians, the office and the customer say to each other about a job. What comes to the
 * office is a to-do until it is answered; what goes to site is marked on the phone until it is
 * seen, and what goes to the customer until they open their page.
 */
@Service
@Transactional
public class JobMessages {
  /**
   * What somebody says.
   *
   * @param to whom it is for; null from site for the office, and from the office for the site
   */
  public record MessageForm(@Nullable String text, @Nullable TalkSide to) {}

  /**
   * A message.
   *
   * @param seenAt when whom it is for saw it; null until then, and of what the office is told
   */
  public record JobMessage(
      long id,
      String text,
      LocalDateTime sentAt,
      String sentBy,
      TalkSide from,
      TalkSide to,
      @Nullable LocalDateTime seenAt) {}

  private static final int LONGEST = 1_000;

  private final DSLContext database;
  private final VisitStore visits;
  private final ReachableCustomer reachable;
  private final ToDoService toDos;
  private final RepeatableRequests repeats;
  private final Events events;

  JobMessages(
      DSLContext database,
      VisitStore visits,
      ReachableCustomer reachable,
      ToDoService toDos,
      RepeatableRequests repeats,
      Events events) {
    this.database = database;
    this.visits = visits;
    this.reachable = reachable;
    this.toDos = toDos;
    this.repeats = repeats;
    this.events = events;
  }

  /** What was said about the job that is selected, as it was said. */
  public static Field<List<JobMessage>> ofJob(ZoneId zone) {
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
                          row.getFromSide(),
                          row.getToSide(),
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
                .and(JOB_MESSAGE.TO_SIDE.eq(TalkSide.SITE).and(JOB_MESSAGE.SEEN_AT.isNull())))
        .as("unseen_messages");
  }

  /** From site to the office or to the customer; gives its id. */
  public long send(Act act, @Nullable String key, long visitId, MessageForm form) {
    return repeats.once(
        act,
        key,
        "send message from site",
        visitId + " " + form,
        () -> send(act, OwnVisit.require(visits.lock(visitId), act.personId()), form));
  }

  /**
   * The same inside the caller's transaction.
   *
   * @param visit locked
   */
  long send(Act act, LockedVisit visit, MessageForm form) {
    return store(act, visit.job(), read(act, visit.job(), TalkSide.SITE, visit.id(), form));
  }

  /**
   * From the office to whoever is on the job's visits, or to the customer; gives its id. What they
   * asked is answered.
   */
  public long sendFromOffice(Act act, @Nullable String key, long jobId, MessageForm form) {
    return repeats.once(
        act,
        key,
        "send message from office",
        jobId + " " + form,
        () -> {
          LockedJob job = visits.lockJob(jobId);
          JobMessageRecord row = read(act, job, TalkSide.OFFICE, null, form);
          store(act, job, row);
          openToDos(job.id(), row.getToSide())
              .forEach(toDo -> toDos.settle(act, toDo, "Answered: " + shortened(row.getText())));
          return row.getId();
        });
  }

  /** From the customer to the office, on their page of the job. */
  public void sendFromCustomer(Act act, @Nullable String key, long jobId, @Nullable String text) {
    repeats.once(
        act,
        key,
        "message from customer",
        jobId + " " + text,
        jobId,
        () -> {
          LockedJob job = visits.lockJob(jobId);
          store(
              act,
              job,
              read(act, job, TalkSide.CUSTOMER, null, new MessageForm(text, TalkSide.OFFICE)));
        });
  }

  private JobMessageRecord read(
      Act act, LockedJob job, TalkSide from, @Nullable Long visitId, MessageForm form) {
    var reading = new Reading();
    String text = reading.text("text", form.text(), LONGEST);
    TalkSide to =
        Objects.requireNonNullElse(
            form.to(), from == TalkSide.OFFICE ? TalkSide.SITE : TalkSide.OFFICE);
    if (to == from) {
      reading.fault("to", Rule.NOT_AN_OPTION, "Say it to somebody else than yourselves.");
    } else if (to == TalkSide.CUSTOMER && !reachable.of(job.id())) {
      reading.fault(
          "to",
          Rule.MISSING,
          "Nobody knows where to write to this customer. Enter their mail address or telephone number first.");
    }
    reading.refuseIfFaulty();
    JobMessageRecord row = database.newRecord(JOB_MESSAGE);
    row.setJobId(job.id());
    row.setFromSide(from);
    row.setToSide(to);
    row.setVisitId(visitId);
    row.setText(Objects.requireNonNull(text));
    row.setSentAt(act.at());
    row.setSentBy(act.personId());
    return row;
  }

  private long store(Act act, LockedJob job, JobMessageRecord row) {
    if (row.getToSide() == TalkSide.OFFICE) {
      row.setToDoId(toDoOf(act, job, row));
    }
    events.store(act, FieldEvent.MESSAGE_SENT, row);
    return row.getId();
  }

  /** One to-do for all that a side said and that is not answered. */
  private long toDoOf(Act act, LockedJob job, JobMessageRecord row) {
    List<Long> open = openToDos(job.id(), row.getFromSide());
    String customer = database.fetchValue(CUSTOMER.NAME, CUSTOMER.ID.eq(job.customerId()));
    String says =
        row.getFromSide() == TalkSide.CUSTOMER
            ? "%s asks about job %d".formatted(customer, job.number())
            : "%s asks about job %d, %s"
                .formatted(
                    database.fetchValue(PERSON.NAME, PERSON.ID.eq(act.personId())),
                    job.number(),
                    customer);
    return open.isEmpty()
        ? toDos.insertForOffice(
            act,
            act.personId(),
            ToDoForm.ofJob(
                "%s: “%s”".formatted(says, shortened(row.getText())),
                act.today(),
                job.customerId(),
                job.id()))
        : open.getFirst();
  }

  private List<Long> openToDos(long jobId, TalkSide from) {
    return database
        .selectDistinct(TO_DO.ID)
        .from(TO_DO)
        .join(JOB_MESSAGE)
        .on(JOB_MESSAGE.TO_DO_ID.eq(TO_DO.ID))
        .where(JOB_MESSAGE.JOB_ID.eq(jobId).and(JOB_MESSAGE.FROM_SIDE.eq(from)))
        .and(TO_DO.STATE.eq(ToDoState.OPEN))
        .orderBy(TO_DO.ID)
        .fetch(TO_DO.ID);
  }

  private static String shortened(String text) {
    return text.length() <= 160 ? text : text.substring(0, 160) + "…";
  }

  /** Somebody on the visit has seen what the office says about its job. */
  public void see(Act act, long visitId) {
    LockedVisit visit = OwnVisit.require(visits.lock(visitId), act.personId());
    see(act, visit.job().id(), TalkSide.SITE);
  }

  /** The customer has seen what was said to them about a job. */
  public void seeAsCustomer(Act act, long jobId) {
    see(act, jobId, TalkSide.CUSTOMER);
  }

  private void see(Act act, long jobId, TalkSide side) {
    List<JobMessageRecord> unseen =
        database
            .selectFrom(JOB_MESSAGE)
            .where(JOB_MESSAGE.JOB_ID.eq(jobId))
            .and(JOB_MESSAGE.TO_SIDE.eq(side).and(JOB_MESSAGE.SEEN_AT.isNull()))
            .fetch();
    unseen.forEach(message -> message.setSeenAt(act.at()));
    events.updateAll(act, FieldEvent.MESSAGE_SEEN, unseen);
  }

  /** What was said about a job, as it was said. */
  @Transactional(readOnly = true)
  public List<JobMessage> list(Act act, long jobId) {
    Field<List<JobMessage>> messages = ofJob(act.zone());
    return database
        .select(messages)
        .from(JOB)
        .where(JOB.ID.eq(jobId))
        .fetchOptional(messages)
        .orElse(List.of());
  }
}
