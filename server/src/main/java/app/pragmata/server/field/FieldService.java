package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CAUSE_CODE;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.field.Tap;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.jobs.Clock;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.LockedVisit;
import app.pragmata.server.jobs.PartsUsed;
import app.pragmata.server.jobs.TimeEntries;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.partswanted.PartsWanted;
import app.pragmata.server.partswanted.PartsWanted.WantForm;
import app.pragmata.server.partswanted.PartsWanted.Wanted;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What a technician taps. A tap that was already taken does nothing more, so a second tap is never
 * an error.
 */
@Service
@Transactional
public class FieldService {
  /**
   * How a step is reported.
   *
   * @param miles of a drive that ends; may be empty
   * @param endedAt when the clock was stopped too late, as a time of that day
   * @param tappedAt when it was tapped, by the phone; null is now
   * @param sentAt when the phone sent it, so that its clock need not be right
   */
  public record StepForm(
      @Nullable String miles,
      @Nullable String endedAt,
      @Nullable Instant tappedAt,
      @Nullable Instant sentAt) {
    /** A step with nothing to say, tapped now. */
    public static final StepForm PLAIN = new StepForm(null, null, null, null);
  }

  /**
   * The end of a visit.
   *
   * @param causeCode why it was wrong, where the technician knows; null leaves what is known
   */
  public record FinishForm(
      @Nullable String note,
      @Nullable String causeCode,
      @Nullable String endedAt,
      @Nullable Instant tappedAt,
      @Nullable Instant sentAt) {}

  /** A part from the van; the quantity as typed. */
  public record PartForm(@Nullable Long partId, @Nullable String quantity) {}

  private static final int LONGEST_NOTE = 4_000;

  private final VisitStore visits;
  private final TimeEntries times;
  private final DrivesHome drivesHome;
  private final PartsUsed parts;
  private final PartsWanted wanted;
  private final RepeatableRequests repeats;
  private final DSLContext database;

  FieldService(
      VisitStore visits,
      TimeEntries times,
      DrivesHome drivesHome,
      PartsUsed parts,
      PartsWanted wanted,
      RepeatableRequests repeats,
      DSLContext database) {
    this.visits = visits;
    this.times = times;
    this.drivesHome = drivesHome;
    this.parts = parts;
    this.wanted = wanted;
    this.repeats = repeats;
    this.database = database;
  }

  public void drive(Act act, @Nullable String key, long visitId, StepForm form) {
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    once(
        act,
        key,
        "drive",
        visitId,
        "",
        locked -> {
          if (locked.state() instanceof VisitState.Planned planned) {
            times.start(act, locked, TimeEntry.Kind.DRIVE, moment);
            begin(act, JobEvent.VISIT_UNDER_WAY, locked, planned.drive(), moment);
          } else {
            requireBegun(locked);
            // The other one has begun it: one's own drive is still to come. Whoever is on site by
            // themselves has driven already, and such a tap is late.
            boolean withOthers =
                locked.state() instanceof VisitState.Driving
                    || !locked.isResponsible(act.personId());
            if (withOthers && !locked.isRecordedBy(act.personId())) {
              times.start(act, locked, TimeEntry.Kind.DRIVE, moment);
              step(act, JobEvent.VISIT_UNDER_WAY, locked, locked.state());
            }
          }
        });
  }

  /** Arrives, with or without a drive before. */
  public void arrive(Act act, @Nullable String key, long visitId, StepForm form) {
    var reading = new Reading();
    BigDecimal miles = reading.optional("miles", form.miles(), Reading::miles);
    reading.refuseIfFaulty();
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    once(
        act,
        key,
        "arrive",
        visitId,
        form.miles() + " " + form.endedAt(),
        locked -> {
          locked.job().noteResponse(moment);
          switch (locked.state()) {
            case VisitState.Planned planned ->
                begin(act, JobEvent.VISIT_ARRIVED_AT, locked, planned.arrive(), moment);
            case VisitState.Driving driving -> {
              stop(act, locked, form.endedAt(), moment, miles == null ? BigDecimal.ZERO : miles);
              step(act, JobEvent.VISIT_ARRIVED_AT, locked, driving.arrive());
            }
            default -> {
              requireBegun(locked);
              if (isRunning(locked, act, TimeEntry.Kind.DRIVE)) {
                stop(act, locked, form.endedAt(), moment, miles == null ? BigDecimal.ZERO : miles);
                step(act, JobEvent.VISIT_ARRIVED_AT, locked, locked.state());
              }
            }
          }
        });
  }

