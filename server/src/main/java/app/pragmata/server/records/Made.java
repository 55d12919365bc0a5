package app.pragmata.server.records;

/** Something that was made, or that goes on, and has no version of its own. */
public record Made(long id) {}
