package app.pragmata.demo;

import static app.pragmata.server.generated.Tables.JOB;
import static app.pragmata.server.generated.Tables.KIND_OF_JOB;
import static app.pragmata.server.generated.Tables.PART;
import static app.pragmata.server.generated.Tables.PERSON;
import static app.pragmata.server.generated.Tables.RECEIVABLE;
import static app.pragmata.server.generated.Tables.VISIT;

import app.pragmata.core.billing.Bill;
import app.pragmata.core.books.PaymentMethod;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.people.Role;
import app.pragmata.demo.DemoTemplates.Template;
import app.pragmata.demo.DemoTemplates.Used;
import app.pragmata.server.billing.BillingService;
import app.pragmata.server.billing.InvoiceForm;
import app.pragmata.server.billing.InvoiceService;
import app.pragmata.server.field.CheckService;
import app.pragmata.server.field.Clocks;
import app.pragmata.server.field.FieldService;
import app.pragmata.server.field.StepForm;
import app.pragmata.server.jobs.JobOpening;
import app.pragmata.server.planning.PlanningService;
import app.pragmata.server.quoting.QuoteForm;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.quoting.TypedLine;
import app.pragmata.server.receipts.ReceiptForm;
import app.pragmata.server.receipts.ReceiptService;
import app.pragmata.server.records.Act;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jooq.TableField;
import org.jooq.impl.TableImpl;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * One week of the large company, quoted, planned, worked, checked, billed and paid by the program's
 * own services: four stops a day for each technician, and everything that is rare at least twice.
 */
@Component
@ConditionalOnProperty(name = "pragmata.large", havingValue = "true")
class LargeWeek {
  /** How far the week's jobs have come. */
  enum Moment {
    OFFERED,
    WON,
    PLANNED,
    WORKED,
    CHECKED,
    BILLED,
    SETTLED
  }

  /** How many weeks ago it is worked; what it becomes afterwards happens until today. */
  static final int WEEKS_AGO = 7;

  private static final int DAYS = 5;
  private static final int STOPS = 4;
  private static final int MINUTES_BETWEEN_STOPS = 120;
  private static final int AT_ONCE = 100;
  private static final String ABOVE = "The work took longer than expected, as told on site";

  private static final List<Template> TEMPLATES =
      DemoTemplates.ALL.stream().filter(template -> template.minutes() <= 150).toList();

  /** Where the week's work is: ids in a row, each customer's site and equipment as far along. */
  record Places(long firstCustomer, long firstSite, long firstEquipment, int count) {
    /** As many customers as give some of them two jobs; divisible by three like who pays when. */
    static int count(int technicians) {
      return technicians * DAYS * STOPS * 3 / 4 / 3 * 3;
    }
  }

  /** A stop of a technician. */
  private final class Stop {
    private final int index;
    private final long technician;
    private final LocalDate day;
    private final LocalTime start;
    private final Template template;
    private long quote;
    private long job;
    private long visit;

    Stop(int day, int technician, int stop) {
      index = (day * technicians.size() + technician) * STOPS + stop;
      this.technician = technicians.get(technician);
      this.day = days.get(day);
      start = LocalTime.of(7, 30).plusMinutes((long) stop * MINUTES_BETWEEN_STOPS);
      template = TEMPLATES.get(index * 7 % TEMPLATES.size());
    }

    long place() {
      return index % places.count();
    }

    boolean quoted() {
      return index % 5 < 3;
    }

    PromiseKind promise() {
      if (inStages() || index % 3 == 0) {
        return PromiseKind.FIXED_PRICE;
      }
      return index % 3 == 1 ? PromiseKind.NOT_MORE_THAN : PromiseKind.ESTIMATE;
    }

    boolean inStages() {
      return index % 25 == 7;
    }

    boolean withDeposit() {
      return index % 25 == 11;
    }

    boolean notCharged() {
      return index % 25 == 13 && !inStages() && !withDeposit();
    }

    LocalTime arrived() {
      return start.plusMinutes(12 + index % 13);
    }

    LocalTime finished() {
      return arrived().plusMinutes(40 + index * 37 % 55);
    }

    Act technicianAt(LocalTime time) {
      return new Act(technician, Role.TECHNICIAN, at(day, time), zone);
    }

    /** Some minutes of a working day, another for each stop. */
    LocalTime deskTime() {
      return LocalTime.of(8, 0).plusMinutes(index % 480);
    }
  }

  private final DSLContext database;
  private final TransactionTemplate transaction;
  private final QuoteService quotes;
  private final JobOpening openings;
  private final PlanningService planning;
  private final Clocks clocks;
  private final FieldService field;
  private final CheckService checks;
  private final BillingService billing;
  private final InvoiceService invoicing;
  private final ReceiptService receipts;
  private final DemoStores stores;
  private final DemoMoney money;
  private final DemoBills bills;

