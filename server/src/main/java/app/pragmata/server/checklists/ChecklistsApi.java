package app.pragmata.server.checklists;

import static app.pragmata.server.generated.Tables.CHECKLIST;
import static app.pragmata.server.generated.Tables.CHECKLIST_ITEM;
import static app.pragmata.server.generated.Tables.EQUIPMENT_KIND;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static org.jooq.Records.mapping;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;

import app.pragmata.core.Decimal;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.checklists.Asks;
import app.pragmata.core.checklists.Checklist;
import app.pragmata.core.checklists.ChecklistItem;
import app.pragmata.server.generated.tables.records.ChecklistRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.Versions;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;

/** Checklists over HTTP: the office writes what is gone through on site. */
@RestController
class ChecklistsApi {
  /** A checklist with how many questions it asks; kinds are null where it is of any. */
  record ChecklistOfKind(
      long id,
      String name,
      @Nullable String kindOfJob,
      @Nullable String equipmentKind,
      boolean active,
      int questions) {}

  /** A checklist, and what it may be of. */
  record ChecklistSheet(
      long id,
      int version,
      String name,
      @Nullable Long kindOfJobId,
      @Nullable Long equipmentKindId,
      boolean active,
      int edition,
      List<TypedItem> items) {}

  /** What a checklist may be of. */
  record ChecklistKinds(List<NamedKind> kindsOfJob, List<NamedKind> equipmentKinds) {}

  record NamedKind(long id, String name) {}

  /**
   * A checklist as it is typed.
   *
   * @param version of the one that is changed; of no meaning for a new one
   * @param active whether visits that have not begun with it go through it
   */
  record ChecklistForm(
      int version,
      @Nullable String name,
      @Nullable Long kindOfJobId,
      @Nullable Long equipmentKindId,
      boolean active,
      @Nullable List<TypedItem> items) {}

  /**
   * A question as it is typed.
   *
   * @param choices of a choice; empty for anything else
   * @param wrong which answers are out of limits, of a choice or of "yes" and "no"
   * @param unit of a measurement, as are the least and the most that are within limits; may be
   *     empty
   */
  record TypedItem(
      @Nullable String question,
      Asks.@Nullable Code asks,
      @Nullable List<String> choices,
      @Nullable List<String> wrong,
      @Nullable String unit,
      @Nullable String least,
      @Nullable String most,
      boolean required,
      boolean raisesToDo) {}

  private static final int LONGEST_NAME = 80;
  private static final int LONGEST_QUESTION = 200;
  private static final int LONGEST_CHOICE = 60;
  private static final int LONGEST_UNIT = 12;
  private static final int MOST_CHOICES = 20;

  private final ChecklistStore checklists;
  private final Events events;
  private final DSLContext database;

  ChecklistsApi(ChecklistStore checklists, Events events, DSLContext database) {
    this.checklists = checklists;
    this.events = events;
    this.database = database;
  }

  /** All of them, those in use first. */
  @GetMapping("/api/checklists")
  List<ChecklistOfKind> listChecklists() {
    return database
        .select(
            CHECKLIST.ID,
            CHECKLIST.NAME,
            KIND_OF_JOB.NAME,
            EQUIPMENT_KIND.NAME,
            CHECKLIST.ACTIVE,
            field(
                select(count())
                    .from(CHECKLIST_ITEM)
                    .where(CHECKLIST_ITEM.CHECKLIST_ID.eq(CHECKLIST.ID))
                    .and(CHECKLIST_ITEM.EDITION.eq(CHECKLIST.EDITION))))
        .from(CHECKLIST)
        .leftJoin(KIND_OF_JOB)
        .on(KIND_OF_JOB.ID.eq(CHECKLIST.KIND_OF_JOB_ID))
        .leftJoin(EQUIPMENT_KIND)
        .on(EQUIPMENT_KIND.ID.eq(CHECKLIST.EQUIPMENT_KIND_ID))
        .orderBy(CHECKLIST.ACTIVE.desc(), CHECKLIST.NAME)
        .fetch(mapping(ChecklistOfKind::new));
  }

