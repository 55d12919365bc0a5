package app.pragmata.server.todos;

import app.pragmata.core.Coded;

/** What became of something that was to be done. */
public enum ToDoState implements Coded {
  OPEN,
  DONE,
  DROPPED
}
