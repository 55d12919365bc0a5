package app.pragmata.core.field;

import app.pragmata.core.Coded;

/** What a technician can do on the phone while there is no network. */
public enum PocketStep implements Coded {
  DRIVE,
  ARRIVE,
  START_WORK,
  PAUSE,
  FINISH,
  START_CLOCK,
  STOP_CLOCK,
  USE_PART,
  PUT_PART_BACK,
  NOTE_SERIAL_NUMBER,
  NOTE_UNLISTED_PART,
  WANT_PART,
  ANSWER_CHECKLIST,
  SEND_MESSAGE,
  TELL_LATE,
  HAND_BACK;

  /** Whether it is done on no visit. */
  public boolean isOffVisit() {
    return this == START_CLOCK || this == STOP_CLOCK;
  }
}