  /** What a checklist may be of. */
  @GetMapping("/api/checklist-kinds")
  ChecklistKinds listChecklistKinds() {
    return new ChecklistKinds(
        database
            .select(KIND_OF_JOB.ID, KIND_OF_JOB.NAME)
            .from(KIND_OF_JOB)
            .orderBy(KIND_OF_JOB.NAME)
            .fetch(mapping(NamedKind::new)),
        database
            .select(EQUIPMENT_KIND.ID, EQUIPMENT_KIND.NAME)
            .from(EQUIPMENT_KIND)
            .orderBy(EQUIPMENT_KIND.NAME)
            .fetch(mapping(NamedKind::new)));
  }

  @GetMapping("/api/checklists/{id}")
  ChecklistSheet getChecklist(@PathVariable long id) {
    return sheet(
        database
            .selectFrom(CHECKLIST)
            .where(CHECKLIST.ID.eq(id))
            .fetchOptional()
            .orElseThrow(ChecklistsApi::notThere));
  }

  /** A new checklist. */
  @PostMapping("/api/checklists")
  @Transactional
  public ChecklistSheet addChecklist(Act act, @RequestBody ChecklistForm form) {
    ChecklistRecord row = database.newRecord(CHECKLIST);
    Checklist typed = read(row, form);
    row.setEdition(1);
    events.store(act, ChecklistEvent.CHECKLIST_ADDED, row, asked(new Checklist(List.of()), typed));
    checklists.insert(act, row.getId(), 1, typed);
    return sheet(row);
  }

  /**
   * Changes a checklist. Other questions make a new edition; visits that have begun with the old
   * one keep it.
   */
  @PutMapping("/api/checklists/{id}")
  @Transactional
  public ChecklistSheet saveChecklist(
      Act act, @PathVariable long id, @RequestBody ChecklistForm form) {
    ChecklistRecord row = checklists.lock(id).orElseThrow(ChecklistsApi::notThere);
    Versions.require(form.version(), row.getVersion());
    Checklist before = checklists.items(id, row.getEdition());
    Checklist typed = read(row, form);
    boolean asksOther = !typed.equals(before);
    if (asksOther) {
      row.setEdition(row.getEdition() + 1);
      checklists.insert(act, id, row.getEdition(), typed);
    }
    events.store(
        act,
        ChecklistEvent.CHECKLIST_CHANGED,
        row,
        asksOther ? asked(before, typed) : About.NOTHING);
    return sheet(row);
  }

  private static About asked(Checklist before, Checklist after) {
    return About.NOTHING.with(
        Map.of("questions", questions(before)), Map.of("questions", questions(after)));
  }

  private static List<String> questions(Checklist checklist) {
    return checklist.items().stream().map(ChecklistItem::question).toList();
  }

  private ChecklistSheet sheet(ChecklistRecord row) {
    return new ChecklistSheet(
        row.getId(),
        row.getVersion(),
        row.getName(),
        row.getKindOfJobId(),
        row.getEquipmentKindId(),
        row.getActive(),
        row.getEdition(),
        checklists.items(row.getId(), row.getEdition()).items().stream()
            .map(ChecklistsApi::typed)
            .toList());
  }

  private static TypedItem typed(ChecklistItem item) {
    List<String> choices = List.of();
    Set<String> wrong = Set.of();
    String unit = "";
    BigDecimal least = null;
    BigDecimal most = null;
    switch (item.asks()) {
      case Asks.YesNo yesNo -> wrong = yesNo.wrong();
      case Asks.Choice choice -> {
        choices = choice.choices();
        wrong = choice.wrong();
      }
      case Asks.Measurement measurement -> {
        unit = measurement.unit();
        least = measurement.least();
        most = measurement.most();
      }
      case Asks.Text text -> {}
      case Asks.Photo photo -> {}
    }
    return new TypedItem(
        item.question(),
        item.asks().code(),
        choices,
        List.copyOf(new TreeSet<>(wrong)),
        unit,
        least == null ? "" : Decimal.text(least),
        most == null ? "" : Decimal.text(most),
        item.required(),
        item.raisesToDo());
  }

