package app.pragmata.server.company;

import static app.pragmata.server.generated.Tables.RESPONSE_TERMS;
import static app.pragmata.server.generated.Tables.RESPONSE_TIME;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.min;
import static org.jooq.impl.DSL.multiset;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.company.FromDay;
import app.pragmata.core.company.Priority;
import app.pragmata.core.company.ResponseTime;
import app.pragmata.core.money.Minutes;
import app.pragmata.server.generated.tables.records.ResponseTermsRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.InUse;
import app.pragmata.server.records.References;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.records.Versions;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Records;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What customers are promised: how soon somebody is on site, by how pressing it is. */
@RestController
class ResponseTermsApi {
  /**
   * One set of promises.
   *
   * @param usual whether it holds for every customer who has no terms of their own
   * @param customers how many have it as their own
   * @param times the most pressing first
   * @param coming what is promised from a later day on, the earliest first
   */
  record ResponseTerms(
      long id,
      int version,
      String name,
      boolean usual,
      int customers,
      List<PromisedTime> times,
      List<ComingTimes> coming) {}

  record ComingTimes(LocalDate fromDay, List<PromisedTime> times) {}

  /** A length in minutes, counted in working hours or around the clock. */
  record PromisedTime(Priority priority, int minutes, boolean aroundTheClock) {}

  /**
   * The same as typed.
   *
   * @param fromDay from which day on it is promised, today at the earliest; empty for today, from
   *     which new terms always hold
   */
  record ResponseTermsForm(
      int version, @Nullable String name, @Nullable String fromDay, List<PromisedTimeForm> times) {}

  record PromisedTimeForm(
      @Nullable Priority priority, @Nullable String time, boolean aroundTheClock) {}

  /** What is a part of the terms and goes with them. */
  private static final Set<Table<?>> PARTS = Set.of(RESPONSE_TIME);

  private static final int SHORTEST = 15;
  private static final int LONGEST = 1_000 * 60;

  private final DSLContext database;
  private final RepeatableRequests repeats;
  private final Events events;
  private final References references;
  private final ApplicationEventPublisher changes;

  ResponseTermsApi(
      DSLContext database,
      RepeatableRequests repeats,
      Events events,
      References references,
      ApplicationEventPublisher changes) {
    this.database = database;
    this.repeats = repeats;
    this.events = events;
    this.references = references;
    this.changes = changes;
  }

  @GetMapping("/api/settings/response-terms")
  List<ResponseTerms> listResponseTerms(Act act) {
    Map<Long, List<ComingTimes>> coming = coming(act.today());
    Map<Long, Integer> uses = references.countAll(RESPONSE_TERMS, PARTS);
    return database
        .select(
            RESPONSE_TERMS.ID,
            RESPONSE_TERMS.VERSION,
            RESPONSE_TERMS.NAME,
            field(RESPONSE_TERMS.ID.eq(usual())),
            multiset(
                    select(
                            RESPONSE_TIME.PRIORITY,
                            RESPONSE_TIME.MINUTES,
                            RESPONSE_TIME.AROUND_THE_CLOCK)
                        .from(RESPONSE_TIME)
                        .where(RESPONSE_TIME.RESPONSE_TERMS_ID.eq(RESPONSE_TERMS.ID))
                        .and(RESPONSE_TIME.FROM_DAY.eq(newest(act.today())))
                        .orderBy(RESPONSE_TIME.PRIORITY.sortAsc(Priority.values())))
                .convertFrom(times -> times.map(Records.mapping(PromisedTime::new))))
        .from(RESPONSE_TERMS)
        .orderBy(RESPONSE_TERMS.ID)
        .fetch(
            row ->
                new ResponseTerms(
                    row.value1(),
                    row.value2(),
                    row.value3(),
                    row.value4(),
                    uses.getOrDefault(row.value1(), 0),
                    row.value5(),
                    coming.getOrDefault(row.value1(), List.of())));
  }

