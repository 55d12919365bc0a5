package app.pragmata.server.worklists;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.QUOTE;
import static app.pragmata.server.generated.Tables.TO_DO;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.row;

import app.pragmata.core.Coded;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.http.SearchWords;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.todos.ToDoService;
import app.pragmata.server.todos.ToDoState;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.OrderField;
import org.jspecify.annotations.Nullable;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** To-dos over HTTP: one's own and all, overdue first. */
@RestController
class ToDosApi {
  /** One to-do with what it is about; closed ones carry their outcome. */
  record ToDo(
      long id,
      int version,
      String what,
      long forPersonId,
      String forPerson,
      LocalDate due,
      int daysLate,
      @Nullable Long customerId,
      @Nullable String customer,
      @Nullable Long jobId,
      @Nullable Long jobNumber,
      @Nullable Long quoteId,
      @Nullable Long quoteNumber,
      ToDoState state,
      @Nullable String outcome,
      @Nullable LocalDateTime closedAt,
      @Nullable String closedBy) {}

  /** A page of to-dos; {@code next} asks for the one after it, null on the last. */
  record ToDoPage(List<ToDo> rows, @Nullable String next) {}

  /** How many of one's own are open, and how many of them late. */
  record ToDoCount(int open, int late) {}

  record CloseForm(int version, boolean done, @Nullable String outcome) {}

  private static final int PAGE = 100;

  private final ToDoService service;
  private final VersionStore versions;
  private final DSLContext database;

  ToDosApi(ToDoService service, DSLContext database, VersionStore versions) {
    this.versions = versions;
    this.service = service;
    this.database = database;
  }

  /** Whose they are. */
  enum Whose implements Coded {
    MINE,
    ALL
  }

  /** Which of them. */
  enum Which implements Coded {
    OPEN,
    CLOSED
  }

