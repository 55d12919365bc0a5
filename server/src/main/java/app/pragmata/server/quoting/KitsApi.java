package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.KIT;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.KitRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Kits: lines that are always quoted together. */
@RestController
class KitsApi {
  /** A kit; its lines carry no price, so that the one in force is taken when they are used. */
  record Kit(long id, String name, List<TypedLine> lines) {}

  record KitForm(@Nullable String name, List<TypedLine> lines) {}

  record KeptKit(long id) {}

  private final DSLContext database;
  private final KitStore kits;
  private final RepeatableRequests repeats;
  private final CompanyStore companies;
  private final Events events;

  KitsApi(
      DSLContext database,
      KitStore kits,
      RepeatableRequests repeats,
      CompanyStore companies,
      Events events) {
    this.database = database;
    this.kits = kits;
    this.repeats = repeats;
    this.companies = companies;
    this.events = events;
  }

  @GetMapping("/api/kits")
  List<Kit> listKits() {
    return database
        .selectFrom(KIT)
        .orderBy(KIT.NAME)
        .fetch(row -> new Kit(row.getId(), row.getName(), kits.read(row.getLines())));
  }

  /** Keeps lines as a kit; one of the same name is replaced. */
  @PostMapping("/api/kits")
  @Transactional
  public KeptKit keepKit(
      Act act,
      @RequestHeader(name = "Idempotency-Key", required = false) @Nullable String key,
      @RequestBody KitForm form) {
    return new KeptKit(repeats.once(act, key, "keep kit", form, () -> store(act, form)));
  }

  private long store(Act act, KitForm form) {
    var reading = new Reading();
    String name = reading.text("name", form.name(), 80);
    if (form.lines().isEmpty()) {
      reading.fault("lines", Rule.NO_LINES, "A kit needs at least one line.");
    }
    reading.refuseIfFaulty();
    DriveCharge companyRule = companies.getCompany().terms().charge().on(act.today()).drive();
    JSONB lines =
        kits.write(form.lines().stream().map(line -> line.atTodaysPrice(companyRule)).toList());
    KitRecord before = database.selectFrom(KIT).where(KIT.NAME.eq(name)).forUpdate().fetchOne();
    long id =
        database
            .insertInto(KIT)
            .set(KIT.NAME, name)
            .set(KIT.LINES, lines)
            .onConflict(KIT.NAME)
            .doUpdate()
            .set(KIT.LINES, lines)
            .returning(KIT.ID)
            .fetchSingle(KIT.ID);
    events.tell(
        act,
        QuoteEvent.KIT_KEPT,
        id,
        About.NOTHING.with(
            before == null ? Map.of() : Map.of("lines", before.getLines()),
            Map.of("name", name, "lines", lines)));
    return id;
  }
}
