package app.pragmata.core.jobs;

import app.pragmata.core.Coded;
import java.time.LocalDate;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Where a visit stands. Each state offers only the moves that may follow it, so a wrong move cannot
 * be written: what the technician calls finished and what the office calls checked are two acts.
 */
public sealed interface VisitState {
  /** A visit that may still be dropped: not this time (the work stays wanted) or called off. */
  sealed interface Droppable extends VisitState {
    default NotThisTime notThisTime() {
      return new NotThisTime();
    }

    default CalledOff callOff() {
      return new CalledOff();
    }
  }

  /** A visit that the office may still move to another technician or time. */
  sealed interface Plannable extends Droppable {
    default Planned plan() {
      return new Planned();
    }
  }

  record Unplanned() implements Plannable {}

  record Planned() implements Plannable {
    /** Back to those that wait for a time. */
    public Unplanned unplan() {
      return new Unplanned();
    }

    public Driving drive() {
      return new Driving();
    }

    /** Without a drive: the technician was next door. */
    public OnSite arrive() {
      return new OnSite();
    }

    /** Nobody tapped anything: the office writes down afterwards what was done. */
    public Finished writeDown() {
      return new Finished();
    }
  }

  record Driving() implements Droppable {
    public OnSite arrive() {
      return new OnSite();
    }
  }

  record OnSite() implements Droppable {
    public Finished finish() {
      return new Finished();
    }
  }

  record Finished() implements Droppable {
    public Checked check() {
      return new Checked();
    }
  }

  record Checked() implements VisitState {
    /** Back to the desk, as long as the job is not billed; what was posted is reversed. */
    public Finished reopen() {
      return new Finished();
    }
  }

  record NotThisTime() implements VisitState {}

  record CalledOff() implements VisitState {}

  /** The states by name, in the order of the work. */
  enum Code implements Coded {
    UNPLANNED,
    PLANNED,
    DRIVING,
    ON_SITE,
    FINISHED,
    CHECKED,
    NOT_THIS_TIME,
    CALLED_OFF;

    /** Those that are {@link #isDropped}. */
    public static final List<Code> DROPPED =
        Arrays.stream(values()).filter(Code::isDropped).toList();

    /** Somebody is to go or is there. */
    public boolean isAhead() {
      return this == PLANNED || this == DRIVING || this == ON_SITE;
    }

    /** The technician says that it is done. */
    public boolean isOver() {
      return this == FINISHED || this == CHECKED;
    }

    /** It did not happen: what it cost stays, and nobody is charged. */
    public boolean isDropped() {
      return this == NOT_THIS_TIME || this == CALLED_OFF;
    }

    /**
     * Whether the office may write time and parts on the visit: from the first tap until the check,
     * and on a planned visit whose day has come, in case nobody tapped.
     */
    public boolean takesRecords(@Nullable LocalDate day, LocalDate today) {
      return switch (this) {
        case DRIVING, ON_SITE, FINISHED -> true;
        case PLANNED -> day != null && !day.isAfter(today);
        case UNPLANNED, CHECKED, NOT_THIS_TIME, CALLED_OFF -> false;
      };
    }
  }

  /** The state of this name, with its moves. */
  static VisitState of(Code code) {
    return switch (code) {
      case UNPLANNED -> new Unplanned();
      case PLANNED -> new Planned();
      case DRIVING -> new Driving();
      case ON_SITE -> new OnSite();
      case FINISHED -> new Finished();
      case CHECKED -> new Checked();
      case NOT_THIS_TIME -> new NotThisTime();
      case CALLED_OFF -> new CalledOff();
    };
  }

  /** The state's name. */
  default Code code() {
    return switch (this) {
      case Unplanned unplanned -> Code.UNPLANNED;
      case Planned planned -> Code.PLANNED;
      case Driving driving -> Code.DRIVING;
      case OnSite onSite -> Code.ON_SITE;
      case Finished finished -> Code.FINISHED;
      case Checked checked -> Code.CHECKED;
      case NotThisTime notThisTime -> Code.NOT_THIS_TIME;
      case CalledOff calledOff -> Code.CALLED_OFF;
    };
  }
}
