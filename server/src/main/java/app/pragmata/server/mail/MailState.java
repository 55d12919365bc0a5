package app.pragmata.server.mail;

import app.pragmata.core.Coded;

/** How far a message is on its way out. */
public enum MailState implements Coded {
  WAITING,
  /** A server has taken it up and is handing it over. */
  GOING_OUT,
  SENT,
  UNDELIVERABLE
}
