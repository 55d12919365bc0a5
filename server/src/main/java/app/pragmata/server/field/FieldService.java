package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CAUSE_CODE;
import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.field.Tap;
import app.pragmata.core.jobs.VisitOutcome;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.server.checklists.VisitChecklists;
import app.pragmata.server.checklists.VisitChecklists.AnswerForm;
import app.pragmata.server.jobs.Clock;
import app.pragmata.server.jobs.ClockedWork;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.LinesDone;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.PartsUsed;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.partswanted.PartsWanted;
import app.pragmata.server.partswanted.PartsWanted.WantForm;
import app.pragmata.server.partswanted.PartsWanted.Wanted;
import app.pragmata.server.planning.PlanningService;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.stores.PartCodes;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoService.ToDoForm;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What a technician taps on a visit beside its clocks. A tap that was already taken does nothing
 * more, so a second tap is never an error.
 */
@Service
@Transactional
public class FieldService {
  /**
   * The end of a visit.
   *
   * @param causeCode why it was wrong, where the technician knows; null leaves what is known
   * @param outcome what came of it; null is done
   * @param reason why it is not done; empty for done
   * @param signed by whoever was there; null where nobody was
   */
  public record FinishForm(
      @Nullable String note,
      @Nullable String causeCode,
      @Nullable VisitOutcome outcome,
      @Nullable String reason,
      VisitSignatures.@Nullable SignedForm signed,
      @Nullable Boolean signsLater,
      @Nullable String endedAt,
      @Nullable Instant tappedAt,
      @Nullable Instant sentAt,
      @Nullable PositionForm position) {
    /** Done, tapped now. */
    public static FinishForm done(@Nullable String note, @Nullable String causeCode) {
      return new FinishForm(note, causeCode, null, null, null, null, null, null, null, null);
    }
  }

  /** That one comes as planned says nothing more. */
  public record ComingForm() {}

  /** Whether a promised line is done. */
  public record TickForm(
      @Nullable Long lineId,
      @Nullable Boolean done,
      @Nullable Instant tappedAt,
      @Nullable Instant sentAt) {}

  /** Why somebody cannot go. */
  public record HandBackForm(@Nullable String reason) {}

  /** How much later somebody comes than was planned, such as "20" minutes or "1:15". */
  public record LateForm(@Nullable String late) {}

  /**
   * A part from the van; the quantity as typed.
   *
   * @param code what was scanned from its box; null or empty for nothing
   */
  public record PartForm(@Nullable Long partId, @Nullable String quantity, @Nullable String code) {}

  private static final int LONGEST_NOTE = 4_000;
  private static final int LONGEST_REASON = 300;
  private static final int LATEST = 480;
  private static final Map<VisitOutcome, String> SAID_OF =
      Map.of(
          VisitOutcome.NOT_LET_IN, "could not get in", VisitOutcome.DECLINED, "customer declined");

  private final VisitStore visits;
  private final TimeEntries times;
  private final Clocks clocks;
  private final PartsUsed parts;
  private final PartCodes codes;
  private final BeforeFinish captures;
  private final PartsWanted wanted;
  private final VisitChecklists checklists;
  private final LinesDone lines;
  private final PlanningService planning;
  private final VisitSignatures signatures;
  private final TapPositions positions;
  private final ToDoService toDos;
  private final RepeatableRequests repeats;
  private final DSLContext database;

  FieldService(
      VisitStore visits,
      TimeEntries times,
      Clocks clocks,
      PartsUsed parts,
      PartCodes codes,
      BeforeFinish captures,
      PartsWanted wanted,
      VisitChecklists checklists,
      LinesDone lines,
      PlanningService planning,
      VisitSignatures signatures,
      TapPositions positions,
      ToDoService toDos,
      RepeatableRequests repeats,
      DSLContext database) {
    this.visits = visits;
    this.times = times;
    this.clocks = clocks;
    this.parts = parts;
    this.codes = codes;
    this.captures = captures;
    this.wanted = wanted;
    this.checklists = checklists;
    this.lines = lines;
    this.planning = planning;
    this.signatures = signatures;
    this.positions = positions;
    this.toDos = toDos;
    this.repeats = repeats;
    this.database = database;
  }

