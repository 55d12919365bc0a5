package app.pragmata.server.people;

import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;

/** What happens to somebody who works here. */
public enum PersonEvent implements Event {
  PERSON_ADDED,
  PERSON_CHANGED,
  WAGE_CHANGED,
  ABSENCE_ADDED,
  ABSENCE_TAKEN_BACK,
  PERSON_LEAVES,
  PERSON_LEFT,
  PERSON_CAME_BACK,
  PASSWORD_LINK_MADE,
  PASSWORD_SET,
  SESSIONS_ENDED,
  WEEK_SIGNED_OFF;

  @Override
  public RecordKind kind() {
    return RecordKind.PERSON;
  }
}
