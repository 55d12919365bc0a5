package app.pragmata.server.receipts;

import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * What a customer owes, gross; late is the part past its due day, for so many days.
 *
 * @param lateSince the due day of the oldest late invoice; null when nothing is late
 * @param creditLimitMinor nil when none was agreed
 * @param overLimitMinor what is owed above the limit; nil within it or without one
 * @param stopReason why we do nothing more for this customer; null when they are not on stop
 */
public record Debt(
    long owedMinor,
    long lateMinor,
    int lateDays,
    @Nullable LocalDate lateSince,
    long creditLimitMinor,
    long overLimitMinor,
    @Nullable String stopReason) {}
