package app.pragmata.server.records;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.SchedulerName;
import com.github.kagkarlsson.scheduler.serializer.Serializer;
import com.github.kagkarlsson.scheduler.task.OnStartup;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.UUID;
import java.util.concurrent.Executors;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.SmartLifecycle;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;
import tools.jackson.databind.json.JsonMapper;

/**
 * Does what is done later, or over and over, once among all servers on the database: every {@link
 * Task} among the beans. Of a server that is killed another one takes the work over within half a
 * minute. When something is due is told by the machine's clock, whatever day the records are of.
 */
@Component
public class LaterWork implements SmartLifecycle {
  private static final String TABLE = "later_work";
  private static final int AT_ONCE = 4;
  private static final Duration LOOKED_FOR_EVERY = Duration.ofSeconds(1);
  private static final Duration SIGN_OF_LIFE_EVERY = Duration.ofSeconds(5);
  // Fewer are refused by db-scheduler.
  private static final int SIGNS_MISSED = 4;
  private static final Duration LONGEST_FAREWELL = Duration.ofSeconds(10);

  private final DataSource database;
  private final ObjectProvider<Task<?>> tasks;
  private final JsonMapper json;
  private volatile @Nullable Scheduler scheduler;

  LaterWork(DataSource database, ObjectProvider<Task<?>> tasks, JsonMapper json) {
    this.database = new TransactionAwareDataSourceProxy(database);
    this.tasks = tasks;
    this.json = json;
  }

  /**
   * Has something done as soon as the caller's transaction is committed, and never when it is not.
   */
  public void soon(TaskInstance<?> work) {
    Scheduler running = Objects.requireNonNull(scheduler);
    running.schedule(work, Instant.now());
    TransactionSynchronizationManager.registerSynchronization(
        new TransactionSynchronization() {
          @Override
          public void afterCommit() {
            running.triggerCheckForDueExecutions();
          }
        });
  }

  /** Has something done at a time, when the caller's transaction is committed. */
  public void at(Instant time, TaskInstance<?> work) {
    Objects.requireNonNull(scheduler).schedule(work, time);
  }

  @Override
  public void start() {
    var once = new ArrayList<Task<?>>();
    var recurring = new ArrayList<OnStartup>();
    for (Task<?> task : tasks) {
      if (task instanceof OnStartup startup) {
        recurring.add(startup);
      } else {
        once.add(task);
      }
    }
    scheduler = build(once, recurring);
    Objects.requireNonNull(scheduler).start();
  }

  @SuppressWarnings("unchecked")
  private <T extends Task<?> & OnStartup> Scheduler build(
      List<Task<?>> once, List<OnStartup> recurring) {
    return Scheduler.create(database, once)
        .startTasks((List<T>) (List<?>) recurring)
        .tableName(TABLE)
        .schedulerName(new SchedulerName.Fixed(UUID.randomUUID().toString()))
        .serializer(new Json())
        .threads(AT_ONCE)
        .executorService(Executors.newVirtualThreadPerTaskExecutor())
        .pollingInterval(LOOKED_FOR_EVERY)
        .heartbeatInterval(SIGN_OF_LIFE_EVERY)
        .missedHeartbeatsLimit(SIGNS_MISSED)
        .shutdownMaxWait(LONGEST_FAREWELL)
        .build();
  }

  @Override
  public void stop() {
    Objects.requireNonNull(scheduler).stop();
    scheduler = null;
  }

  @Override
  public boolean isRunning() {
    return scheduler != null;
  }

  /** What a task has to know, as JSON. */
  private final class Json implements Serializer {
    @Override
    public byte[] serialize(@Nullable Object data) {
      return data == null ? null : json.writeValueAsBytes(data);
    }

    @Override
    public <T> T deserialize(Class<T> type, byte @Nullable [] data) {
      return data == null ? null : json.readValue(data, type);
    }
  }
}
