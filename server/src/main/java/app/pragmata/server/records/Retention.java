package app.pragmata.server.records;

import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Deletes what is kept only for a while, so that the database does not grow without end. */
@Component
public class Retention {
  private static final Duration EVERY = Duration.ofHours(1);

  /** A capability's records that are of no use any more after some time. */
  public interface KeptForAWhile {
    /** Deletes what was kept long enough. */
    void forget(Instant now);
  }

  private final List<KeptForAWhile> kept;
  private final TransactionTemplate transaction;
  private final Clock clock;

  Retention(List<KeptForAWhile> kept, TransactionTemplate transaction, Clock clock) {
    this.kept = kept;
    this.transaction = transaction;
    this.clock = clock;
  }

  @Bean
  static Task<Void> retentionTask(Retention retention) {
    return Tasks.recurring("retention", FixedDelay.of(EVERY))
        .execute((work, context) -> retention.forget());
  }

  /** Deletes everything that was kept long enough by now. */
  public void forget() {
    for (KeptForAWhile each : kept) {
      transaction.executeWithoutResult(status -> each.forget(clock.instant()));
    }
  }
}
