package app.pragmata.core.field;

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
    public Driving drive() {
      return new Driving();
    }

    /** Without a drive: the technician was next door. */
    public OnSite arrive() {
      return new OnSite();
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
}