  private Map<Long, List<ComingTimes>> coming(LocalDate today) {
    var coming = new HashMap<Long, List<ComingTimes>>();
    database
        .selectFrom(RESPONSE_TIME)
        .where(RESPONSE_TIME.FROM_DAY.gt(today))
        .orderBy(RESPONSE_TIME.FROM_DAY, RESPONSE_TIME.PRIORITY.sortAsc(Priority.values()))
        .fetchGroups(
            new Field<?>[] {RESPONSE_TIME.RESPONSE_TERMS_ID, RESPONSE_TIME.FROM_DAY},
            row -> new PromisedTime(row.getPriority(), row.getMinutes(), row.getAroundTheClock()))
        .forEach(
            (of, times) ->
                coming
                    .computeIfAbsent(
                        of.get(RESPONSE_TIME.RESPONSE_TERMS_ID), id -> new ArrayList<>())
                    .add(new ComingTimes(of.get(RESPONSE_TIME.FROM_DAY), times)));
    return coming;
  }

  /** The first terms on record are the usual ones. */
  private static Field<Long> usual() {
    return field(select(min(RESPONSE_TERMS.as("all").ID)).from(RESPONSE_TERMS.as("all")));
  }

  /** The day since when what is promised holds. */
  private static Field<LocalDate> newest(LocalDate today) {
    var other = RESPONSE_TIME.as("newest");
    return field(
        select(max(other.FROM_DAY))
            .from(other)
            .where(other.RESPONSE_TERMS_ID.eq(RESPONSE_TERMS.ID))
            .and(other.FROM_DAY.le(today)));
  }

  private static List<String> labels() {
    return Stream.of(Priority.values()).map(Priority::code).toList();
  }

  @PostMapping("/api/settings/response-terms")
  @Transactional
  public List<ResponseTerms> addResponseTerms(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody ResponseTermsForm form) {
    repeats.once(
        act,
        key,
        "add response terms",
        form,
        () -> {
          ResponseTermsRecord row = database.newRecord(RESPONSE_TERMS);
          store(act, CompanyEvent.TERMS_ADDED, row, form);
          return row.getId();
        });
    return listResponseTerms(act);
  }

  /** What was promised already stays as it was promised. */
  @PutMapping("/api/settings/response-terms/{id}")
  @Transactional
  public List<ResponseTerms> changeResponseTerms(
      Act act, @PathVariable long id, @RequestBody ResponseTermsForm form) {
    ResponseTermsRecord row = lock(id, form.version());
    store(act, CompanyEvent.TERMS_CHANGED, row, form);
    return listResponseTerms(act);
  }

  @DeleteMapping("/api/settings/response-terms/{id}")
  @Transactional
  public List<ResponseTerms> deleteResponseTerms(
      Act act, @PathVariable long id, @RequestParam int version) {
    ResponseTermsRecord row = lock(id, version);
    if (database.fetchExists(RESPONSE_TERMS, RESPONSE_TERMS.ID.eq(id).and(usual().eq(id)))) {
      throw new Refused(
          Rule.IN_USE,
          "%s cannot be deleted: it holds for everybody without terms of their own. Change it instead."
              .formatted(row.getName()));
    }
    InUse.refuse(
        row.getName(), references.count(RESPONSE_TERMS, id, PARTS), "Give them other terms first.");
    database.deleteFrom(RESPONSE_TIME).where(RESPONSE_TIME.RESPONSE_TERMS_ID.eq(id)).execute();
    events.delete(act, CompanyEvent.TERMS_DELETED, row);
    changes.publishEvent(new SettingsChanged());
    return listResponseTerms(act);
  }

  /** Takes back what was to be promised from a day that has not come. */
  @DeleteMapping("/api/settings/response-terms/{id}/{fromDay}")
  @Transactional
  public List<ResponseTerms> withdrawResponseTimes(
      Act act, @PathVariable long id, @PathVariable LocalDate fromDay, @RequestParam int version) {
    ResponseTermsRecord row = lock(id, version);
    if (!fromDay.isAfter(act.today())) {
      throw new Refused(
          Rule.DAY_PASSED,
          "This is promised already. Enter other times from a later day instead of taking it back.");
    }
    int gone =
        database
            .deleteFrom(RESPONSE_TIME)
            .where(RESPONSE_TIME.RESPONSE_TERMS_ID.eq(id).and(RESPONSE_TIME.FROM_DAY.eq(fromDay)))
            .execute();
    if (gone == 0) {
      throw new Refused(Rule.NOT_FOUND, "Nothing was to change on that day. Reload the page.");
    }
    events.store(
        act,
        CompanyEvent.TERMS_CHANGED,
        row,
        About.NOTHING.with(Map.of("fromDay", fromDay), Map.of()));
    changes.publishEvent(new SettingsChanged());
    return listResponseTerms(act);
  }

