package app.pragmata.server.mail;

import app.pragmata.core.Coded;

/** How far a message is on its way out. */
public enum MailState implements Coded {
  WAITING,
  SENT,
  UNDELIVERABLE
}
