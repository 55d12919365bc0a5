package app.pragmata.server.customers;

/**
 * What a customer owes, gross; late is the part past its due day, and for how many days the oldest
 * of it has been.
 */
public record Debt(long owedMinor, long lateMinor, int lateDays) {}
