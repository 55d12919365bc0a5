package app.pragmata.server.calls;

import static app.pragmata.server.generated.Tables.CALL;
import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.FAULT_CODE;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.calls.CallOutcome;
import app.pragmata.core.company.Priority;
import app.pragmata.core.jobs.VisitLength;
import app.pragmata.server.customers.Sites;
import app.pragmata.server.generated.tables.records.CallRecord;
import app.pragmata.server.jobs.JobOpening;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.todos.ToDoService;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Takes a call down together with what comes of it, in one transaction. */
@Service
@Transactional
public class CallService {
  private static final int LONGEST_ABOUT = 2_000;
  private static final int LONGEST_TITLE = 120;

  private final DSLContext database;
  private final Sites sites;
  private final JobOpening jobs;
  private final QuoteService quotes;
  private final ToDoService toDos;
  private final RepeatableRequests repeats;

  CallService(
      DSLContext database,
      Sites sites,
      JobOpening jobs,
      QuoteService quotes,
      ToDoService toDos,
      RepeatableRequests repeats) {
    this.database = database;
    this.sites = sites;
    this.jobs = jobs;
    this.quotes = quotes;
    this.toDos = toDos;
    this.repeats = repeats;
  }

  /** Takes the call down and makes what it asks for; gives the call's id. */
  public long take(Act act, @Nullable String key, CallForm form) {
    return repeats.once(act, key, "take call", form, () -> insert(act, form));
  }

  private long insert(Act act, CallForm form) {
    var reading = new Reading();
    var call = database.newRecord(CALL);
    readPlace(call, form, reading);
    String about = reading.text("about", form.about(), LONGEST_ABOUT);
    call.setTalk(reading.optionalText("talk", form.talk(), 8_000));
    String faultCode = readFaultCode(form.faultCode(), reading);
    call.setFaultCode(faultCode);
    CallOutcome outcome = form.outcome();
    call.setAt(act.at());
    call.setTakenBy(act.personId());
    Runnable make =
        switch (outcome) {
          case null -> {
            reading.fault("outcome", Rule.MISSING, "Choose what comes of the call.");
            yield () -> {};
          }
          case NOTED -> () -> {};
          case SOLVED -> {
            call.setSolution(reading.text("solution", form.solution(), 1_000));
            yield () -> {};
          }
          case JOB -> job(act, call, form, about, faultCode, reading);
          case QUOTE -> quote(act, call, form, about, reading);
          case TO_DO -> toDo(act, call, form, about, reading);
        };
    reading.refuseIfFaulty();
    call.setAbout(Objects.requireNonNull(about));
    call.setOutcome(Objects.requireNonNull(outcome));
    make.run();
    call.store();
    return call.getId();
  }

  private void readPlace(CallRecord call, CallForm form, Reading reading) {
    if (form.customerId() == null
        || !database.fetchExists(
            CUSTOMER, CUSTOMER.ID.eq(form.customerId()).and(CUSTOMER.MERGED_INTO.isNull()))) {
      reading.fault("customerId", Rule.MISSING, "Choose whose call this is.");
      return;
    }
    call.setCustomerId(form.customerId());
    if (form.siteId() != null) {
      if (sites.isOf(form.customerId(), form.siteId())) {
        call.setSiteId(form.siteId());
      } else {
        reading.fault("siteId", Rule.NOT_FOUND, "This site is not the caller's. Choose another.");
      }
    }
    sites.checkEquipment(reading, form.equipmentId(), form.siteId());
    call.setEquipmentId(form.equipmentId());
  }

  private @Nullable String readFaultCode(@Nullable String typed, Reading reading) {
    if (typed == null || typed.isBlank()) {
      return null;
    }
    if (!database.fetchExists(FAULT_CODE, FAULT_CODE.CODE.eq(typed))) {
      reading.fault("faultCode", Rule.NOT_FOUND, "There is no such fault code. Choose another.");
      return null;
    }
    return typed;
  }

  private Runnable job(
      Act act,
      CallRecord call,
      CallForm form,
      @Nullable String about,
      @Nullable String faultCode,
      Reading reading) {
    requireSite(call, reading);
    var typed = form.job() == null ? new CallForm.JobFromCall(null, null, null) : form.job();
    requireKind("job/kindOfJobId", typed.kindOfJobId(), reading);
    Priority priority = typed.priority();
    if (priority == null) {
      reading.fault("job/priority", Rule.MISSING, "Choose how pressing it is.");
    }
    Integer expected = reading.optional("job/expected", typed.expected(), VisitLength::parse);
    return () -> {
      String said = Objects.requireNonNull(about);
      String notes = said.length() > LONGEST_TITLE || said.contains("\n") ? said : "";
      call.setJobId(
          jobs.open(
              act,
              new JobOpening.NewJob(
                  call.getCustomerId(),
                  call.getSiteId(),
                  call.getEquipmentId(),
                  null,
                  Objects.requireNonNull(typed.kindOfJobId()),
                  title(said),
                  call.getTalk().isEmpty() ? notes : (notes + "\n" + call.getTalk()).strip(),
                  priority,
                  faultCode,
                  expected,
                  null,
                  null,
                  quotes.chargesOfKind(act, typed.kindOfJobId()))));
    };
  }

  private Runnable quote(
      Act act, CallRecord call, CallForm form, @Nullable String about, Reading reading) {
    requireSite(call, reading);
    var typed = form.quote() == null ? new CallForm.QuoteFromCall(null, null) : form.quote();
    requireKind("quote/kindOfJobId", typed.kindOfJobId(), reading);
    return () ->
        call.setQuoteId(
            quotes.begin(
                act,
                new QuoteService.Beginning(
                    call.getSiteId(),
                    call.getEquipmentId(),
                    Objects.requireNonNull(typed.kindOfJobId()),
                    title(Objects.requireNonNull(about)),
                    typed.likeJobId())));
  }

  private Runnable toDo(
      Act act, CallRecord call, CallForm form, @Nullable String about, Reading reading) {
    var typed = form.toDo() == null ? new CallForm.ToDoFromCall(null, null) : form.toDo();
    if (about != null && about.length() > 300) {
      reading.fault("about", Rule.TOO_LONG, "A to-do has at most 300 characters. Shorten it.");
    }
    return () ->
        call.setToDoId(
            toDos.insert(
                act,
                new ToDoService.ToDoForm(
                    0, about, typed.forPersonId(), typed.due(), call.getCustomerId(), null, null)));
  }

  private static void requireSite(CallRecord call, Reading reading) {
    if (call.getSiteId() == null) {
      reading.fault("siteId", Rule.MISSING, "Choose the site where the work is.");
    }
  }

  private void requireKind(String field, @Nullable Long kindOfJobId, Reading reading) {
    if (kindOfJobId == null || !database.fetchExists(KIND_OF_JOB, KIND_OF_JOB.ID.eq(kindOfJobId))) {
      reading.fault(field, Rule.MISSING, "Choose the kind of job.");
    }
  }

  /** The first line of what was said, cut where a title ends. */
  private static String title(String about) {
    String first = List.of(about.strip().split("\n", 2)).getFirst().strip();
    return first.length() <= LONGEST_TITLE ? first : first.substring(0, LONGEST_TITLE - 1) + "…";
  }
}
