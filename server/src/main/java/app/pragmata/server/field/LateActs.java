package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.LATE_ACT;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.impl.DSL.max;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.LateActState;
import app.pragmata.core.field.PocketStep;
import app.pragmata.core.field.Tap;
import app.pragmata.server.generated.tables.records.LateActRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.LongSupplier;
import java.util.function.Supplier;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.DataIntegrityViolationException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * Takes what phones kept while they had no network. Whatever cannot be taken any more, because the
 * office changed things meanwhile, is kept and put before the office: nothing is lost, and nothing
 * is done twice.
 */
@Service
public class LateActs {
  /**
   * What was tapped, as the phone kept it.
   *
   * @param key of its first attempt
   * @param visitId null for what is done on no visit
   * @param tappedAt by the phone's clock, as is when it sent it
   * @param form as the step's own address takes it, without the two moments
   */
  public record LateActForm(
      @Nullable String key,
      @Nullable PocketStep step,
      @Nullable Long visitId,
      @Nullable Instant tappedAt,
      @Nullable Instant sentAt,
      @Nullable Map<String, Object> form) {}

  /**
   * What became of it.
   *
   * @param state null where it cannot even be kept for the office
   * @param detail why it waits for the office, or why it cannot be kept, in words; empty when it
   *     was taken
   */
  public record CameIn(@Nullable LateActState state, String detail) {}

  private static final int MOST_AT_ONCE = 50;

  /** A drawn signature is what takes most. */
  private static final int LONGEST_FORM = 250_000;

  private static final int LONGEST_DETAIL = 300;

  /** By how much two messages of one phone may differ in how long they were on their way. */
  private static final Duration LONGEST_ON_ITS_WAY = Duration.ofSeconds(60);

  private static final Duration FARTHEST = Duration.ofDays(10 * 366);

  private final DSLContext database;
  private final LateStep steps;
  private final ToDoService toDos;
  private final Events events;
  private final RepeatableRequests repeats;
  private final JsonMapper json;
  private final TransactionTemplate transaction;

  LateActs(
      DSLContext database,
      LateStep steps,
      ToDoService toDos,
      Events events,
      RepeatableRequests repeats,
      JsonMapper json,
      TransactionTemplate transaction) {
    this.database = database;
    this.steps = steps;
    this.toDos = toDos;
    this.events = events;
    this.repeats = repeats;
    this.json = json;
    this.transaction = transaction;
  }

  /**
   * Takes what a phone has kept, one after the other, each by itself; gives what became of each.
   *
   * @throws Refused where there is nothing, or more than goes at once; nothing is taken then
   */
  public List<CameIn> takeAll(Act act, @Nullable List<LateActForm> sent) {
    var reading = new Reading();
    if (sent == null || sent.isEmpty() || sent.stream().anyMatch(Objects::isNull)) {
      reading.fault("acts", Rule.MISSING, "Say what was tapped.");
    } else if (sent.size() > MOST_AT_ONCE) {
      reading.fault("acts", Rule.EXCEEDS_LIMIT, "Send at most 50 taps at once.");
    }
    reading.refuseIfFaulty();
    return Objects.requireNonNull(sent).stream().map(form -> takeOrSayWhyNot(act, form)).toList();
  }

  private CameIn takeOrSayWhyNot(Act act, LateActForm form) {
    try {
      return take(act, form);
    } catch (Refused refused) {
      return new CameIn(null, refused.faults().getFirst().message());
    }
  }

  /**
   * Does it, or keeps it for the office to answer. It has the key of the first attempt, so that one
   * that was done then is not done again.
   */
  private CameIn take(Act act, LateActForm form) {
    var reading = new Reading();
    String key = form.key();
    if (key == null) {
      reading.fault("key", Rule.MISSING, "Say by which key it is known.");
    }
    if (form.step() == null) {
      reading.fault("step", Rule.MISSING, "Say what was done.");
    } else if (form.step().needsVisit() && form.visitId() == null) {
      reading.fault("visitId", Rule.MISSING, "Say on which visit it was done.");
    }
    if (form.tappedAt() == null || form.sentAt() == null) {
      reading.fault("tappedAt", Rule.MISSING, "Say when it was tapped and when it was sent.");
    } else if (isOffByYears(form.tappedAt(), act) || isOffByYears(form.sentAt(), act)) {
      reading.fault(
          "tappedAt",
          Rule.EXCEEDS_LIMIT,
          "The clock of this phone is off by years. Set it to the network's time, then send again.");
    }
    String said = json.writeValueAsString(withoutPosition(form));
    if (said.length() > LONGEST_FORM) {
      reading.fault("form", Rule.TOO_LONG, "This is too long. Write less, or in two notes.");
    }
    reading.refuseIfFaulty();
    PocketStep step = Objects.requireNonNull(form.step());
    Long visitId = step.isOffVisit() ? null : form.visitId();
    if (visitId != null && !database.fetchExists(VISIT, VISIT.ID.eq(visitId))) {
      throw OwnVisit.notThere();
    }
    steps.check(step, whole(form, step, Duration.ZERO));
    Instant counted = countedAt(act, form);
    Duration later = Duration.between(byItself(act, form), counted);
    Supplier<LateActRecord> read = () -> read(act, step, visitId, form, said, counted);
    String content = step + " " + visitId + " " + said;
    try {
      return once(
          act,
          key,
          content,
          () -> {
            steps.take(act, key, step, visitId, whole(form, step, later));
            LateActRecord row = read.get();
            row.insert();
            return row.getId();
          });
    } catch (Refused refused) {
      return once(
          act,
          key,
          content,
          () -> keep(act, read.get(), OwnVisit.saidLater(refused.faults().getFirst().message())));
    } catch (DataIntegrityViolationException clash) {
      return once(
          act,
          key,
          content,
          () -> keep(act, read.get(), "It overlaps with other time of the same person."));
    }
  }

