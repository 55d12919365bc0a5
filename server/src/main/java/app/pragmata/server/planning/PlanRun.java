package app.pragmata.server.planning;

import static app.pragmata.server.generated.Tables.PLAN_PROPOSAL;

import app.pragmata.core.planning.Penalties;
import app.pragmata.core.planning.PersonDay;
import app.pragmata.core.planning.PlanProposal;
import app.pragmata.core.planning.PlanSearch;
import app.pragmata.core.planning.PlanTask;
import app.pragmata.server.generated.tables.records.PlanProposalRecord;
import app.pragmata.server.live.LiveNotices;
import app.pragmata.server.planning.PlannerStore.Days;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.ExecutionOperations;
import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.TaskDescriptor;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Duration;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.locks.LockSupport;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * Searches for a plan beside the work. The best so far is written down every second, so that it is
 * seen and can be taken whenever somebody stops the search; a search whose server was killed begins
 * anew on another.
 */
@Component
class PlanRun {
  private static final Logger LOG = LoggerFactory.getLogger(PlanRun.class);
  private static final TaskDescriptor<Order> TASK = TaskDescriptor.of("plan", Order.class);
  private static final long WRITTEN_EVERY = Duration.ofSeconds(1).toNanos();

  private static final long RESTS_EVERY = Duration.ofMillis(20).toNanos();
  private static final long REST = Duration.ofMillis(2).toNanos();

  /** Which plan is searched for, for whom. */
  record Order(long proposalId, Act act) {}

  /**
   * What was found, with the visits as they were when the search began.
   *
   * @param versions by visit; whatever has another one since was changed by somebody
   */
  record Best(PlanProposal plan, Map<Long, Integer> versions) {}

  private final DSLContext database;
  private final PlannerStore store;
  private final PlannedVisits planned;
  private final RoadMap roads;
  private final LiveNotices live;
  private final TransactionTemplate transaction;
  private final JsonMapper json;

  PlanRun(
      DSLContext database,
      PlannerStore store,
      PlannedVisits planned,
      RoadMap roads,
      LiveNotices live,
      TransactionTemplate transaction,
      JsonMapper json) {
    this.database = database;
    this.store = store;
    this.planned = planned;
    this.roads = roads;
    this.live = live;
    this.transaction = transaction;
    this.json = json;
  }

  static TaskInstance<Order> of(Act act, long proposalId) {
    return TASK.instance(Long.toString(proposalId)).data(new Order(proposalId, act)).build();
  }

  @Bean
  static Task<Order> planTask(PlanRun run) {
    return Tasks.oneTime(TASK)
        .onFailure(run::failed)
        .execute((work, context) -> run.run(work.getData()));
  }

  private void failed(ExecutionComplete execution, ExecutionOperations<Order> operations) {
    Order order = (Order) execution.getExecution().taskInstance.getData();
    LOG.error(
        "The search for plan {} failed", order.proposalId(), execution.getCause().orElse(null));
    note(order.proposalId(), ProposalState.FAILED, null);
    operations.remove();
  }

  private void run(Order order) {
    PlanProposalRecord asked = fetch(order.proposalId());
    if (asked == null || asked.getState() != ProposalState.SEARCHING) {
      return;
    }
    Act act = order.act();
    LocalDateTime now = LocalDateTime.ofInstant(act.at(), act.zone());
    LocalDateTime earliest =
        asked.getFirstDay().isAfter(act.today()) ? asked.getFirstDay().atStartOfDay() : now;
    Days days = store.days(asked.getFirstDay(), asked.getLastDay(), act.at());
    List<PlannedVisit> visits = planned.visits(Arrays.asList(asked.getVisitIds()));
    Set<Long> technicians = Set.of(asked.getTechnicianIds());
    List<PersonDay> free =
        days.days().stream()
            .filter(day -> technicians.contains(day.personId()))
            .map(day -> without(day, visits))
            .toList();
    var search =
        new PlanSearch(roads, earliest, free, tasks(visits), Penalties.USUAL, order.proposalId());
    var progress = new Progress(asked, versions(visits));
    PlanProposal best = search.search(progress, progress::better);
    note(order.proposalId(), ProposalState.FOUND, new Best(best, versions(visits)));
  }

  private static PersonDay without(PersonDay day, List<PlannedVisit> visits) {
    PersonDay left = day;
    for (PlannedVisit visit : visits) {
      left = left.without(visit.id());
    }
    return left;
  }

  private List<PlanTask> tasks(List<PlannedVisit> visits) {
    Map<Long, Long> lastThere = planned.lastThere(visits.stream().map(PlannedVisit::id).toList());
    return visits.stream()
        .map(
            visit ->
                new PlanTask(
                    visit.wanted(visit.expectedMinutes()).forCrewOf(visit.people()),
                    lastThere.get(visit.id())))
        .toList();
  }

  private static Map<Long, Integer> versions(List<PlannedVisit> visits) {
    return visits.stream().collect(Collectors.toMap(PlannedVisit::id, PlannedVisit::version));
  }

  private @Nullable PlanProposalRecord fetch(long id) {
    return database.selectFrom(PLAN_PROPOSAL).where(PLAN_PROPOSAL.ID.eq(id)).fetchOne();
  }

  /** Writes down how a search stands; gives whether it is to go on. */
  private boolean note(long id, ProposalState state, @Nullable Best best) {
    return Boolean.TRUE.equals(
        transaction.execute(
            status -> {
              PlanProposalRecord row = fetch(id);
              if (row == null) {
                return false;
              }
              row.setState(state);
              if (best != null) {
                row.setBest(JSONB.valueOf(json.writeValueAsString(best)));
              }
              row.store();
              live.tell(RecordKind.VISIT);
              return !row.getStop();
            }));
  }

  /** Tells the search how much of its time is used, and everybody else what it has found. */
  private final class Progress implements PlanSearch.Effort {
    private final long id;
    private final long nanos;
    private final Map<Long, Integer> versions;
    private final long began = System.nanoTime();
    private long written = began;
    private long rested = began;
    private boolean goesOn = true;
    private @Nullable PlanProposal best;

    Progress(PlanProposalRecord asked, Map<Long, Integer> versions) {
      this.id = asked.getId();
      this.nanos = Duration.ofSeconds(asked.getSeconds()).toNanos();
      this.versions = versions;
    }

    void better(PlanProposal plan) {
      best = plan;
    }

    @Override
    public double used() {
      long now = System.nanoTime();
      if (now - rested > RESTS_EVERY) {
        // The search waits for nothing; whatever else the server does has its turn here.
        LockSupport.parkNanos(REST);
        rested = System.nanoTime();
      }
      if (now - written > WRITTEN_EVERY) {
        written = now;
        goesOn =
            note(id, ProposalState.SEARCHING, new Best(Objects.requireNonNull(best), versions));
      }
      return goesOn ? (double) (now - began) / nanos : 1;
    }
  }
}