  private final List<Stop> stops = new ArrayList<>();
  private ZoneId zone = ZoneId.of("UTC");
  private List<Long> technicians = List.of();
  private List<LocalDate> days = List.of();
  private Places places = new Places(0, 0, 0, 0);
  private Map<String, Long> kinds = Map.of();
  private long office;
  private int count;

  LargeWeek(
      DSLContext database,
      TransactionTemplate transaction,
      QuoteService quotes,
      JobOpening openings,
      PlanningService planning,
      Clocks clocks,
      FieldService field,
      CheckService checks,
      BillingService billing,
      InvoiceService invoicing,
      ReceiptService receipts,
      DemoStores stores,
      DemoMoney money,
      DemoBills bills) {
    this.database = database;
    this.transaction = transaction;
    this.quotes = quotes;
    this.openings = openings;
    this.planning = planning;
    this.clocks = clocks;
    this.field = field;
    this.checks = checks;
    this.billing = billing;
    this.invoicing = invoicing;
    this.receipts = receipts;
    this.stores = stores;
    this.money = money;
    this.bills = bills;
  }

  /** Works it, and tells whenever all of its jobs have come one step further. */
  void work(
      LocalDate today, ZoneId companyZone, List<Long> who, Places where, Consumer<Moment> reached) {
    zone = companyZone;
    technicians = who;
    places = where;
    days = lastWorkdays(today).stream().map(day -> day.minusWeeks(WEEKS_AGO)).toList();
    kinds = database.selectFrom(KIND_OF_JOB).fetchMap(KIND_OF_JOB.NAME, KIND_OF_JOB.ID);
    office =
        database
            .select(PERSON.ID)
            .from(PERSON)
            .where(PERSON.USERNAME.eq("hester"))
            .fetchSingle(PERSON.ID);
    for (int day = 0; day < DAYS; day++) {
      for (int technician = 0; technician < technicians.size(); technician++) {
        for (int stop = 0; stop < STOPS; stop++) {
          stops.add(new Stop(day, technician, stop));
        }
      }
    }
    transaction.executeWithoutResult(
        status ->
            stores.open(desk(days.getFirst().minusDays(10), LocalTime.of(7, 0)), technicians));
    each(stops.stream().filter(Stop::quoted).toList(), this::offer);
    reached.accept(Moment.OFFERED);
    each(stops, this::win);
    reached.accept(Moment.WON);
    each(stops, this::plan);
    reached.accept(Moment.PLANNED);
    each(stops, this::visit);
    reached.accept(Moment.WORKED);
    check(evening(), stops.stream().map(stop -> stop.visit).toList());
    reached.accept(Moment.CHECKED);
    each(stops, this::chooseBasis);
    close(evening().plusSeconds(3_600), stops.stream().map(stop -> stop.job).toList());
    reached.accept(Moment.BILLED);
    settle();
    reached.accept(Moment.SETTLED);
  }

  /** The five working days before this one, the first first. */
  private static List<LocalDate> lastWorkdays(LocalDate today) {
    return today
        .minusDays(DAYS + 2)
        .datesUntil(today)
        .filter(day -> day.getDayOfWeek().compareTo(DayOfWeek.SATURDAY) < 0)
        .toList();
  }

  private Instant at(LocalDate day, LocalTime time) {
    return day.atTime(time).atZone(zone).toInstant();
  }

  private Act desk(LocalDate day, LocalTime time) {
    return desk(at(day, time));
  }

  private Act desk(Instant at) {
    return new Act(office, Role.OFFICE, at, zone);
  }

  private Instant evening() {
    return at(days.getLast(), LocalTime.of(17, 30));
  }

  private String key() {
    return "large-key-" + count++;
  }

  /** Many to a transaction: what follows a change is then worked out for all of them at once. */
  private <T> void each(List<T> all, Consumer<T> work) {
    for (List<T> portion : portions(all)) {
      transaction.executeWithoutResult(status -> portion.forEach(work));
    }
  }

  private static <T> List<List<T>> portions(List<T> all) {
    var portions = new ArrayList<List<T>>();
    for (int from = 0; from < all.size(); from += AT_ONCE) {
      portions.add(all.subList(from, Math.min(from + AT_ONCE, all.size())));
    }
    return portions;
  }

