package app.pragmata.server.mail;

/** A mail server that takes our mail in place of the one that is set. */
public record MailServer(String host, int port) {}
