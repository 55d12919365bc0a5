package app.pragmata.server.calls;

import app.pragmata.core.calls.CallOutcome;
import app.pragmata.core.company.Priority;
import org.jspecify.annotations.Nullable;

/**
 * A call as it was taken.
 *
 * @param about what the caller said; it becomes the title of the job or quote, or what is to be
 *     done
 * @param talk the questions and answers of a fault talk, one a line; empty without one
 * @param solution what solved it, for a call that was solved on the phone
 * @param job for the outcome job
 * @param quote for the outcome quote
 * @param toDo for the outcome to-do
 */
public record CallForm(
    @Nullable Long customerId,
    @Nullable Long siteId,
    @Nullable Long equipmentId,
    @Nullable String about,
    @Nullable String talk,
    @Nullable String faultCode,
    @Nullable CallOutcome outcome,
    @Nullable String solution,
    @Nullable JobFromCall job,
    @Nullable QuoteFromCall quote,
    @Nullable ToDoFromCall toDo) {

  /**
   * The job's kind, how pressing it is, and its expected length such as "1:30" (empty: the kind's).
   */
  public record JobFromCall(
      @Nullable Long kindOfJobId, @Nullable Priority priority, @Nullable String expected) {}

  /** The quote's kind, and an earlier job that it is to be like at today's prices, if any. */
  public record QuoteFromCall(@Nullable Long kindOfJobId, @Nullable Long likeJobId) {}

  /** For whom and by when; empty is oneself and today. */
  public record ToDoFromCall(@Nullable Long forPersonId, @Nullable String due) {}
}