  /**
   * To-dos by their due day, the closed ones by when they were closed, newest first.
   *
   * @param filter words that occur in what is to be done or in the customer's name
   */
  @GetMapping("/api/to-dos")
  ToDoPage listToDos(
      Act act,
      @RequestParam(defaultValue = "mine") Whose whose,
      @RequestParam(defaultValue = "open") Which state,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "") String after) {
    List<ToDo> rows = list(act, whose, state, filter, after, PAGE + 1);
    boolean more = rows.size() > PAGE;
    List<ToDo> page = more ? rows.subList(0, PAGE) : rows;
    return new ToDoPage(page, more ? key(page.getLast(), act).text() : null);
  }

  @GetMapping("/api/to-dos/count")
  ToDoCount countMine(Act act) {
    return database
        .select(count(), count().filterWhere(TO_DO.DUE_DAY.lt(act.today())))
        .from(TO_DO)
        .where(TO_DO.STATE.eq(ToDoState.OPEN).and(TO_DO.FOR_PERSON_ID.eq(act.personId())))
        .fetchSingle(row -> new ToDoCount(row.value1(), row.value2()));
  }

  @GetMapping("/api/to-dos/file")
  ResponseEntity<byte[]> downloadToDos(
      Act act,
      @RequestParam(defaultValue = "mine") Whose whose,
      @RequestParam(defaultValue = "open") Which state,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("to-dos", format)
        .head("What", "For", "Due", "Customer", "Job", "Quote", "State", "Outcome", "Closed by")
        .rows(
            list(act, whose, state, filter, "", ListFile.MOST_ROWS),
            row ->
                new @Nullable Object[] {
                  row.what(),
                  row.forPerson(),
                  row.due(),
                  row.customer(),
                  row.jobNumber(),
                  row.quoteNumber(),
                  row.state().code(),
                  row.outcome(),
                  row.closedBy()
                })
        .answer();
  }

  @GetMapping("/api/to-dos/{id}")
  ToDo getToDo(Act act, @PathVariable long id) {
    return fetch(act, TO_DO.ID.eq(id), List.of(), 1).stream()
        .findFirst()
        .orElseThrow(() -> new Refused(Rule.NOT_FOUND, "There is no such to-do. Reload the list."));
  }

  private List<ToDo> list(
      Act act, Whose whose, Which state, String filter, String after, int most) {
    boolean open = state == Which.OPEN;
    Condition wanted = open ? TO_DO.STATE.eq(ToDoState.OPEN) : TO_DO.STATE.ne(ToDoState.OPEN);
    if (whose == Whose.MINE) {
      wanted = wanted.and(TO_DO.FOR_PERSON_ID.eq(act.personId()));
    }
    for (String word : SearchWords.read("filter", filter)) {
      wanted =
          wanted.and(
              TO_DO.WHAT.containsIgnoreCase(word).or(CUSTOMER.NAME.containsIgnoreCase(word)));
    }
    if (!after.isEmpty()) {
      PageKey key = PageKey.parse(after, 2);
      wanted =
          wanted.and(
              open
                  ? row(TO_DO.DUE_DAY, TO_DO.ID).gt(key.day(0), key.number(1))
                  : row(TO_DO.CLOSED_AT, TO_DO.ID)
                      .lt(Instant.ofEpochMilli(key.number(0)), key.number(1)));
    }
    return fetch(
        act,
        wanted,
        open
            ? List.of(TO_DO.DUE_DAY.asc(), TO_DO.ID.asc())
            : List.of(TO_DO.CLOSED_AT.desc(), TO_DO.ID.desc()),
        most);
  }

  private static PageKey key(ToDo last, Act act) {
    return last.closedAt() == null
        ? PageKey.of(last.due(), last.id())
        : PageKey.of(last.closedAt().atZone(act.zone()).toInstant().toEpochMilli(), last.id());
  }

  private List<ToDo> fetch(
      Act act, Condition wanted, List<? extends OrderField<?>> order, int most) {
    var closer = PERSON.as("closer");
    return database
        .select(TO_DO, PERSON.NAME, CUSTOMER.NAME, JOB.NUMBER, QUOTE.NUMBER, closer.NAME)
        .from(TO_DO)
        .join(PERSON)
        .on(PERSON.ID.eq(TO_DO.FOR_PERSON_ID))
        .leftJoin(CUSTOMER)
        .on(CUSTOMER.ID.eq(TO_DO.CUSTOMER_ID))
        .leftJoin(JOB)
        .on(JOB.ID.eq(TO_DO.JOB_ID))
        .leftJoin(QUOTE)
        .on(QUOTE.ID.eq(TO_DO.QUOTE_ID))
        .leftJoin(closer)
        .on(closer.ID.eq(TO_DO.CLOSED_BY))
        .where(noCondition().and(wanted))
        .orderBy(order)
        .limit(most)
        .fetch(
            found -> {
              var toDo = found.value1();
              boolean open = toDo.getState() == ToDoState.OPEN;
              return new ToDo(
                  toDo.getId(),
                  toDo.getVersion(),
                  toDo.getWhat(),
                  toDo.getForPersonId(),
                  found.value2(),
                  toDo.getDueDay(),
                  open
                      ? (int) Math.max(0, ChronoUnit.DAYS.between(toDo.getDueDay(), act.today()))
                      : 0,
                  toDo.getCustomerId(),
                  found.value3(),
                  toDo.getJobId(),
                  found.value4(),
                  toDo.getQuoteId(),
                  found.value5(),
                  toDo.getState(),
                  toDo.getOutcome(),
                  toDo.getClosedAt() == null
                      ? null
                      : LocalDateTime.ofInstant(toDo.getClosedAt(), act.zone()),
                  found.value6());
            });
  }

  /** Whose job or quote it is, or who is named. */
  private @Nullable Long customerOf(ToDoService.ToDoForm form) {
    if (form.jobId() != null) {
      return database
          .select(JOB.CUSTOMER_ID)
          .from(JOB)
          .where(JOB.ID.eq(form.jobId()))
          .fetchOne(JOB.CUSTOMER_ID);
    }
    return form.quoteId() == null
        ? form.customerId()
        : database
            .select(QUOTE.CUSTOMER_ID)
            .from(QUOTE)
            .where(QUOTE.ID.eq(form.quoteId()))
            .fetchOne(QUOTE.CUSTOMER_ID);
  }

  @PostMapping("/api/to-dos")
  @Transactional
  Changed addToDo(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody ToDoService.ToDoForm form) {
    return versions.changed(TO_DO.ID, service.add(act, key, form.ofCustomer(customerOf(form))));
  }

  @PutMapping("/api/to-dos/{id}")
  ToDo changeToDo(Act act, @PathVariable long id, @RequestBody ToDoService.ToDoForm form) {
    service.change(act, id, form);
    return getToDo(act, id);
  }

  @PostMapping("/api/to-dos/{id}/close")
  ToDo closeToDo(Act act, @PathVariable long id, @RequestBody CloseForm form) {
    service.close(act, id, form.version(), form.done(), form.outcome());
    return getToDo(act, id);
  }

  @PostMapping("/api/to-dos/{id}/reopen")
  ToDo reopenToDo(Act act, @PathVariable long id, @RequestBody AtVersion form) {
    service.reopen(act, id, form.version());
    return getToDo(act, id);
  }
}