  private static boolean isOffByYears(Instant moment, Act act) {
    return moment.isBefore(act.at().minus(FARTHEST)) || moment.isAfter(act.at().plus(FARTHEST));
  }

  /** What it became is decided once: by whichever attempt comes through first. */
  private CameIn once(Act act, @Nullable String key, String content, LongSupplier work) {
    return Objects.requireNonNull(
        transaction.execute(
            begun -> {
              long id =
                  repeats.once(act, key == null ? null : key + " late", "late act", content, work);
              LateActRecord row =
                  database.selectFrom(LATE_ACT).where(LATE_ACT.ID.eq(id)).fetchSingle();
              return new CameIn(row.getState(), row.getDetail());
            }));
  }

  /**
   * The moment of the tap by our clock. Each message takes its own time on a poor line; what was
   * tapped later never counts before what was tapped earlier because of that.
   */
  private Instant countedAt(Act act, LateActForm form) {
    Instant tapped = Objects.requireNonNull(form.tappedAt());
    Instant counted = byItself(act, form);
    Instant before =
        database
            .select(max(LATE_ACT.COUNTED_AT))
            .from(LATE_ACT)
            .where(LATE_ACT.PERSON_ID.eq(act.personId()).and(LATE_ACT.TAPPED_AT.le(tapped)))
            .and(LATE_ACT.COUNTED_AT.le(counted.plus(LONGEST_ON_ITS_WAY)))
            .fetchSingle()
            .value1();
    return before != null && before.isAfter(counted) ? before : counted;
  }

  /** Where somebody tapped is kept for its days in its own place, and not with the tap. */
  private static Map<String, Object> withoutPosition(LateActForm form) {
    var kept = new HashMap<String, Object>(form.form() == null ? Map.of() : form.form());
    kept.remove("position");
    return kept;
  }

  private static Instant byItself(Act act, LateActForm form) {
    return Tap.corrected(
        Objects.requireNonNull(form.tappedAt()), Objects.requireNonNull(form.sentAt()), act.at());
  }

  private LateActRecord read(
      Act act,
      PocketStep step,
      @Nullable Long visitId,
      LateActForm form,
      String said,
      Instant counted) {
    Instant tapped = Objects.requireNonNull(form.tappedAt());
    Instant sent = Objects.requireNonNull(form.sentAt());
    LateActRecord row = database.newRecord(LATE_ACT);
    row.setPersonId(act.personId());
    row.setVisitId(visitId);
    row.setStep(step);
    row.setForm(said);
    row.setTappedAt(tapped);
    row.setSentAt(sent);
    row.setCountedAt(counted);
    row.setCameInAt(act.at());
    row.setState(LateActState.TAKEN);
    return row;
  }

  /** With when it was tapped, later by as much as it counts later than its own message says. */
  private static Map<String, Object> whole(
      LateActForm form, PocketStep step, Duration countedLater) {
    var whole = new HashMap<String, Object>(form.form() == null ? Map.of() : form.form());
    if (step.isTimed()) {
      whole.put("tappedAt", Objects.requireNonNull(form.tappedAt()).plus(countedLater));
      whole.put("sentAt", form.sentAt());
    }
    return whole;
  }

  private long keep(Act act, LateActRecord row, @Nullable String why) {
    String detail = why == null || why.isEmpty() ? "It could not be taken." : why;
    row.setState(LateActState.WAITING);
    row.setDetail(detail.length() > LONGEST_DETAIL ? detail.substring(0, LONGEST_DETAIL) : detail);
    row.setToDoId(toDoOf(act, row));
    events.store(act, FieldEvent.CAME_IN_LATE, row, LateAnswers.about(database, row));
    return row.getId();
  }

  /** One to-do for all that came in late from one person on one visit. */
  private long toDoOf(Act act, LateActRecord row) {
    Long there =
        database
            .select(LATE_ACT.TO_DO_ID)
            .from(LATE_ACT)
            .where(LATE_ACT.PERSON_ID.eq(row.getPersonId()))
            .and(LATE_ACT.VISIT_ID.isNotDistinctFrom(row.getVisitId()))
            .and(LATE_ACT.STATE.eq(LateActState.WAITING))
            .limit(1)
            .fetchOne(LATE_ACT.TO_DO_ID);
    if (there != null) {
      return there;
    }
    String person =
        Objects.requireNonNull(database.fetchValue(PERSON.NAME, PERSON.ID.eq(act.personId())));
    if (row.getVisitId() == null) {
      String what = "Came in late from %s: time on no visit. Does it count?".formatted(person);
      return toDos.insertForOffice(
          act,
          act.personId(),
          new ToDoForm(0, what, null, act.today().toString(), null, null, null));
    }
    var job =
        database
            .select(JOB.ID, JOB.NUMBER, JOB.CUSTOMER_ID)
            .from(JOB)
            .join(VISIT)
            .on(VISIT.JOB_ID.eq(JOB.ID))
            .where(VISIT.ID.eq(row.getVisitId()))
            .fetchSingle();
    return toDos.insertForOffice(
        act,
        act.personId(),
        ToDoForm.ofJob(
            "Came in late from %s: job %d. Does it count?".formatted(person, job.value2()),
            act.today(),
            job.value3(),
            job.value1()));
  }
}