  private Checklist read(ChecklistRecord row, ChecklistForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), LONGEST_NAME);
    if (name != null && isTaken(name, row)) {
      reading.fault("name", Rule.REPEATED, "Another checklist has this name. Choose another.");
    }
    if (form.kindOfJobId() == null && form.equipmentKindId() == null) {
      reading.fault(
          "kindOfJobId",
          Rule.MISSING,
          "Say on which work it is gone through: a kind of job, a kind of equipment, or both.");
    }
    if (form.kindOfJobId() != null
        && !database.fetchExists(KIND_OF_JOB, KIND_OF_JOB.ID.eq(form.kindOfJobId()))) {
      reading.fault("kindOfJobId", Rule.NOT_FOUND, "There is no such kind of job.");
    }
    if (form.equipmentKindId() != null
        && !database.fetchExists(EQUIPMENT_KIND, EQUIPMENT_KIND.ID.eq(form.equipmentKindId()))) {
      reading.fault("equipmentKindId", Rule.NOT_FOUND, "There is no such kind of equipment.");
    }
    Checklist checklist = read(reading, form.items() == null ? List.of() : form.items());
    reading.refuseIfFaulty();
    row.setName(Objects.requireNonNull(name));
    row.setKindOfJobId(form.kindOfJobId());
    row.setEquipmentKindId(form.equipmentKindId());
    row.setActive(form.active());
    return checklist;
  }

  private boolean isTaken(String name, ChecklistRecord row) {
    return database.fetchExists(
        CHECKLIST, CHECKLIST.NAME.eq(name).and(CHECKLIST.ID.isDistinctFrom(row.getId())));
  }

  private static Checklist read(Reading reading, List<TypedItem> typed) {
    if (typed.size() > Checklist.MOST_ITEMS) {
      reading.fault(
          "items",
          Rule.TOO_LARGE,
          "A checklist asks at most %d questions. Make two of it.".formatted(Checklist.MOST_ITEMS));
      reading.refuseIfFaulty();
    }
    var items = new ArrayList<ChecklistItem>();
    for (TypedItem item : typed) {
      items.add(read(reading, "items/" + items.size(), item));
    }
    var checklist = new Checklist(items);
    checklist.check(reading);
    return checklist;
  }

  private static ChecklistItem read(Reading reading, String at, @Nullable TypedItem typed) {
    if (typed == null) {
      reading.fault(at + "/question", Rule.MISSING, "Enter a question, or remove the line.");
      return new ChecklistItem("", new Asks.Text(), false, false);
    }
    String question = reading.text(at + "/question", typed.question(), LONGEST_QUESTION);
    if (typed.asks() == null) {
      reading.fault(at + "/asks", Rule.MISSING, "Say how it is answered.");
    }
    Asks asks =
        switch (Objects.requireNonNullElse(typed.asks(), Asks.Code.TEXT)) {
          case YES_NO -> new Asks.YesNo(Set.copyOf(words(reading, at + "/wrong", typed.wrong())));
          case CHOICE ->
              new Asks.Choice(
                  words(reading, at + "/choices", typed.choices()),
                  Set.copyOf(words(reading, at + "/wrong", typed.wrong())));
          case MEASUREMENT ->
              new Asks.Measurement(
                  reading.optionalText(at + "/unit", typed.unit(), LONGEST_UNIT),
                  limit(reading, at + "/least", typed.least()),
                  limit(reading, at + "/most", typed.most()));
          case TEXT -> new Asks.Text();
          case PHOTO -> new Asks.Photo();
        };
    return new ChecklistItem(
        Objects.requireNonNullElse(question, ""), asks, typed.required(), typed.raisesToDo());
  }

  private static @Nullable BigDecimal limit(Reading reading, String field, @Nullable String typed) {
    BigDecimal limit = reading.optional(field, typed, Reading::measured);
    // As it comes out of the database, so that a list that was not changed is the same.
    return limit == null ? null : limit.setScale(3);
  }

  private static List<String> words(Reading reading, String field, @Nullable List<String> typed) {
    if (typed == null) {
      return List.of();
    }
    if (typed.size() > MOST_CHOICES) {
      reading.fault(field, Rule.TOO_LARGE, "These are too many answers. Remove some.");
      return List.of();
    }
    return typed.stream()
        .map(word -> reading.optionalText(field, word, LONGEST_CHOICE))
        .filter(word -> !word.isEmpty())
        .toList();
  }

  private static Refused notThere() {
    return new Refused(
        Rule.NOT_FOUND, "There is no such checklist. Choose one from the list, or add one.");
  }
}
