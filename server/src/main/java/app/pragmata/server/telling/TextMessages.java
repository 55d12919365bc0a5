package app.pragmata.server.telling;

import static app.pragmata.server.generated.Tables.TEXT_MESSAGE;

import app.pragmata.server.generated.tables.records.TextMessageRecord;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.LaterWork;
import app.pragmata.server.records.Retention;
import com.github.kagkarlsson.scheduler.task.FailureHandler;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;

/** Text messages wait inside the transaction that writes them, and go out once it is committed. */
@Component
public class TextMessages implements Retention.KeptForAWhile {
  private static final Duration KEPT = Duration.ofDays(2 * 365);
  private static final Duration TRIED_AGAIN_AFTER = Duration.ofMinutes(1);
  private static final int MOST_LISTED = 200;

  private static final TaskDescriptor<Long> TASK = TaskDescriptor.of("text", Long.class);

  private final DSLContext database;
  private final TextGateway gateway;
  private final LaterWork later;
  private final Clock clock;

  TextMessages(DSLContext database, TextGateway gateway, LaterWork later, Clock clock) {
    this.database = database;
    this.gateway = gateway;
    this.later = later;
    this.clock = clock;
  }

  @Bean
  static Task<Long> textTask(TextMessages texts) {
    return Tasks.oneTime(TASK)
        .onFailure(new FailureHandler.OnFailureRetryLater<Long>(TRIED_AGAIN_AFTER))
        .execute((work, context) -> texts.send(work.getData()));
  }

  /** Has a message sent. */
  public void queue(Act act, String toNumber, String body) {
    TextMessageRecord row = database.newRecord(TEXT_MESSAGE);
    row.setToNumber(toNumber);
    row.setBody(body);
    row.setQueuedAt(act.at());
    row.store();
    later.soon(TASK.instance(Long.toString(row.getId())).data(row.getId()).build());
  }

  private void send(long id) {
    TextMessageRecord row =
        database.selectFrom(TEXT_MESSAGE).where(TEXT_MESSAGE.ID.eq(id)).fetchOne();
    if (row == null || row.getSentAt() != null) {
      return;
    }
    gateway.send(id, row.getToNumber(), row.getBody());
    row.setSentAt(clock.instant());
    row.store();
  }

  /** The newest first. */
  List<TextMessageRecord> list() {
    return database
        .selectFrom(TEXT_MESSAGE)
        .orderBy(TEXT_MESSAGE.QUEUED_AT.desc(), TEXT_MESSAGE.ID.desc())
        .limit(MOST_LISTED)
        .fetch();
  }

  @Override
  public void forget(Instant now) {
    database
        .deleteFrom(TEXT_MESSAGE)
        .where(TEXT_MESSAGE.SENT_AT.isNotNull())
        .and(TEXT_MESSAGE.QUEUED_AT.lt(now.minus(KEPT)))
        .execute();
  }
}
