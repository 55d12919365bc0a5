package app.pragmata.server.partswanted;

import static app.pragmata.server.generated.Tables.CUSTOMER;
import static app.pragmata.server.generated.Tables.EQUIPMENT;
import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PART_WANTED;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.SITE;
import static app.pragmata.server.generated.Tables.TO_DO;
import static app.pragmata.server.generated.Tables.VISIT;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.row;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Coded;
import app.pragmata.core.partswanted.PartWantedState;
import app.pragmata.server.generated.tables.records.PartWantedRecord;
import app.pragmata.server.http.ListFile;
import app.pragmata.server.http.PageKey;
import app.pragmata.server.http.SearchWords;
import app.pragmata.server.partswanted.PartsWanted.WantForm;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.AtVersion;
import app.pragmata.server.records.Changed;
import app.pragmata.server.records.VersionStore;
import app.pragmata.server.todos.ToDoState;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
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

/** Parts wanted over HTTP: all of them by age, and what is done about each. */
@RestController
class PartsWantedApi {
  /**
   * A part that a job waits for, or waited for.
   *
   * @param part its name on the price list; null for one that is not on it, or that nobody knows
   * @param words as whoever wants it said it; may be empty
   * @param days since it is wanted
   * @param late not ordered when it should have been, or not there on the day it was expected
   * @param supplier empty where nobody said
   * @param reason why nobody wants it any more; else empty
   */
  record WantedPart(
      long id,
      int version,
      PartWantedState state,
      @Nullable Long partId,
      @Nullable String part,
      String words,
      BigDecimal quantity,
      boolean urgent,
      int days,
      boolean late,
      long jobId,
      long jobNumber,
      String title,
      long customerId,
      String customer,
      String site,
      @Nullable String equipment,
      LocalDateTime wantedAt,
      String wantedBy,
      @Nullable LocalDateTime orderedAt,
      @Nullable String orderedBy,
      String supplier,
      @Nullable LocalDate expectedOn,
      @Nullable LocalDateTime arrivedAt,
      @Nullable String arrivedBy,
      @Nullable LocalDateTime closedAt,
      @Nullable String closedBy,
      String reason,
      @Nullable Long nextVisitId) {}

  /** A page of parts wanted; {@code next} asks for the one after it, null on the last. */
  record PartsWantedPage(List<WantedPart> rows, @Nullable String next) {}

  /** How many are open, and how many of them late. */
  record PartsWantedCount(int open, int late) {}

  /** Where it was ordered and when it should be there, such as "wed"; both may be empty. */
  record OrderForm(int version, @Nullable String supplier, @Nullable String expected) {}

  /** What stands at a site, and whether the job is about it. */
  record EquipmentOnSite(long id, String name, boolean ofJob) {}

  /** Whether the part that a visit waits for is there. */
  record PartArrivalForm(int version, boolean arrived) {}

  /** Why nobody wants it any more. */
  record NoLongerForm(int version, @Nullable String reason) {}

  /** Those that jobs wait for, or those that are over. */
  enum Which implements Coded {
    OPEN,
    CLOSED
  }

  private static final int PAGE = 100;

  private static final Field<Boolean> OF_JOB =
      field(EQUIPMENT.ID.isNotDistinctFrom(JOB.EQUIPMENT_ID));

  private final PartsWanted service;
  private final VersionStore versions;
  private final DSLContext database;

  PartsWantedApi(PartsWanted service, VersionStore versions, DSLContext database) {
    this.service = service;
    this.versions = versions;
    this.database = database;
  }