  public void startWork(Act act, @Nullable String key, long visitId, StepForm form) {
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    once(
        act,
        key,
        "start work",
        visitId,
        "",
        locked -> {
          requireOnSite(locked);
          if (locked.running(act.personId()).isEmpty()) {
            times.start(act, locked, TimeEntry.Kind.LABOUR, moment);
            step(act, JobEvent.VISIT_STARTED, locked, locked.state());
          }
        });
  }

  public void pause(Act act, @Nullable String key, long visitId, StepForm form) {
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    once(
        act,
        key,
        "pause",
        visitId,
        form.endedAt() + "",
        locked -> {
          requireOnSite(locked);
          if (isRunning(locked, act, TimeEntry.Kind.LABOUR)) {
            stop(act, locked, form.endedAt(), moment, BigDecimal.ZERO);
            step(act, JobEvent.VISIT_PAUSED, locked, locked.state());
          }
        });
  }

  /**
   * Stops the clocks and hands the visit to the office; the note may be empty. Whoever comes along
   * stops only their own clock: the visit is finished by who is responsible for it.
   */
  public void finish(Act act, @Nullable String key, long visitId, FinishForm form) {
    var reading = new Reading();
    String note = reading.optionalText("note", form.note(), LONGEST_NOTE);
    if (form.causeCode() != null
        && !database.fetchExists(CAUSE_CODE, CAUSE_CODE.CODE.eq(form.causeCode()))) {
      reading.fault(
          "causeCode", Rule.NOT_FOUND, "There is no such cause any more. Choose another.");
    }
    reading.refuseIfFaulty();
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    once(
        act,
        key,
        "finish",
        visitId,
        note + " " + form.causeCode() + " " + form.endedAt(),
        locked -> {
          if (locked.state() instanceof VisitState.Finished) {
            return;
          }
          VisitState.OnSite onSite = requireOnSite(locked);
          if (!locked.isResponsible(act.personId())) {
            stop(act, locked, form.endedAt(), moment, BigDecimal.ZERO);
            step(act, JobEvent.VISIT_PAUSED, locked, onSite);
            return;
          }
          boolean kept = stopAll(act, locked, form.endedAt(), moment);
          if (!locked.isWorked() && !kept) {
            throw new Refused(
                Rule.MISSING,
                "No work or part is recorded on this visit yet. Start work first, or tell the office that it did not happen.");
          }
          locked.finish(moment, note);
          if (form.causeCode() != null) {
            locked.job().noteCause(form.causeCode());
          }
          step(act, JobEvent.VISIT_FINISHED, locked, onSite.finish());
          wanted.noteVisitOver(act, locked.job());
        });
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
          BigDecimal quantity = readQuantity(form);
          var locked = lockOwn(act, visitId);
          requireRunningVisit(locked);
          long partId = Objects.requireNonNull(form.partId());
          long id = parts.add(act, JobEvent.PART_USED, locked, partId, quantity);
          wanted.noteUse(act, locked.job(), partId, quantity, id);
          return id;
        });
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
          requireRunningVisit(locked);
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
    requireRunningVisit(locked);
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

  /** Stops the clock that runs, if one does; gives whether it has anything on it. */
  private boolean stop(
      Act act, LockedVisit locked, @Nullable String endedAt, Instant moment, BigDecimal miles) {
    return locked
        .running(act.personId())
        .map(clock -> times.stop(act, clock, locked, endOf(clock, act, endedAt, moment), miles))
        .orElse(false);
  }

  /**
   * Stops everybody's clock, at the latest when one's own ended; gives whether one has anything on
   * it.
   */
  private boolean stopAll(Act act, LockedVisit locked, @Nullable String endedAt, Instant moment) {
    Instant end =
        locked
            .running(act.personId())
            .map(own -> endOf(own, act, endedAt, moment))
            .orElseGet(() -> TimeEntries.second(moment));
    boolean kept = false;
    for (Clock clock : locked.running()) {
      Instant its = clock.startedAt().isAfter(end) ? clock.startedAt() : end;
      kept |= times.stop(act, clock, locked, its, BigDecimal.ZERO);
    }
    return kept;
  }

  private static boolean isRunning(LockedVisit locked, Act act, TimeEntry.Kind kind) {
    return locked.running(act.personId()).filter(clock -> clock.kind() == kind).isPresent();
  }

  /** Drives home, or anywhere else that is no visit. */
  public void driveHome(Act act, @Nullable String key, StepForm form) {
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    repeats.once(
        act,
        key,
        "drive home",
        "",
        act.personId(),
        () -> {
          if (times.findOnNoVisit(act.personId()).isEmpty()) {
            times.start(act, null, TimeEntry.Kind.DRIVE, moment);
          }
        });
  }

  /** Ends the drive home. */
  public void endDriveHome(Act act, @Nullable String key, StepForm form) {
    var reading = new Reading();
    BigDecimal miles = reading.optional("miles", form.miles(), Reading::miles);
    reading.refuseIfFaulty();
    Instant moment = Tap.moment(form.tappedAt(), form.sentAt(), act.at());
    repeats.once(
        act,
        key,
        "end drive home",
        form.miles() + " " + form.endedAt(),
        act.personId(),
        () ->
            times
                .findOnNoVisit(act.personId())
                .ifPresent(
                    clock -> {
                      var days = List.of(new PersonDay(act.personId(), clock.day()));
                      drivesHome.lockAll(days);
                      times.stop(
                          act,
                          clock,
                          null,
                          endOf(clock, act, form.endedAt(), moment),
                          miles == null ? BigDecimal.ZERO : miles);
                      drivesHome.follow(act, days);
                    }));
  }

  private static Instant endOf(Clock clock, Act act, @Nullable String endedAt, Instant moment) {
    var reading = new Reading();
    LocalDate day = clock.startedAt().atZone(act.zone()).toLocalDate();
    Instant typed =
        reading.optional(
            "endedAt", endedAt, time -> Day.momentOf(Day.parseTimeOf(day, time), act.zone()));
    reading.refuseIfFaulty();
    if (typed == null) {
      return TimeEntries.second(moment);
    }
    return typed;
  }

  /** Another technician's visit is not there at all for this one. */
  private LockedVisit lockOwn(Act act, long visitId) {
    var locked = visits.lock(visitId);
    if (!locked.isOfCrew(act.personId())) {
      throw new Refused(Rule.NOT_FOUND, "This visit is not among yours. Go back to today's stops.");
    }
    return locked;
  }

  private static VisitState.OnSite requireOnSite(LockedVisit locked) {
    return switch (locked.state()) {
      case VisitState.OnSite onSite -> onSite;
      case VisitState.Planned planned -> throw new Refused(Rule.NOT_ON_SITE, "Arrive first.");
      case VisitState.Driving driving -> throw new Refused(Rule.NOT_ON_SITE, "Arrive first.");
      default -> throw over();
    };
  }

  private static void requireBegun(LockedVisit locked) {
    if (!(locked.state() instanceof VisitState.Driving
        || locked.state() instanceof VisitState.OnSite)) {
      throw over();
    }
  }

  private static void requireRunningVisit(LockedVisit locked) {
    if (!(locked.state() instanceof VisitState.OnSite)) {
      throw new Refused(
          Rule.NOT_ON_SITE,
          "Parts are recorded while you are on site. Arrive first, or ask the office to add it.");
    }
  }

  private static Refused over() {
    return new Refused(
        Rule.VISIT_OVER,
        "This visit is over or was changed by the office. Go back to today's stops.");
  }

  private void begin(
      Act act, JobEvent event, LockedVisit locked, VisitState state, Instant moment) {
    locked.begin(moment, act.zone());
    step(act, event, locked, state);
  }

  private void step(Act act, JobEvent event, LockedVisit locked, VisitState state) {
    visits.store(act, event, locked, state, "");
  }
}
