package app.pragmata.core.field;

import app.pragmata.core.Coded;

/** What a technician can do on the phone while there is no network. */
public enum PocketStep implements Coded {
  ACCEPT_VISIT,
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
  TICK_LINE,
  SEND_MESSAGE,
  TELL_LATE,
  TELL_PRICE,
  TAKE_MONEY,
  HAND_BACK,
  NOTE_TIME,
  SIGN_WEEK_OFF;

  /** Whether its form says when it was tapped: it moves a clock, or money came in on a day. */
  public boolean isTimed() {
    return switch (this) {
      case DRIVE,
          ARRIVE,
          START_WORK,
          PAUSE,
          FINISH,
          TICK_LINE,
          TAKE_MONEY,
          START_CLOCK,
          STOP_CLOCK ->
          true;
      case ACCEPT_VISIT,
          USE_PART,
          PUT_PART_BACK,
          NOTE_SERIAL_NUMBER,
          NOTE_UNLISTED_PART,
          WANT_PART,
          ANSWER_CHECKLIST,
          SEND_MESSAGE,
          TELL_LATE,
          TELL_PRICE,
          HAND_BACK,
          NOTE_TIME,
          SIGN_WEEK_OFF ->
          false;
    };
  }

  /** Whether time of somebody may come of it, or less of it than was thought. */
  public boolean isOfTime() {
    return this == NOTE_TIME || (isTimed() && this != TAKE_MONEY);
  }

  /** Whether it is done on no visit. */
  public boolean isOffVisit() {
    return this == START_CLOCK || this == STOP_CLOCK || this == SIGN_WEEK_OFF;
  }

  /** Whether it cannot be done without a visit; time that is noted by hand may be of none. */
  public boolean needsVisit() {
    return !isOffVisit() && this != NOTE_TIME;
  }
}
