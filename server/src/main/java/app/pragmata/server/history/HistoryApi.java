package app.pragmata.server.history;

import static app.pragmata.server.generated.Tables.AUDIT_ENTRY;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PERSON;
import static org.jooq.impl.DSL.any;
import static org.jooq.impl.DSL.array;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.when;

import app.pragmata.server.billing.BillingEvent;
import app.pragmata.server.calls.CallEvent;
import app.pragmata.server.checklists.ChecklistEvent;
import app.pragmata.server.claims.ClaimEvent;
import app.pragmata.server.company.CompanyEvent;
import app.pragmata.server.customers.CustomerEvent;
import app.pragmata.server.field.FieldEvent;
import app.pragmata.server.importing.ImportEvent;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.partswanted.PartWantedEvent;
import app.pragmata.server.people.PersonEvent;
import app.pragmata.server.quoting.QuoteEvent;
import app.pragmata.server.receipts.ReceiptEvent;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Event;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.rounds.RoundEvent;
import app.pragmata.server.stores.StoresEvent;
import app.pragmata.server.todos.ToDoEvent;
import app.pragmata.server.wages.WagesEvent;
import app.pragmata.server.workorders.WorkOrderEvent;
import io.swagger.v3.oas.models.media.Schema;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.customizers.OpenApiCustomizer;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** What happened to any record and to what is a part of it, the newest first. */
@RestController
class HistoryApi {
  /** All that can happen, by capability. */
  static final List<Class<? extends Event>> EVENTS =
      List.of(
          BillingEvent.class,
          CallEvent.class,
          ChecklistEvent.class,
          ClaimEvent.class,
          CompanyEvent.class,
          CustomerEvent.class,
          FieldEvent.class,
          ImportEvent.class,
          JobEvent.class,
          PartWantedEvent.class,
          QuoteEvent.class,
          ReceiptEvent.class,
          RoundEvent.class,
          PersonEvent.class,
          StoresEvent.class,
          ToDoEvent.class,
          WagesEvent.class,
          WorkOrderEvent.class);

  /** The words of what can happen, for the description of the API. */
  @Configuration(proxyBeanMethods = false)
  static class EventsInDescription {
    @Bean
    @SuppressWarnings({"rawtypes", "unchecked"}) // swagger's model hands out raw schemas
    OpenApiCustomizer eventsOfHistory() {
      return description -> {
        Schema event =
            (Schema)
                description
                    .getComponents()
                    .getSchemas()
                    .get("HistoryEntry")
                    .getProperties()
                    .get("event");
        event.setEnum(
            EVENTS.stream()
                .flatMap(events -> Stream.of(events.getEnumConstants()))
                .map(Event::code)
                .distinct()
                .sorted()
                .toList());
      };
    }
  }

  /**
   * One page.
   *
   * @param olderThan what to ask for next; null when this was all
   */
  record History(List<HistoryEntry> entries, @Nullable Long olderThan) {}

  /**
   * One thing that happened.
   *
   * @param at in the company's time zone, as every moment among the values
   * @param jobNumber of the job on which it happened; null where it was on none
   * @param event what, by its capability's code
   * @param reason as it was given; empty for none
   * @param fields what differs; of a new record what it began with
   */
  record HistoryEntry(
      long id,
      LocalDateTime at,
      String by,
      RecordKind kind,
      long recordId,
      @Nullable Long jobNumber,
      String event,
      String reason,
      List<FieldChange> fields) {}

  /**
   * A field by its name in the API. Days, amounts in minor units and codes are as they are stored;
   * who or what a number stands for is named.
   *
   * @param before null where nothing was set
   * @param after null where nothing is set any more
   */
  record FieldChange(String name, @Nullable String before, @Nullable String after) {}

  private static final int PAGE = 50;

  private static final Pattern MOMENT = Pattern.compile("\\d{4}-\\d\\d-\\d\\dT[\\d:.]+Z");

  private final DSLContext database;
  private final Names names;
  private final JsonMapper json;

  HistoryApi(DSLContext database, Names names, JsonMapper json) {
    this.database = database;
    this.names = names;
    this.json = json;
  }

  /**
   * What happened to a record.
   *
   * @param kind such as job, quote or customer
   * @param olderThan null for the newest
   */
  @GetMapping("/api/history/{kind}/{id}")
  @Transactional(readOnly = true)
  public History getHistory(
      Act act,
      @PathVariable RecordKind kind,
      @PathVariable long id,
      @RequestParam(required = false) @Nullable Long olderThan) {
    List<HistoryEntry> entries = new ArrayList<>(list(act.zone(), of(kind, id), olderThan));
    boolean more = entries.size() > PAGE;
    List<HistoryEntry> page = more ? entries.subList(0, PAGE) : entries;
    return new History(names.resolve(page), more ? page.getLast().id() : null);
  }