  /**
   * Stops the clocks and hands the visit to the office; the note may be empty. Whoever comes along
   * stops only their own clock: the visit is finished by who is responsible for it.
   */
  public void finish(Act act, @Nullable String key, long visitId, FinishForm form) {
    Said said = read(form);
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    once(
        act,
        key,
        "finish",
        visitId,
        said.content() + " " + form.endedAt(),
        locked -> {
          if (locked.state() instanceof VisitState.Finished) {
            return;
          }
          VisitState.OnSite onSite = OwnVisit.requireOnSite(locked);
          positions.note(act, form.position(), moment);
          if (!locked.isResponsible(act.personId())) {
            locked
                .running(act.personId())
                .ifPresent(
                    own ->
                        times.stop(
                            act,
                            own,
                            locked,
                            clocks.endOf(act, own, form.endedAt(), moment),
                            BigDecimal.ZERO));
            step(act, JobEvent.VISIT_PAUSED, locked, onSite);
            return;
          }
          boolean kept = stopAll(act, locked, form.endedAt(), moment);
          if (said.outcome().takesWork() && !locked.isWorked() && !kept) {
            throw new Refused(
                Rule.MISSING,
                "No work or part is recorded on this visit yet. Start work first, or say why nothing came of it.");
          }
          if (said.outcome() == VisitOutcome.DONE) {
            captures.require(act, locked, said);
          }
          finish(act, locked, onSite.finish(), said, moment);
        });
  }

  /** What came of a visit, read: everything may be empty but the outcome. */
  record Said(
      String note,
      @Nullable String causeCode,
      VisitOutcome outcome,
      String reason,
      VisitSignatures.@Nullable SignedForm signed,
      boolean signsLater) {
    private String content() {
      return note
          + " "
          + causeCode
          + " "
          + outcome
          + " "
          + reason
          + (signed == null ? "" : " " + signed.name() + " " + signed.rating())
          + (signsLater ? " signs later" : "");
    }
  }

  Said read(FinishForm form) {
    var reading = new Reading();
    String note = reading.optionalText("note", form.note(), LONGEST_NOTE);
    VisitOutcome outcome = Objects.requireNonNullElse(form.outcome(), VisitOutcome.DONE);
    String reason =
        outcome.takesReason()
            ? Objects.requireNonNullElse(reading.text("reason", form.reason(), LONGEST_REASON), "")
            : "";
    if (form.causeCode() != null
        && !database.fetchExists(CAUSE_CODE, CAUSE_CODE.CODE.eq(form.causeCode()))) {
      reading.fault(
          "causeCode", Rule.NOT_FOUND, "There is no such cause any more. Choose another.");
    }
    VisitSignatures.SignedForm signed = VisitSignatures.read(reading, form.signed());
    reading.refuseIfFaulty();
    return new Said(
        note,
        form.causeCode(),
        outcome,
        reason,
        signed,
        signed == null && Boolean.TRUE.equals(form.signsLater()));
  }

  /** Says what came of a visit, by whoever was responsible for it, and what follows from that. */
  void finish(
      Act act, LockedVisit locked, VisitState.Finished finished, Said said, Instant moment) {
    locked.finish(moment, said.note(), said.outcome(), said.reason());
    if (said.causeCode() != null) {
      locked.job().noteCause(said.causeCode());
    }
    if (said.signed() != null) {
      signatures.keep(act, locked, said.signed(), moment);
    } else if (said.signsLater()) {
      signatures.ask(locked, moment);
    }
    step(act, JobEvent.VISIT_FINISHED, locked, finished);
    if (said.outcome() == VisitOutcome.COME_AGAIN) {
      visits.want(act, locked.job().id(), locked.expectedMinutes(), null);
      visits.follow(act, locked.job());
    } else if (said.outcome() != VisitOutcome.DONE) {
      tellOffice(act, locked, SAID_OF.get(said.outcome()), said.reason());
    }
    wanted.noteVisitOver(act, locked.job());
  }

  /**
   * Gives a visit back that nobody has begun: it waits for somebody else, and the office knows why.
   */
  public void handBack(Act act, @Nullable String key, long visitId, HandBackForm form) {
    var reading = new Reading();
    String reason = reading.text("reason", form.reason(), LONGEST_REASON);
    reading.refuseIfFaulty();
    repeats.once(
        act,
        key,
        "hand back",
        visitId + " " + reason,
        visitId,
        () -> {
          LockedVisit visit = planning.handBack(act, visitId, own -> requireToHandBack(act, own));
          tellOffice(act, visit, "handed back", Objects.requireNonNull(reason));
        });
  }

  private static void requireToHandBack(Act act, LockedVisit visit) {
    OwnVisit.require(visit, act.personId());
    if (!visit.isResponsible(act.personId())) {
      throw new Refused(
          Rule.WRONG_KIND, "You only come along. Ask whoever is responsible, or the office.");
    }
  }