  private void offer(Stop stop) {
    LocalDate day = stop.day.minusWeeks(1);
    var lines = new ArrayList<TypedLine>();
    lines.add(
        TypedLine.labour(stop.template.title(), Minutes.text(stop.template.minutes())).line());
    lines.add(TypedLine.drive("Call-out", "0:20", "12").line());
    for (Used used : stop.template.used()) {
      lines.add(TypedLine.part(part(used.number()), null, "" + used.quantity()).line());
    }
    var form =
        new QuoteForm(
            0,
            places.firstSite() + stop.place(),
            places.firstEquipment() + stop.place(),
            kinds.get(stop.template.kind()),
            stop.template.title(),
            stop.promise(),
            null,
            null,
            null,
            null,
            stop.withDeposit() ? "30%" : null,
            null,
            stop.inStages()
                ? List.of(
                    new QuoteForm.TypedStage("With the order", "40%"),
                    new QuoteForm.TypedStage("When it is fitted", "60%"))
                : null,
            lines);
    stop.quote = quotes.create(desk(day, stop.deskTime()), key(), form);
    quotes.send(desk(day, stop.deskTime().plusMinutes(20)), stop.quote, 1, null);
  }

  private void win(Stop stop) {
    Act act = desk(stop.day.minusDays(5), stop.deskTime());
    if (stop.quoted()) {
      quotes.accept(act, stop.quote, 2, "The customer");
      if (stop.withDeposit()) {
        receive(act, new Sum(null, Money.of("40.00"), stop.quote));
      }
      stop.job = quotes.makeJob(act, key(), stop.quote);
      if (stop.inStages()) {
        bill(act, stop.job, Bill.Kind.STAGE);
      }
    } else {
      stop.job =
          openings.open(
              act,
              new JobOpening.NewJob(
                  places.firstCustomer() + stop.place(),
                  places.firstSite() + stop.place(),
                  places.firstEquipment() + stop.place(),
                  null,
                  Objects.requireNonNull(kinds.get(stop.template.kind())),
                  stop.template.title(),
                  "Please ring before you come.",
                  null,
                  DemoTemplates.fault(stop.template),
                  null,
                  null,
                  null,
                  List.of()));
    }
    stop.visit =
        database
            .select(VISIT.ID)
            .from(VISIT)
            .where(VISIT.JOB_ID.eq(stop.job))
            .fetchSingle(VISIT.ID);
  }

  private void plan(Stop stop) {
    planning.plan(
        desk(stop.day.minusDays(4), stop.deskTime()),
        stop.visit,
        PlanningService.PlanForm.anyway(
            1, stop.technician, stop.day, stop.arrived(), stop.template.minutes()));
  }

  private void visit(Stop stop) {
    go(stop.visit, stop.start, stop.arrived(), stop::technicianAt);
    for (Used used : stop.template.used()) {
      Act act = stop.technicianAt(stop.arrived().plusMinutes(10));
      stores.loadForUse(act, stop.technician, used.number(), BigDecimal.valueOf(used.quantity()));
      field.addPart(
          act,
          key(),
          stop.visit,
          new FieldService.PartForm(part(used.number()), "" + used.quantity(), null));
    }
    finish(stop.visit, stop.technicianAt(stop.finished()), DemoTemplates.cause(stop.template));
    if (stop.index % 20 == 3) {
      billing.addOtherCost(
          desk(at(stop.day, stop.finished())),
          key(),
          stop.job,
          new BillingService.OtherCostForm(
              "Ostmere Plant Hire", "Tower hire", "35.00", null, null));
    }
    boolean lastOfTheDay = stop.index % STOPS == STOPS - 1;
    if (lastOfTheDay && stop.index / STOPS % 4 == 0) {
      clocks.start(
          stop.technicianAt(stop.finished().plusMinutes(1)),
          key(),
          new Clocks.ClockForm(TimeEntry.Kind.DRIVE, null, null, null, null, null));
      clocks.stop(stop.technicianAt(stop.finished().plusMinutes(19)), key(), StepForm.driven("8"));
    }
  }

  private interface ActAt {
    Act at(LocalTime time);
  }

  private void go(long visit, LocalTime start, LocalTime arrived, ActAt technician) {
    clocks.drive(technician.at(start), key(), visit, StepForm.PLAIN);
    clocks.arrive(technician.at(arrived), key(), visit, StepForm.driven("9"));
    clocks.startWork(technician.at(arrived.plusMinutes(1)), key(), visit, StepForm.PLAIN);
  }

  private void finish(long visit, Act act, @Nullable String cause) {
    field.finish(act, key(), visit, FieldService.FinishForm.done("Done and tested.", cause));
  }

  private void check(Instant at, List<Long> visits) {
    for (List<Long> portion : portions(visits)) {
      Map<Long, Integer> versions = versions(VISIT, VISIT.ID, VISIT.VERSION, portion);
      checks.checkList(
          desk(at),
          key(),
          portion.stream()
              .map(id -> new CheckService.Shown(id, Objects.requireNonNull(versions.get(id))))
              .toList());
    }
  }