  private static Condition of(RecordKind kind, long id) {
    Condition itself =
        AUDIT_ENTRY
            .RECORD_KIND
            .eq(kind)
            .and(AUDIT_ENTRY.RECORD_ID.eq(id))
            .or(AUDIT_ENTRY.OWNER_KIND.eq(kind).and(AUDIT_ENTRY.OWNER_ID.eq(id)));
    return switch (kind) {
      case CUSTOMER -> itself.or(cameToNothing(JOB.CUSTOMER_ID.eq(id)));
      case SITE -> itself.or(cameToNothing(JOB.SITE_ID.eq(id)));
      case EQUIPMENT -> itself.or(cameToNothing(JOB.EQUIPMENT_ID.eq(id)));
      default -> itself;
    };
  }

  /** Visits and jobs there that did not take place: whoever asks why nobody came reads it here. */
  private static Condition cameToNothing(Condition jobs) {
    var ids = array(select(JOB.ID).from(JOB).where(jobs));
    Condition visit =
        AUDIT_ENTRY
            .OWNER_KIND
            .eq(RecordKind.JOB)
            .and(AUDIT_ENTRY.OWNER_ID.eq(any(ids)))
            .and(
                AUDIT_ENTRY.EVENT.in(
                    JobEvent.VISIT_NOT_THIS_TIME.code(), JobEvent.VISIT_CALLED_OFF.code()));
    return visit.or(
        AUDIT_ENTRY
            .RECORD_KIND
            .eq(RecordKind.JOB)
            .and(AUDIT_ENTRY.RECORD_ID.eq(any(ids)))
            .and(AUDIT_ENTRY.EVENT.eq(JobEvent.CALLED_OFF.code())));
  }

  private List<HistoryEntry> list(ZoneId zone, Condition which, @Nullable Long olderThan) {
    return database
        .select(AUDIT_ENTRY.fields())
        .select(PERSON.NAME, JOB.NUMBER)
        .from(AUDIT_ENTRY)
        .join(PERSON)
        .on(PERSON.ID.eq(AUDIT_ENTRY.PERSON_ID))
        .leftJoin(JOB)
        .on(
            JOB.ID.eq(
                when(AUDIT_ENTRY.OWNER_KIND.eq(RecordKind.JOB), AUDIT_ENTRY.OWNER_ID)
                    .when(AUDIT_ENTRY.RECORD_KIND.eq(RecordKind.JOB), AUDIT_ENTRY.RECORD_ID)))
        .where(which)
        .and(olderThan == null ? noCondition() : AUDIT_ENTRY.ID.lt(olderThan))
        .orderBy(AUDIT_ENTRY.ID.desc())
        .limit(PAGE + 1)
        .fetch(
            row ->
                new HistoryEntry(
                    row.get(AUDIT_ENTRY.ID),
                    LocalDateTime.ofInstant(row.get(AUDIT_ENTRY.AT), zone),
                    row.get(PERSON.NAME),
                    row.get(AUDIT_ENTRY.RECORD_KIND),
                    row.get(AUDIT_ENTRY.RECORD_ID),
                    row.get(JOB.NUMBER),
                    row.get(AUDIT_ENTRY.EVENT),
                    row.get(AUDIT_ENTRY.REASON),
                    fields(zone, row.get(AUDIT_ENTRY.BEFORE), row.get(AUDIT_ENTRY.AFTER))));
  }

  private List<FieldChange> fields(ZoneId zone, JSONB before, JSONB after) {
    Map<String, String> was = values(before);
    Map<String, String> is = values(after);
    Set<String> all = new LinkedHashSet<>(was.keySet());
    all.addAll(is.keySet());
    return all.stream()
        .map(name -> new FieldChange(name, local(zone, was.get(name)), local(zone, is.get(name))))
        .toList();
  }

  private Map<String, String> values(JSONB stored) {
    return json.readValue(stored.data(), new TypeReference<>() {});
  }

  private static @Nullable String local(ZoneId zone, @Nullable String value) {
    return value != null && MOMENT.matcher(value).matches()
        ? LocalDateTime.ofInstant(Instant.parse(value), zone).toString()
        : value;
  }
}
