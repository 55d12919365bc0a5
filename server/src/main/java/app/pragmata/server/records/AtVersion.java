package app.pragmata.server.records;

/** A record as whoever wants to do something with it has seen it. */
public record AtVersion(int version) {}