  private ResponseTermsRecord lock(long id, int version) {
    ResponseTermsRecord row =
        database
            .selectFrom(RESPONSE_TERMS)
            .where(RESPONSE_TERMS.ID.eq(id))
            .forUpdate()
            .fetchOptional()
            .orElseThrow(
                () -> new Refused(Rule.NOT_FOUND, "Somebody deleted these terms meanwhile."));
    Versions.require(version, row.getVersion());
    return row;
  }

  /** What changes holds from its day on; what was promised before stays on record. */
  private void store(Act act, CompanyEvent event, ResponseTermsRecord row, ResponseTermsForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), 60);
    if (name != null
        && database.fetchExists(
            RESPONSE_TERMS,
            RESPONSE_TERMS
                .NAME
                .equalIgnoreCase(name)
                .and(
                    row.getId() == null
                        ? RESPONSE_TERMS.ID.isNotNull()
                        : RESPONSE_TERMS.ID.ne(row.getId())))) {
      reading.fault("name", Rule.REPEATED, "There are terms of this name. Enter another.");
    }
    boolean fromToday = row.getId() == null || form.fromDay() == null || form.fromDay().isBlank();
    LocalDate from =
        fromToday
            ? act.today()
            : Objects.requireNonNullElse(
                FromDay.read(reading, form.fromDay(), act.today()), act.today());
    Map<Priority, ResponseTime> times = times(form, reading);
    reading.refuseIfFaulty();
    row.setName(Objects.requireNonNull(name));
    events.store(
        act,
        event,
        row,
        About.NOTHING.with(
            values(act, row.getId()),
            from.equals(act.today())
                ? Map.of("times", told(times))
                : Map.of("times", told(times), "fromDay", from)));
    database
        .deleteFrom(RESPONSE_TIME)
        .where(RESPONSE_TIME.RESPONSE_TERMS_ID.eq(row.getId()))
        .and(RESPONSE_TIME.FROM_DAY.eq(from))
        .execute();
    times.forEach(
        (priority, time) ->
            database
                .insertInto(RESPONSE_TIME)
                .values(row.getId(), from, priority, time.minutes(), time.aroundTheClock())
                .execute());
    changes.publishEvent(new SettingsChanged());
  }

  private static Map<Priority, ResponseTime> times(ResponseTermsForm form, Reading reading) {
    var times = new EnumMap<Priority, ResponseTime>(Priority.class);
    for (int i = 0; i < form.times().size(); i++) {
      PromisedTimeForm typed = form.times().get(i);
      Integer minutes =
          reading.required("times/" + i + "/time", typed.time(), ResponseTermsApi::minutes);
      if (minutes != null && typed.priority() != null) {
        times.put(typed.priority(), new ResponseTime(minutes, typed.aroundTheClock()));
      }
    }
    if (reading.faults().isEmpty() && times.size() < Priority.values().length) {
      reading.fault(
          "times",
          Rule.MISSING,
          "Enter how soon for each of: " + String.join(", ", labels()) + ".");
    }
    return times;
  }

  private static int minutes(String typed) {
    int minutes = Minutes.parse(typed);
    if (minutes < SHORTEST || minutes > LONGEST) {
      throw new Unreadable(Rule.UNREADABLE, "Enter from 15 minutes to 1,000 hours, such as 4:00.");
    }
    return minutes;
  }

  /** What they promised so far; nothing for new ones. */
  private Map<String, Object> values(Act act, @Nullable Long id) {
    return listResponseTerms(act).stream()
        .filter(terms -> Long.valueOf(terms.id()).equals(id))
        .findFirst()
        .<Map<String, Object>>map(
            terms ->
                Map.of(
                    "times",
                    told(
                        terms.times().stream()
                            .collect(
                                Collectors.toMap(
                                    PromisedTime::priority,
                                    time ->
                                        new ResponseTime(time.minutes(), time.aroundTheClock()))))))
        .orElse(Map.of());
  }

  private static String told(Map<Priority, ResponseTime> times) {
    return Stream.of(Priority.values())
        .filter(times::containsKey)
        .map(
            priority ->
                "%s %s%s"
                    .formatted(
                        priority.code(),
                        Minutes.text(times.get(priority).minutes()),
                        times.get(priority).aroundTheClock() ? " around the clock" : ""))
        .collect(Collectors.joining(", "));
  }
}
