package app.pragmata.server.telling;

import static app.pragmata.server.generated.Tables.COMPANY;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.VISIT;
import static app.pragmata.server.generated.Tables.VISIT_MESSAGE;
import static org.jooq.impl.DSL.exists;
import static org.jooq.impl.DSL.notExists;
import static org.jooq.impl.DSL.selectOne;

import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.planning.TellBy;
import app.pragmata.core.planning.VisitReminder;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.records.Act;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record1;
import org.jooq.SelectConditionStep;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Reminds customers of visits on the workday before, who were told of them earlier: a visit that
 * nobody remembered costs a drive. Whoever was told today, or of another time than the visit has
 * now, is not reminded.
 */
@Component
class VisitReminders {
  private final DSLContext database;
  private final VisitNews news;
  private final CompanyStore companies;
  private final TransactionTemplate transaction;
  private final Clock clock;
  private final Duration lookedForEvery;

  VisitReminders(
      DSLContext database,
      VisitNews news,
      CompanyStore companies,
      TransactionTemplate transaction,
      Clock clock,
      @Value("${pragmata.reminders-looked-for-every:1m}") Duration lookedForEvery) {
    this.database = database;
    this.news = news;
    this.companies = companies;
    this.transaction = transaction;
    this.clock = clock;
    this.lookedForEvery = lookedForEvery;
  }

  @Bean
  static Task<Void> visitRemindersTask(VisitReminders reminders) {
    return Tasks.recurring("visit-reminders", FixedDelay.of(reminders.lookedForEvery))
        .execute((work, context) -> reminders.remind());
  }

  private void remind() {
    database
        .select(COMPANY.VISIT_REMINDER_AT)
        .from(COMPANY)
        .fetchOptional(COMPANY.VISIT_REMINDER_AT)
        .map(VisitReminder::new)
        .ifPresent(this::remind);
  }

  private void remind(VisitReminder reminder) {
    var calendar = companies.getCompany().calendar();
    Act act = Act.ofProgram(clock.instant(), calendar.zone());
    reminder
        .lastDay(LocalDateTime.ofInstant(act.at(), act.zone()), calendar)
        .ifPresent(last -> remind(act, last));
  }

  private void remind(Act act, LocalDate last) {
    List<Long> due = due(act, last).orderBy(VISIT.ID).fetch(VISIT.ID);
    for (long visit : due) {
      transaction.executeWithoutResult(
          status -> {
            // The plan may have changed since the list was read.
            boolean still =
                due(act, last).and(VISIT.ID.eq(visit)).forUpdate().of(VISIT).fetch().isNotEmpty();
            if (still) {
              news.remind(act, visit);
            }
          });
    }
  }

  private SelectConditionStep<Record1<Long>> due(Act act, LocalDate last) {
    Condition ofThisPlan =
        VISIT_MESSAGE
            .VISIT_ID
            .eq(VISIT.ID)
            .and(VISIT_MESSAGE.DAY.eq(VISIT.DAY))
            .and(VISIT_MESSAGE.START_TIME.eq(VISIT.START_TIME));
    return database
        .select(VISIT.ID)
        .from(VISIT)
        .join(JOB)
        .on(JOB.ID.eq(VISIT.JOB_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .where(VISIT.STATE.eq(VisitState.Code.PLANNED))
        .and(VISIT.DAY.gt(act.today()))
        .and(VISIT.DAY.le(last))
        .and(VISIT.TOLD_DAY.eq(VISIT.DAY))
        .and(VISIT.TOLD_START.eq(VISIT.START_TIME))
        .and(CUSTOMER.PLAN_TOLD_BY.ne(TellBy.NOBODY))
        .and(
            exists(
                selectOne()
                    .from(VISIT_MESSAGE)
                    .where(ofThisPlan)
                    .and(VISIT_MESSAGE.KIND.in(ToldKind.CONFIRMED, ToldKind.CHANGED))
                    .and(
                        VISIT_MESSAGE.TOLD_AT.lt(
                            act.today().atStartOfDay(act.zone()).toInstant()))))
        .and(
            notExists(
                selectOne()
                    .from(VISIT_MESSAGE)
                    .where(ofThisPlan)
                    .and(VISIT_MESSAGE.KIND.eq(ToldKind.REMINDED))));
  }
}
