package app.pragmata.server.quoting;

import static app.pragmata.server.generated.Tables.KIT;

import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.quoting.Choice;
import app.pragmata.core.quoting.LineKind;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.generated.tables.records.KitRecord;
import app.pragmata.server.records.About;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.Events;
import app.pragmata.server.records.RepeatableRequests;
import app.pragmata.server.stores.StockStore;
import app.pragmata.server.stores.StockedPart;
import java.math.BigDecimal;
import java.util.List;
import java.util.Map;
import java.util.Objects;
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

  /** The parts of a kit, as a technician takes them from the van. */
  record KitInVan(long id, String name, List<KitPart> parts) {}

  record KitPart(long partId, String name, BigDecimal quantity) {}

  record KitForm(@Nullable String name, List<TypedLine> lines) {}

  record KeptKit(long id) {}

  private final DSLContext database;
  private final KitStore kits;
  private final StockStore stock;
  private final RepeatableRequests repeats;
  private final CompanyStore companies;
  private final Events events;

  KitsApi(
      DSLContext database,
      KitStore kits,
      StockStore stock,
      RepeatableRequests repeats,
      CompanyStore companies,
      Events events) {
    this.database = database;
    this.kits = kits;
    this.stock = stock;
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

  /** Kits with parts, without their labour and what else they quote. */
  @GetMapping("/api/pocket/kits")
  List<KitInVan> listKitsInVan() {
    List<Kit> all = listKits();
    Map<Long, StockedPart> parts =
        stock.list(
            all.stream()
                .flatMap(kit -> kit.lines().stream())
                .map(TypedLine::partId)
                .filter(Objects::nonNull)
                .toList());
    return all.stream()
        .map(kit -> new KitInVan(kit.id(), kit.name(), parts(kit, parts)))
        .filter(kit -> !kit.parts().isEmpty())
        .toList();
  }

  private static List<KitPart> parts(Kit kit, Map<Long, StockedPart> known) {
    return kit.lines().stream()
        .filter(line -> line.category() == LineKind.PARTS && line.partId() != null)
        .filter(line -> line.choice() == null || line.choice() == Choice.Code.INCLUDED)
        .filter(line -> known.containsKey(line.partId()))
        .map(
            line ->
                new KitPart(
                    Objects.requireNonNull(line.partId()),
                    known.get(line.partId()).name(),
                    Reading.quantity(Objects.requireNonNullElse(line.quantity(), "1"))))
        .toList();
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
