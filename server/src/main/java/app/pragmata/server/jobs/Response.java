package app.pragmata.server.jobs;

import app.pragmata.core.company.Priority;
import java.time.LocalDateTime;
import org.jspecify.annotations.Nullable;

/**
 * By when somebody has to be on site for a job, in the company's time.
 *
 * @param minutesLeft until then, in the hours in which it is counted; below nothing when it is late
 * @param met when somebody was there; null while nobody was
 */
public record Response(
    Priority priority,
    LocalDateTime by,
    int minutesLeft,
    boolean late,
    @Nullable LocalDateTime met) {}