  /**
   * Parts wanted by age, the oldest first; those that are over the newest first.
   *
   * @param filter words that occur in the part, what was said of it, the customer's name or the
   *     site's
   */
  @GetMapping("/api/parts-wanted")
  PartsWantedPage listPartsWanted(
      Act act,
      @RequestParam(defaultValue = "open") Which state,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "") String after) {
    List<WantedPart> rows = list(act, state, filter, after, PAGE + 1);
    boolean more = rows.size() > PAGE;
    List<WantedPart> page = more ? rows.subList(0, PAGE) : rows;
    return new PartsWantedPage(page, more ? PageKey.of(page.getLast().id()).text() : null);
  }

  @GetMapping("/api/parts-wanted/count")
  PartsWantedCount countPartsWanted(Act act) {
    List<WantedPart> open =
        fetch(act, PartsWanted.isOpen(), List.of(PART_WANTED.ID), Integer.MAX_VALUE);
    return new PartsWantedCount(
        open.size(), Math.toIntExact(open.stream().filter(WantedPart::late).count()));
  }

  @GetMapping("/api/parts-wanted/file")
  ResponseEntity<byte[]> downloadPartsWanted(
      Act act,
      @RequestParam(defaultValue = "open") Which state,
      @RequestParam(defaultValue = "") String filter,
      @RequestParam(defaultValue = "csv") ListFile.Format format) {
    return ListFile.named("parts-wanted", format)
        .head(
            "Wanted",
            "By",
            "Quantity",
            "Part",
            "Words",
            "Urgent",
            "State",
            "Supplier",
            "Expected",
            "Customer",
            "Site",
            "Job",
            "Days")
        .rows(
            list(act, state, filter, "", ListFile.MOST_ROWS),
            row ->
                new @Nullable Object[] {
                  row.wantedAt().toLocalDate(),
                  row.wantedBy(),
                  row.quantity(),
                  row.part(),
                  row.words(),
                  row.urgent() ? "urgent" : "",
                  row.state().code(),
                  row.supplier(),
                  row.expectedOn(),
                  row.customer(),
                  row.site(),
                  row.jobNumber(),
                  row.days()
                })
        .answer();
  }

  /** All that a job waits for or waited for, the oldest first. */
  @GetMapping("/api/jobs/{id}/parts-wanted")
  List<WantedPart> listPartsWantedOfJob(Act act, @PathVariable long id) {
    return fetch(act, PART_WANTED.JOB_ID.eq(id), List.of(PART_WANTED.ID), Integer.MAX_VALUE);
  }

  /** What stands at a job's site and may need a part, what the job is about first. */
  @GetMapping("/api/jobs/{id}/equipment-on-site")
  List<EquipmentOnSite> listEquipmentOnSite(@PathVariable long id) {
    return database
        .select(
            EQUIPMENT.ID,
            EQUIPMENT.MODEL.concat(", serial ").concat(EQUIPMENT.SERIAL_NUMBER),
            OF_JOB)
        .from(EQUIPMENT)
        .join(JOB)
        .on(JOB.SITE_ID.eq(EQUIPMENT.SITE_ID))
        .where(JOB.ID.eq(id).and(EQUIPMENT.REMOVED_ON.isNull()))
        .orderBy(OF_JOB.desc(), EQUIPMENT.ID)
        .fetch(mapping(EquipmentOnSite::new));
  }

  /** A part that the office knows to be missing. */
  @PostMapping("/api/jobs/{id}/parts-wanted")
  @Transactional
  public Changed wantPart(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @PathVariable long id,
      @RequestBody WantForm form) {
    return versions.changed(PART_WANTED.ID, service.want(act, key, id, form));
  }

  @PostMapping("/api/parts-wanted/{id}/order")
  @Transactional
  public Changed orderWantedPart(Act act, @PathVariable long id, @RequestBody OrderForm form) {
    service.order(act, id, form.version(), form.supplier(), form.expected());
    return versions.changed(PART_WANTED.ID, id);
  }

  @PostMapping("/api/parts-wanted/{id}/arrive")
  @Transactional
  public Changed noteWantedPartArrived(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    service.arrive(act, id, at.version());
    return versions.changed(PART_WANTED.ID, id);
  }

  @PostMapping("/api/parts-wanted/{id}/fit")
  @Transactional
  public Changed noteWantedPartFitted(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    service.fit(act, id, at.version());
    return versions.changed(PART_WANTED.ID, id);
  }

  @PostMapping("/api/parts-wanted/{id}/drop")
  @Transactional
  public Changed dropWantedPart(Act act, @PathVariable long id, @RequestBody NoLongerForm form) {
    service.drop(act, id, form.version(), form.reason());
    return versions.changed(PART_WANTED.ID, id);
  }

  /** Takes the last step back, such as that it arrived. */
  @PostMapping("/api/parts-wanted/{id}/take-back")
  @Transactional
  public Changed takeWantedPartBack(Act act, @PathVariable long id, @RequestBody AtVersion at) {
    service.takeBack(act, id, at.version());
    return versions.changed(PART_WANTED.ID, id);
  }

  /** Notes that the part that a visit waits for is there, or that it is not after all. */
  @PutMapping("/api/visits/{id}/part-arrival")
  @Transactional
  public Changed notePartArrival(
      Act act, @PathVariable long id, @RequestBody PartArrivalForm form) {
    service.noteArrival(act, id, form.version(), form.arrived());
    return versions.changed(VISIT.ID, id);
  }

  private List<WantedPart> list(Act act, Which state, String filter, String after, int most) {
    boolean open = state == Which.OPEN;
    Condition which = open ? PartsWanted.isOpen() : PART_WANTED.CLOSED_AT.isNotNull();
    for (String word : SearchWords.read("filter", filter)) {
      which =
          which.and(
              PART_WANTED
                  .WORDS
                  .containsIgnoreCase(word)
                  .or(PART.NAME.containsIgnoreCase(word))
                  .or(CUSTOMER.NAME.containsIgnoreCase(word))
                  .or(SITE.NAME.containsIgnoreCase(word)));
    }
    var age = row(PART_WANTED.WANTED_AT, PART_WANTED.ID);
    if (!after.isEmpty()) {
      var last = PART_WANTED.as("last");
      var ageOfLast =
          select(last.WANTED_AT, last.ID)
              .from(last)
              .where(last.ID.eq(PageKey.parse(after, 1).number(0)));
      which = which.and(open ? age.gt(ageOfLast) : age.lt(ageOfLast));
    }
    List<OrderField<?>> oldest = List.of(PART_WANTED.WANTED_AT.asc(), PART_WANTED.ID.asc());
    List<OrderField<?>> newest = List.of(PART_WANTED.WANTED_AT.desc(), PART_WANTED.ID.desc());
    return fetch(act, which, open ? oldest : newest, most);
  }

  private List<WantedPart> fetch(Act act, Condition which, List<OrderField<?>> order, int most) {
    var wanter = PERSON.as("wanter");
    var orderer = PERSON.as("orderer");
    var receiver = PERSON.as("receiver");
    var closer = PERSON.as("closer");
    return database
        .select(PART_WANTED.fields())
        .select(PART.NAME, JOB.NUMBER, JOB.TITLE, CUSTOMER.ID, CUSTOMER.NAME)
        .select(SITE.NAME, EQUIPMENT.MODEL, EQUIPMENT.SERIAL_NUMBER, TO_DO.STATE, TO_DO.DUE_DAY)
        .select(wanter.NAME, orderer.NAME, receiver.NAME, closer.NAME)
        .from(PART_WANTED)
        .join(JOB)
        .on(JOB.ID.eq(PART_WANTED.JOB_ID))
        .join(CUSTOMER)
        .on(CUSTOMER.ID.eq(JOB.CUSTOMER_ID))
        .join(SITE)
        .on(SITE.ID.eq(JOB.SITE_ID))
        .join(TO_DO)
        .on(TO_DO.ID.eq(PART_WANTED.TO_DO_ID))
        .join(wanter)
        .on(wanter.ID.eq(PART_WANTED.WANTED_BY))
        .leftJoin(PART)
        .on(PART.ID.eq(PART_WANTED.PART_ID))
        .leftJoin(EQUIPMENT)
        .on(EQUIPMENT.ID.eq(PART_WANTED.EQUIPMENT_ID))
        .leftJoin(orderer)
        .on(orderer.ID.eq(PART_WANTED.ORDERED_BY))
        .leftJoin(receiver)
        .on(receiver.ID.eq(PART_WANTED.ARRIVED_BY))
        .leftJoin(closer)
        .on(closer.ID.eq(PART_WANTED.CLOSED_BY))
        .where(which)
        .orderBy(order)
        .limit(most)
        .fetch(
            found -> {
              PartWantedRecord row = found.into(PART_WANTED);
              return new WantedPart(
                  row.getId(),
                  row.getVersion(),
                  row.getState(),
                  row.getPartId(),
                  found.get(PART.NAME),
                  row.getWords(),
                  row.getQuantity().stripTrailingZeros(),
                  row.getUrgent(),
                  days(act, row),
                  isLate(act, row, found.get(TO_DO.STATE), found.get(TO_DO.DUE_DAY)),
                  row.getJobId(),
                  found.get(JOB.NUMBER),
                  found.get(JOB.TITLE),
                  found.get(CUSTOMER.ID),
                  found.get(CUSTOMER.NAME),
                  found.get(SITE.NAME),
                  found.get(EQUIPMENT.MODEL) == null
                      ? null
                      : found.get(EQUIPMENT.MODEL)
                          + ", serial "
                          + found.get(EQUIPMENT.SERIAL_NUMBER),
                  local(act, row.getWantedAt()),
                  found.get(wanter.NAME),
                  when(act, row.getOrderedAt()),
                  found.get(orderer.NAME),
                  row.getSupplier(),
                  row.getExpectedOn(),
                  when(act, row.getArrivedAt()),
                  found.get(receiver.NAME),
                  when(act, row.getClosedAt()),
                  found.get(closer.NAME),
                  row.getReason(),
                  row.getNextVisitId());
            });
  }

  private static int days(Act act, PartWantedRecord row) {
    LocalDate since = local(act, row.getWantedAt()).toLocalDate();
    return Math.toIntExact(ChronoUnit.DAYS.between(since, act.today()));
  }

  private static boolean isLate(Act act, PartWantedRecord row, ToDoState toDo, LocalDate due) {
    return switch (row.getState()) {
      case WANTED -> toDo == ToDoState.OPEN && due.isBefore(act.today());
      case ORDERED -> row.getExpectedOn() != null && row.getExpectedOn().isBefore(act.today());
      case ARRIVED, FITTED, NO_LONGER_WANTED -> false;
    };
  }

  private static LocalDateTime local(Act act, Instant moment) {
    return LocalDateTime.ofInstant(moment, act.zone());
  }

  private static @Nullable LocalDateTime when(Act act, @Nullable Instant moment) {
    return moment == null ? null : local(act, moment);
  }
}
