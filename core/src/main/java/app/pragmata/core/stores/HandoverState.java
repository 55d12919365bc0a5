package app.pragmata.core.stores;

import app.pragmata.core.Coded;

/** How far parts are that go from one place to another. */
public enum HandoverState implements Coded {
  WAITING,
  AGREED,
  REFUSED,
  WITHDRAWN
}
