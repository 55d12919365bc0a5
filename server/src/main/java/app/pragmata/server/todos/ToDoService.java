package app.pragmata.server.todos;

import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.TO_DO;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.people.Role;
import app.pragmata.server.generated.tables.records.ToDoRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Gives people things to do, and closes them with what came of it. */
@Service
@Transactional
public class ToDoService {
  /**
   * A to-do as it is typed; an empty person is oneself, an empty day is today. It may be about a
   * customer, and a job or a quote of theirs.
   */
  public record ToDoForm(
      int version,
      @Nullable String what,
      @Nullable Long forPersonId,
      @Nullable String due,
      @Nullable Long customerId,
      @Nullable Long jobId,
      @Nullable Long quoteId) {
    private ToDoForm forPerson(long id) {
      return new ToDoForm(version, what, id, due, customerId, jobId, quoteId);
    }

    /**
     * What the program says of a job, due on a day; cut where it is longer than anybody types, for
     * whoever reads it finds all of it on the job.
     */
    public static ToDoForm ofJob(String what, LocalDate due, long customerId, long jobId) {
      return new ToDoForm(
          0,
          what.length() > LONGEST ? what.substring(0, LONGEST - 1) + "…" : what,
          null,
          due.toString(),
          customerId,
          jobId,
          null);
    }

    /** The same about this customer; null is about nobody. */
    public ToDoForm ofCustomer(@Nullable Long id) {
      return new ToDoForm(version, what, forPersonId, due, id, jobId, quoteId);
    }
  }

  private static final int LONGEST = 300;

  private final DSLContext database;
  private final RepeatableRequests repeats;
  private final Events events;

  ToDoService(DSLContext database, RepeatableRequests repeats, Events events) {
    this.database = database;
    this.repeats = repeats;
    this.events = events;
  }

  /** A new to-do; gives its id. */
  public long add(Act act, @Nullable String key, ToDoForm form) {
    return repeats.once(act, key, "add to-do", form, () -> insert(act, form));
  }

  /** A new to-do inside the caller's transaction; gives its id. */
  public long insert(Act act, ToDoForm form) {
    var row = database.newRecord(TO_DO);
    fill(row, act, form);
    row.setCustomerId(form.customerId());
    row.setJobId(form.jobId());
    row.setQuoteId(form.quoteId());
    row.setCreatedAt(act.at());
    row.setCreatedBy(act.personId());
    events.store(act, ToDoEvent.ADDED, row);
    return row.getId();
  }

  /** What came in about a quote without anybody of the office at hand; due today. Gives its id. */
  public long insertAboutQuote(
      Act act, String what, long lastPersonId, @Nullable Long customerId, @Nullable Long quoteId) {
    return insertForOffice(
        act, lastPersonId, new ToDoForm(0, what, null, null, customerId, null, quoteId));
  }

  /**
   * What came in without anybody of the office at hand: for whoever had to do with it last, or
   * somebody of the office when they are gone or are none of it. Gives its id.
   */
  public long insertForOffice(Act act, long lastPersonId, ToDoForm form) {
    long person =
        database
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.ACTIVE)
            .and(PERSON.ROLE.ne(Role.TECHNICIAN))
            .orderBy(
                PERSON.ID.eq(lastPersonId).desc(), PERSON.ROLE.eq(Role.OFFICE).desc(), PERSON.ID)
            .limit(1)
            .fetchSingle(PERSON.ID);
    return insert(act, form.forPerson(person));
  }

  /** What it asks for was done elsewhere: closes it with what came of it, if it is open. */
  public void settle(Act act, long id, String outcome) {
    ToDoRecord row = lock(id);
    if (row.getState() == ToDoState.OPEN) {
      close(act, row, true, outcome);
    }
  }

  /** What it asks for is to be done once more: opens it, if it is closed. */
  public void openAgain(Act act, long id) {
    open(act, lock(id));
  }

  /** Changes what is to be done, for whom or by when. */
  public void change(Act act, long id, ToDoForm form) {
    ToDoRecord row = lockOpen(id, form.version());
    fill(row, act, form);
    events.store(act, ToDoEvent.CHANGED, row);
  }

  /** Closes a to-do as done, or drops it, with what came of it. */
  public void close(Act act, long id, int version, boolean done, @Nullable String outcome) {
    var reading = new Reading();
    String cameOfIt = reading.text("outcome", outcome, 500);
    reading.refuseIfFaulty();
    close(act, lockOpen(id, version), done, cameOfIt);
  }

  private void close(Act act, ToDoRecord row, boolean done, @Nullable String cameOfIt) {
    row.setState(done ? ToDoState.DONE : ToDoState.DROPPED);
    row.setOutcome(cameOfIt);
    row.setClosedAt(act.at());
    row.setClosedBy(act.personId());
    events.store(act, done ? ToDoEvent.DONE : ToDoEvent.DROPPED, row);
  }

  /** Opens a closed to-do again, for whoever closed the wrong one. */
  public void reopen(Act act, long id, int version) {
    open(act, lock(id, version));
  }

  private void open(Act act, ToDoRecord row) {
    if (row.getState() == ToDoState.OPEN) {
      return;
    }
    row.setState(ToDoState.OPEN);
    row.setOutcome(null);
    row.setClosedAt(null);
    row.setClosedBy(null);
    events.store(act, ToDoEvent.OPENED_AGAIN, row);
  }

  private void fill(ToDoRecord row, Act act, ToDoForm form) {
    var reading = new Reading();
    String what = reading.text("what", form.what(), LONGEST);
    LocalDate due = reading.optional("due", form.due(), typed -> Day.parse(typed, act.today()));
    long person = form.forPersonId() == null ? act.personId() : form.forPersonId();
    if (!database.fetchExists(
        PERSON, PERSON.ID.eq(person).and(PERSON.ACTIVE).and(PERSON.ROLE.ne(Role.TECHNICIAN)))) {
      reading.fault("forPersonId", Rule.NOT_FOUND, "Choose somebody of the office.");
    }
    reading.refuseIfFaulty();
    row.setWhat(Objects.requireNonNull(what));
    row.setForPersonId(person);
    row.setDueDay(due == null ? act.today() : due);
  }

  private ToDoRecord lockOpen(long id, int version) {
    ToDoRecord row = lock(id, version);
    if (row.getState() != ToDoState.OPEN) {
      throw new Refused(
          Rule.TO_DO_CLOSED, "This is closed already. Open it again to change anything about it.");
    }
    return row;
  }

  private ToDoRecord lock(long id, int version) {
    ToDoRecord row = lock(id);
    Versions.require(version, row.getVersion());
    return row;
  }

  private ToDoRecord lock(long id) {
    ToDoRecord row = database.selectFrom(TO_DO).where(TO_DO.ID.eq(id)).forUpdate().fetchOne();
    if (row == null) {
      throw new Refused(Rule.NOT_FOUND, "There is no such to-do. Reload the list.");
    }
    return row;
  }
}
