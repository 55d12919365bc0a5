package app.pragmata.server.field;

import static app.pragmata.server.generated.Tables.CAUSE_CODE;
import static app.pragmata.server.generated.Tables.VISIT_PART;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.field.Tap;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.TimeEntryRecord;
import app.pragmata.server.generated.tables.records.VisitPartRecord;
import app.pragmata.server.jobs.DriveHomeStore.PersonDay;
import app.pragmata.server.jobs.DrivesHome;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.VisitStore;
import app.pragmata.server.records.About;
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
  private final Clocks clocks;
  private final DrivesHome drivesHome;
  private final PartsUsed parts;
  private final CompanyStore companies;
  private final RepeatableRequests repeats;
  private final DSLContext database;

  FieldService(
      VisitStore visits,
      Clocks clocks,
      DrivesHome drivesHome,
      PartsUsed parts,
      CompanyStore companies,
      RepeatableRequests repeats,
      DSLContext database) {
    this.visits = visits;
    this.clocks = clocks;
    this.drivesHome = drivesHome;
    this.parts = parts;
    this.companies = companies;
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
            clocks.start(act, locked, TimeEntry.Kind.DRIVE, moment, hours());
            begin(act, JobEvent.VISIT_UNDER_WAY, locked, planned.drive(), moment);
          } else {
            requireBegun(locked);
            // Whoever comes along has a clock of their own.
            if (!locked.recordedIds().contains(act.personId())) {
              clocks.start(act, locked, TimeEntry.Kind.DRIVE, moment, hours());
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
          // Whoever is there first has responded.
          if (locked.job().getRespondedAt() == null) {
            locked.job().setRespondedAt(moment);
          }
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
          if (locked.running(act.personId()) == null) {
            clocks.start(act, locked, TimeEntry.Kind.LABOUR, moment, hours());
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
          if (!locked.worked() && !kept) {
            throw new Refused(
                Rule.MISSING,
                "No work or part is recorded on this visit yet. Start work first, or tell the office that it did not happen.");
          }
          locked.visit().setNote(note);
          locked.visit().setFinishedAt(moment);
          if (form.causeCode() != null) {
            locked.job().setCauseCode(form.causeCode());
          }
          step(act, JobEvent.VISIT_FINISHED, locked, onSite.finish());
        });
  }

  private void once(
      Act act,
      @Nullable String key,
      String step,
      long visitId,
      String said,
      Consumer<VisitStore.Locked> take) {
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
          return parts.add(
              act, FieldEvent.PART_USED, locked, Objects.requireNonNull(form.partId()), quantity);
        });
  }

  /** Puts a part back that was added by mistake. */
  public void removePart(Act act, long visitId, long visitPartId) {
    var locked = lockOwn(act, visitId);
    requireRunningVisit(locked);
    VisitPartRecord use =
        database
            .selectFrom(VISIT_PART)
            .where(VISIT_PART.ID.eq(visitPartId).and(VISIT_PART.VISIT_ID.eq(visitId)))
            .and(VISIT_PART.REMOVED_AT.isNull())
            .fetchOne();
    if (use != null) {
      parts.remove(act, locked, use, "");
      visits.touch(act, locked, locked.state());
    }
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
      Act act,
      VisitStore.Locked locked,
      @Nullable String endedAt,
      Instant moment,
      BigDecimal miles) {
    TimeEntryRecord clock = locked.running(act.personId());
    return clock != null
        && clocks.stop(
            act, clock, endOf(clock, act, endedAt, moment), miles, hours(), partOf(locked));
  }

  /**
   * Stops everybody's clock, at the latest when one's own ended; gives whether one has anything on
   * it.
   */
  private boolean stopAll(
      Act act, VisitStore.Locked locked, @Nullable String endedAt, Instant moment) {
    TimeEntryRecord own = locked.running(act.personId());
    Instant end = own == null ? Clocks.second(moment) : endOf(own, act, endedAt, moment);
    boolean kept = false;
    for (TimeEntryRecord clock : locked.running()) {
      Instant its = clock.getStartedAt().isAfter(end) ? clock.getStartedAt() : end;
      kept |= clocks.stop(act, clock, its, BigDecimal.ZERO, hours(), partOf(locked));
    }
    return kept;
  }

  private static boolean isRunning(VisitStore.Locked locked, Act act, TimeEntry.Kind kind) {
    TimeEntryRecord clock = locked.running(act.personId());
    return clock != null && clock.getKind() == kind;
  }

  private static About partOf(VisitStore.Locked locked) {
    return About.partOf(locked.job().getId());
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
          if (clocks.findOnNoVisit(act.personId()).isEmpty()) {
            TimeEntryRecord clock = clocks.newEntry(null, act.personId(), TimeEntry.Kind.DRIVE);
            clocks.start(act, clock, moment, hours(), About.NOTHING);
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
            clocks
                .findOnNoVisit(act.personId())
                .ifPresent(
                    clock -> {
                      var days = List.of(new PersonDay(act.personId(), clock.getDay()));
                      drivesHome.lockAll(days);
                      clocks.stop(
                          act,
                          clock,
                          endOf(clock, act, form.endedAt(), moment),
                          miles == null ? BigDecimal.ZERO : miles,
                          hours(),
                          About.NOTHING);
                      drivesHome.follow(act, days);
                    }));
  }

  private static Instant endOf(
      TimeEntryRecord clock, Act act, @Nullable String endedAt, Instant moment) {
    var reading = new Reading();
    LocalDate day = clock.getStartedAt().atZone(act.zone()).toLocalDate();
    Instant typed =
        reading.optional(
            "endedAt", endedAt, time -> Day.momentOf(Day.parseTimeOf(day, time), act.zone()));
    reading.refuseIfFaulty();
    if (typed == null) {
      return Clocks.second(moment);
    }
    return typed;
  }

  /** Another technician's visit is not there at all for this one. */
  private VisitStore.Locked lockOwn(Act act, long visitId) {
    var locked = visits.lock(visitId);
    if (!locked.isOfCrew(act.personId())) {
      throw new Refused(Rule.NOT_FOUND, "This visit is not among yours. Go back to today's stops.");
    }
    return locked;
  }

  private static VisitState.OnSite requireOnSite(VisitStore.Locked locked) {
    return switch (locked.state()) {
      case VisitState.OnSite onSite -> onSite;
      case VisitState.Planned planned -> throw new Refused(Rule.NOT_ON_SITE, "Arrive first.");
      case VisitState.Driving driving -> throw new Refused(Rule.NOT_ON_SITE, "Arrive first.");
      default -> throw over();
    };
  }

  private static void requireBegun(VisitStore.Locked locked) {
    if (!(locked.state() instanceof VisitState.Driving
        || locked.state() instanceof VisitState.OnSite)) {
      throw over();
    }
  }

  private static void requireRunningVisit(VisitStore.Locked locked) {
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

  /** A visit that begins on another day than planned is a visit of that day. */
  private void begin(
      Act act, JobEvent event, VisitStore.Locked locked, VisitState state, Instant moment) {
    locked.visit().setDay(moment.atZone(act.zone()).toLocalDate());
    locked.visit().setBegunAt(moment);
    step(act, event, locked, state);
  }

  private void step(Act act, JobEvent event, VisitStore.Locked locked, VisitState state) {
    visits.store(act, event, locked, state, "");
  }

  private WorkingCalendar hours() {
    return companies.getCompany().calendar();
  }
}