  private void chooseBasis(Stop stop) {
    boolean above = stop.quoted() && stop.promise() == PromiseKind.ESTIMATE;
    if (!above && !stop.notCharged()) {
      return;
    }
    billing.chooseBasis(
        desk(evening()),
        stop.job,
        stop.notCharged()
            ? new BillingService.BasisForm(
                jobVersion(stop.job),
                BillingBasis.Code.NOT_CHARGED,
                "Goodwill: our own fault from the last visit")
            : new BillingService.BasisForm(
                jobVersion(stop.job), BillingBasis.Code.TIME_AND_PARTS, ABOVE));
  }

  private void close(Instant at, List<Long> jobs) {
    for (List<Long> portion : portions(jobs)) {
      Map<Long, Integer> versions = versions(JOB, JOB.ID, JOB.VERSION, portion);
      invoicing.close(
          desk(at),
          key(),
          portion.stream()
              .map(
                  id ->
                      new InvoiceService.JobAtVersion(id, Objects.requireNonNull(versions.get(id))))
              .toList());
    }
  }

  private Map<Long, Integer> versions(
      TableImpl<?> table, TableField<?, Long> id, TableField<?, Integer> version, List<Long> ids) {
    return database.select(id, version).from(table).where(id.in(ids)).fetchMap(id, version);
  }

  private int jobVersion(long job) {
    return Objects.requireNonNull(versions(JOB, JOB.ID, JOB.VERSION, List.of(job)).get(job));
  }

  private long bill(Act act, long job, Bill.Kind kind) {
    return invoicing
        .postInvoice(
            act,
            key(),
            new InvoiceForm(
                List.of(
                    new InvoiceForm.BillForm(job, jobVersion(job), kind, null, null, null, null))))
        .id();
  }

  /** First what is rare, then all that is left is done and paid. */
  private void settle() {
    LocalDate later = days.getLast().plusDays(7);
    transaction.executeWithoutResult(status -> money.take(desk(later, LocalTime.of(9, 0))));
    transaction.executeWithoutResult(
        status -> bills.post(desk(later.plusDays(1), LocalTime.of(9, 0))));
    var left =
        database
            .select(VISIT.ID, VISIT.JOB_ID, VISIT.TECHNICIAN_ID, VISIT.DAY)
            .from(VISIT)
            .where(VISIT.STATE.eq(VisitState.Code.PLANNED))
            .orderBy(VISIT.ID)
            .fetch();
    each(
        left,
        visit -> {
          LocalTime start = LocalTime.of(16, 0);
          ActAt technician =
              time -> new Act(visit.value3(), Role.TECHNICIAN, at(visit.value4(), time), zone);
          go(visit.value1(), start, start.plusMinutes(10), technician);
          finish(visit.value1(), technician.at(start.plusMinutes(30)), null);
        });
    LocalDate paid = days.getLast().plusDays(30);
    check(at(paid, LocalTime.of(8, 0)), left.getValues(VISIT.ID));
    close(at(paid, LocalTime.of(8, 30)), left.getValues(VISIT.JOB_ID));
    // Two customers pay half and say no more.
    List<Sum> open = listOpen();
    each(open.subList(0, 2), sum -> payHalf(desk(paid, LocalTime.of(9, 0)), sum));
    each(
        open.subList(2, open.size()),
        sum -> receive(desk(paid.plusDays(3), LocalTime.of(9, 0)), sum));
  }

  /** Money that comes for an invoice, or as a deposit for a quote. */
  private record Sum(@Nullable Long invoice, Money amount, @Nullable Long quote) {}

  private List<Sum> listOpen() {
    return database
        .select(RECEIVABLE.INVOICE_ID, RECEIVABLE.OWED_MINOR)
        .from(RECEIVABLE)
        .where(RECEIVABLE.OWED_MINOR.gt(0L))
        .orderBy(RECEIVABLE.NUMBER)
        .fetch(row -> new Sum(row.value1(), Money.ofMinor(row.value2()), null));
  }

  private void payHalf(Act act, Sum open) {
    receive(act, new Sum(open.invoice(), Money.ofMinor(open.amount().minor() / 2), null));
  }

  private void receive(Act act, Sum sum) {
    receipts.receive(
        act,
        key(),
        new ReceiptForm(
            null,
            sum.amount().toString(),
            null,
            PaymentMethod.BANK_TRANSFER,
            sum.quote(),
            null,
            sum.invoice() == null
                ? List.of()
                : List.of(new ReceiptForm.AllocationForm(sum.invoice(), null, null))));
  }

  private long part(String number) {
    return database.select(PART.ID).from(PART).where(PART.NUMBER.eq(number)).fetchSingle(PART.ID);
  }
}