  /** Says that one comes as planned; whoever said so stays as they are. */
  public void accept(Act act, @Nullable String key, long visitId) {
    once(
        act,
        key,
        "accept",
        visitId,
        "",
        locked -> {
          if (!(locked.state() instanceof VisitState.Planned)) {
            throw new Refused(Rule.VISIT_BEGUN, "This visit has begun, so it is accepted by that.");
          }
          if (!locked.isResponsible(act.personId())) {
            throw new Refused(
                Rule.WRONG_KIND, "You only come along. Whoever is responsible accepts it.");
          }
          if (locked.acceptedAt() == null) {
            locked.accept(act.at());
            step(act, JobEvent.VISIT_ACCEPTED, locked, locked.state());
          }
        });
  }

  /** Says that one comes later than planned, today; the customer is told. */
  public void beLate(Act act, @Nullable String key, long visitId, LateForm form) {
    var reading = new Reading();
    Integer minutes = reading.required("late", form.late(), FieldService::minutesLate);
    reading.refuseIfFaulty();
    once(
        act,
        key,
        "late",
        visitId,
        minutes + "",
        locked -> {
          boolean ahead =
              locked.state() instanceof VisitState.Planned
                  || locked.state() instanceof VisitState.Driving;
          if (!ahead || !act.today().equals(locked.day())) {
            throw new Refused(
                Rule.VISIT_BEGUN, "One is late for a visit of today that has not begun on site.");
          }
          locked.beLate(Objects.requireNonNull(minutes));
          step(act, JobEvent.VISIT_LATE, locked, locked.state());
        });
  }

  /** A bare number is minutes. */
  private static int minutesLate(String typed) {
    int minutes = typed.matches("\\d{1,3}") ? Integer.parseInt(typed) : Minutes.parse(typed);
    if (minutes < 5 || minutes > LATEST) {
      throw new Unreadable(
          Rule.EXCEEDS_LIMIT,
          "Say between 5 minutes and 8 hours, like 20 or 1:15. For another day hand it back.");
    }
    return minutes;
  }

  private void tellOffice(Act act, LockedVisit visit, @Nullable String what, String reason) {
    String said =
        "%s: job %d, %s. “%s”"
            .formatted(
                database.fetchValue(PERSON.NAME, PERSON.ID.eq(act.personId())),
                visit.job().number(),
                what,
                reason);
    toDos.insertForOffice(
        act,
        act.personId(),
        ToDoForm.ofJob(said, act.today(), visit.job().customerId(), visit.job().id()));
  }

  private void once(
      Act act,
      @Nullable String key,
      String step,
      long visitId,
      String said,
      Consumer<LockedVisit> take) {
    repeats.once(
        act, key, step, visitId + " " + said, visitId, () -> take.accept(lockOwn(act, visitId)));
  }

  /** Takes a part from the van; gives the id of the use. */
  public long addPart(Act act, @Nullable String key, long visitId, PartForm form) {
    return repeats.once(
        act,
        key,
        "use part",
        visitId + " " + form,
        () -> {
          var reading = new Reading();
          String code = PartCodes.read(reading, form.code());
          reading.refuseIfFaulty();
          BigDecimal quantity = readQuantity(form);
          var locked = lockOwn(act, visitId);
          OwnVisit.requireRunning(locked);
          long partId = Objects.requireNonNull(form.partId());
          long id = parts.add(act, JobEvent.PART_USED, locked, partId, quantity);
          wanted.noteUse(act, locked.job(), partId, quantity, id);
          if (code != null) {
            codes.note(act, code, partId);
          }
          return id;
        });
  }

  /** Answers a question of a checklist; gives the answer's id. */
  public long answerChecklist(Act act, @Nullable String key, long visitId, AnswerForm form) {
    return repeats.once(
        act,
        key,
        "answer checklist",
        visitId + " " + form,
        () -> {
          LockedVisit locked = lockOwn(act, visitId);
          OwnVisit.requireOnSite(locked);
          return checklists.answer(act, locked, form, "");
        });
  }

