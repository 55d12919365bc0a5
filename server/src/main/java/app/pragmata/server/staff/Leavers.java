package app.pragmata.server.staff;

import static app.pragmata.server.generated.Tables.PERSON;

import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.records.Act;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Lets those go whose last day is over. */
@Component
public class Leavers {
  private static final Duration LOOKED_FOR_EVERY = Duration.ofMinutes(5);

  private final DSLContext database;
  private final StaffService staff;
  private final CompanyStore companies;
  private final Clock clock;

  Leavers(DSLContext database, StaffService staff, CompanyStore companies, Clock clock) {
    this.database = database;
    this.staff = staff;
    this.companies = companies;
    this.clock = clock;
  }

  @Bean
  static Task<Void> leaving(Leavers leavers) {
    return Tasks.recurring("leaving", FixedDelay.of(LOOKED_FOR_EVERY))
        .execute((work, context) -> leavers.letGo());
  }

  /** All of them by now; the last owner stays until there is another. */
  @Transactional
  public void letGo() {
    var due =
        database
            .selectFrom(PERSON)
            .where(PERSON.ACTIVE)
            .and(PERSON.LAST_DAY.isNotNull())
            .orderBy(PERSON.ID)
            .forUpdate()
            .fetch();
    if (!due.isEmpty()) {
      Act act = Act.ofProgram(clock.instant(), companies.getZone());
      due.stream()
          .filter(row -> row.getLastDay().isBefore(act.today()) && !staff.isLastOwner(row))
          .forEach(row -> staff.leaveNow(act, row));
    }
  }
}
