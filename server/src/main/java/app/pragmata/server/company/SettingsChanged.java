package app.pragmata.server.company;

/** Settings or terms of the company were changed in the transaction that publishes it. */
public record SettingsChanged() {}