  /**
   * Ticks a promised line off as done, or takes that back. Whoever worked on it by their clock
   * works on from then, on no line.
   */
  public void tickLine(Act act, @Nullable String key, long visitId, TickForm form) {
    var reading = new Reading();
    if (form.lineId() == null || form.done() == null) {
      reading.fault("lineId", Rule.MISSING, "Say which line, and whether it is done.");
    }
    reading.refuseIfFaulty();
    long line = Objects.requireNonNull(form.lineId());
    boolean done = Objects.requireNonNull(form.done());
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    once(
        act,
        key,
        "tick line",
        visitId,
        line + " " + done,
        locked -> {
          OwnVisit.requireOnSite(locked);
          lines.tick(act, locked, line, done, moment);
          if (done) {
            // A clock that was forgotten on an earlier day waits until it is said when it ended.
            LocalDate day = act.dayOf(moment);
            locked.running().stream()
                .filter(clock -> Objects.equals(clock.lineId(), line) && day.equals(clock.day()))
                .forEach(clock -> goOn(act, locked, clock, moment));
          }
        });
  }

  private void goOn(Act act, LockedVisit locked, Clock clock, Instant moment) {
    Instant ended = moment.isBefore(clock.startedAt()) ? clock.startedAt() : moment;
    times.stop(act, clock, locked, TimeEntries.End.at(ended), BigDecimal.ZERO);
    times.start(act, locked, clock.personId(), ClockedWork.LABOUR, ended);
  }

  /** Notes at once what is missing; gives its id. */
  public long wantPart(Act act, @Nullable String key, long visitId, WantForm form) {
    return repeats.once(
        act,
        key,
        "want part on visit",
        visitId + " " + form,
        () -> wanted.want(act, lockOwn(act, visitId), form));
  }

  /** Fits a part that the job waited for; one of the price list is taken from the van. */
  public void fitWantedPart(
      Act act, @Nullable String key, long visitId, long partWantedId, int version) {
    once(
        act,
        key,
        "fit wanted part",
        visitId,
        partWantedId + "",
        locked -> {
          OwnVisit.requireRunning(locked);
          Wanted part = wanted.getOpen(locked.job().id(), partWantedId, version);
          if (part.partId() == null) {
            wanted.fit(act, partWantedId, version);
          } else {
            long use = parts.add(act, JobEvent.PART_USED, locked, part.partId(), part.quantity());
            wanted.fitBy(act, locked.job(), partWantedId, use);
          }
        });
  }

  /** Takes back that a part is missing, while nobody has done anything about it. */
  public void takeWantBack(Act act, long visitId, long partWantedId, int version) {
    LockedVisit locked = lockOwn(act, visitId);
    wanted.withdraw(act, locked.job().id(), partWantedId, version);
  }

  /** Puts a part back that was added by mistake. */
  public void removePart(Act act, long visitId, long visitPartId) {
    var locked = lockOwn(act, visitId);
    OwnVisit.requireRunning(locked);
    parts
        .find(visitPartId)
        .filter(use -> use.visitId() == visitId)
        .ifPresent(
            use -> {
              parts.remove(act, locked, use, "");
              wanted.noteRemoval(act, locked.job(), visitPartId);
              visits.touch(act, locked, locked.state());
            });
  }

  static BigDecimal readQuantity(PartForm form) {
    var reading = new Reading();
    BigDecimal quantity = reading.required("quantity", form.quantity(), Reading::quantity);
    if (form.partId() == null) {
      reading.fault("partId", Rule.MISSING, "Choose a part.");
    }
    reading.refuseIfFaulty();
    return Objects.requireNonNull(quantity);
  }

  /**
   * Stops everybody's clock, at the latest when one's own ended; gives whether one has anything on
   * it. Whoever forgot theirs is asked when it really ended.
   */
  private boolean stopAll(Act act, LockedVisit locked, @Nullable String endedAt, Instant moment) {
    TimeEntries.End end =
        locked
            .running(act.personId())
            .map(own -> clocks.endOf(act, own, endedAt, moment))
            .orElseGet(() -> TimeEntries.End.at(moment));
    boolean kept = false;
    for (Clock clock : locked.running()) {
      boolean began = clock.startedAt().isBefore(end.endedAt());
      boolean forgotten =
          clock.personId() != act.personId() && clocks.forgotten(clock).isPastHours(moment);
      kept |=
          times.stop(
              act,
              clock,
              locked,
              new TimeEntries.End(
                  began ? end.endedAt() : clock.startedAt(), end.stoppedAt(), forgotten),
              BigDecimal.ZERO);
    }
    return kept;
  }

  private LockedVisit lockOwn(Act act, long visitId) {
    return OwnVisit.require(visits.lock(visitId), act.personId());
  }

  private void step(Act act, JobEvent event, LockedVisit locked, VisitState state) {
    visits.store(act, event, locked, state, "");
  }
}
