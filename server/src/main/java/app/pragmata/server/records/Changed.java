package app.pragmata.server.records;

/**
 * A record that was made or changed.
 *
 * @param version as it is by now, to be sent with the next change of it
 */
public record Changed(long id, int version) {}
