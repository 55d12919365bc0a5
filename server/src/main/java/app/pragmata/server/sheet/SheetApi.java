package app.pragmata.server.sheet;

import static app.pragmata.server.generated.Tables.AUDIT_ENTRY;

import app.pragmata.core.Category;
import app.pragmata.core.Decimal;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.company.WorkingCalendar;
import app.pragmata.core.costing.Because;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.costing.Variances;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.PromisedParts;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.quoting.Offer;
import app.pragmata.server.billing.BillFiles;
import app.pragmata.server.billing.BillingService;
import app.pragmata.server.billing.BillingView;
import app.pragmata.server.books.BooksApi;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.field.PhonesBehind;
import app.pragmata.server.jobs.JobCharges;
import app.pragmata.server.jobs.JobEvent;
import app.pragmata.server.jobs.JobStore;
import app.pragmata.server.jobs.PromiseStore;
import app.pragmata.server.jobs.WholeJob;
import app.pragmata.server.jobs.WholeJob.WholeVisit;
import app.pragmata.server.quoting.QuoteService;
import app.pragmata.server.receipts.DebtStore;
import app.pragmata.server.receipts.ReceiptStore;
import app.pragmata.server.receipts.ReceiptView;
import app.pragmata.server.records.Act;
import app.pragmata.server.records.RecordKind;
import app.pragmata.server.worklists.Stage;
import java.math.BigDecimal;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RestController;

/** Puts a job's sheet together from one consistent reading of the database. */
@RestController
class SheetApi {

  private final JobStore jobs;
  private final CompanyStore companies;
  private final BillingService billing;
  private final BillFiles billFiles;
  private final PhonesBehind phones;
  private final QuoteService quotes;
  private final ReceiptStore receipts;
  private final BooksApi books;
  private final DebtStore debts;
  private final DSLContext database;

  SheetApi(
      JobStore jobs,
      CompanyStore companies,
      BillingService billing,
      BillFiles billFiles,
      PhonesBehind phones,
      QuoteService quotes,
      ReceiptStore receipts,
      BooksApi books,
      DebtStore debts,
      DSLContext database) {
    this.jobs = jobs;
    this.companies = companies;
    this.billing = billing;
    this.billFiles = billFiles;
    this.phones = phones;
    this.quotes = quotes;
    this.receipts = receipts;
    this.books = books;
    this.debts = debts;
    this.database = database;
  }

  @GetMapping("/api/jobs/{id}")
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public JobSheet getJobSheet(Act act, @PathVariable long id) {
    WholeJob job =
        jobs.find(id, act.today())
            .orElseThrow(
                () ->
                    new Refused(
                        Rule.NOT_FOUND,
                        "This job does not exist. Find the right one with / and its number."));
    Company company = companies.getCompany();
    var costing = new Costing(company.terms());
    JobFacts facts = job.facts(company.zone());
    CostSheet cost = costing.cost(facts);
    BillingView view = billing.view(act, job, company, cost);
    List<ReceiptView> money = receipts.listOfJob(id);
    Map<Long, String> fileNames =
        billFiles.names(job.others().stream().map(WholeJob.Other::id).toList());
    return new JobSheet(
        id,
        job.job().number(),
        job.job().version(),
        job.job().title(),
        job.job().state(),
        Stage.of(job, view.owed()),
        job.kindOfJob(),
        job.job().customerId(),
        job.customer(),
        debts.getDebt(job.job().customerId(), act.today()),
        job.site().name(),
        job.site().address(),
        job.site().accessNotes(),
        equipment(job.equipment()),
        job.job().notes(),
        job.response(act, company.calendar()),
        job.job().faultCode(),
        job.job().causeCode(),
        job.promises().stream().map(each -> promise(act, each, company.zone())).toList(),
        visits(job, costing, company, act.today()),
        job.others().stream()
            .map(
                other ->
                    new JobSheet.OtherCost(
                        other.id(),
                        other.supplier(),
                        other.description(),
                        other.costMinor(),
                        other.passedOn(),
                        fileNames.get(other.id())))
            .toList(),
        job.charges().stream().map(SheetApi::charge).toList(),
        cost(costing, facts, cost, Money.ofMinor(view.chargedMinor())),
        job.forecast(company, Money.ofMinor(view.soldMinor()), act.today())
            .map(forecast -> JobForecast.of(forecast, job, company))
            .orElse(null),
        view,
        money,
        books.listEntries(id, money.stream().map(ReceiptView::id).toList()));
  }

  private static JobSheet.OwnCharge charge(JobCharges.Charged charged) {
    JobFacts.Charge charge = charged.charge();
    return new JobSheet.OwnCharge(
        charge.id(),
        charged.version(),
        charge.description(),
        charge.quantity().stripTrailingZeros(),
        charge.unitPrice().major(),
        charge.net().minor());
  }

  private static JobSheet.@Nullable Equipment equipment(WholeJob.@Nullable Equipment equipment) {
    return equipment == null
        ? null
        : new JobSheet.Equipment(
            equipment.model() + ", " + equipment.serialNumber(),
            equipment.partsWarrantyUntil(),
            equipment.warranty().partsShare().percent());
  }

  private JobSheet.Promise promise(Act act, PromiseStore.Promise promise, ZoneId zone) {
    PromiseStore.Accepted quote = promise.quote();
    Offer offer = quotes.getOffer(quotes.get(quote.quoteId()), act.today());
    return new JobSheet.Promise(
        quote.quoteId(),
        quote.number(),
        quote.promise(),
        quote.acceptedAt().atZone(zone).toLocalDate(),
        quote.acceptedBy(),
        String.join(", ", promise.lines().stream().map(SheetApi::summary).toList()),
        IntStream.range(0, promise.lines().size())
            .mapToObj(i -> promisedLine(i + 1, promise.lines().get(i)))
            .toList(),
        quote.netMinor(),
        stages(offer),
        offer.depositDue().minor());
  }

  private static JobSheet.PromisedLine promisedLine(int position, QuoteLine line) {
    return new JobSheet.PromisedLine(
        position,
        line.category(),
        line.description(),
        quantity(line),
        line.cost().minor(),
        line.reductions().warrantyShare().percent(),
        line.reductions().warranty().minor(),
        line.reductions().forgone().minor(),
        line.net().minor());
  }

  private static List<JobSheet.PromisedStage> stages(Offer offer) {
    if (offer.stages().isEmpty()) {
      return List.of();
    }
    List<Money> amounts = offer.stageAmounts();
    return IntStream.range(0, amounts.size())
        .mapToObj(
            i ->
                new JobSheet.PromisedStage(
                    offer.stages().get(i).name(),
                    offer.stages().get(i).part().text(),
                    amounts.get(i).minor()))
        .toList();
  }

  private static String summary(QuoteLine line) {
    return switch (line) {
      case QuoteLine.Labour labour -> Minutes.text(labour.minutes()) + " labour";
      case QuoteLine.Drive drive -> Minutes.text(drive.minutes()) + " drive";
      case QuoteLine.Part part -> quantity(part) + " " + part.description();
      case QuoteLine.Other other -> other.description();
    };
  }

  private static String quantity(QuoteLine line) {
    return switch (line) {
      case QuoteLine.Labour labour -> Minutes.text(labour.minutes());
      case QuoteLine.Drive drive ->
          Minutes.text(drive.minutes()) + ", " + Decimal.text(drive.miles()) + " mi";
      case QuoteLine.Part part -> Decimal.text(part.quantity());
      case QuoteLine.Other other -> Decimal.text(other.quantity());
    };
  }

  private List<JobSheet.Visit> visits(
      WholeJob job, Costing costing, Company company, LocalDate today) {
    Set<Corrected> corrected = corrected(job.job().id());
    var promised = new PromisedParts(job.promise());
    Map<Long, Integer> unsent = phones.unsent(job.visits().stream().map(WholeVisit::id).toList());
    return job.visits().stream()
        .map(
            visit ->
                visit(
                    job,
                    visit,
                    unsent.getOrDefault(visit.id(), 0),
                    costing,
                    company,
                    corrected,
                    promised,
                    today))
        .toList();
  }

  private static JobSheet.Visit visit(
      WholeJob job,
      WholeVisit visit,
      int unsentThings,
      Costing costing,
      Company company,
      Set<Corrected> corrected,
      PromisedParts promised,
      LocalDate today) {
    WorkingCalendar hours = company.calendar();
    boolean milesMissing =
        visit.entries().stream()
                .anyMatch(entry -> entry.kind() == TimeEntry.Kind.DRIVE && entry.endedAt() != null)
            && visit.entries().stream().allMatch(entry -> entry.miles().signum() == 0);
    return new JobSheet.Visit(
        visit.id(),
        visit.version(),
        visit.state(),
        visit.technicianId(),
        visit.technician(),
        visit.companions(),
        visit.day(),
        visit.plannedDay(),
        visit.start(),
        visit.expectedMinutes(),
        visit.notBefore(),
        visit.awaitedPart(),
        visit.partArrivedOn() != null,
        visit.replacesId(),
        visit.note(),
        visit.reason(),
        visit.report().outcome(),
        visit.report().acceptedAt() == null
            ? null
            : LocalDateTime.ofInstant(visit.report().acceptedAt(), company.zone()),
        visit.report().lateMinutes(),
        visit.report().toldMinor(),
        visit.report().toldWithVat(),
        unsentThings,
        visit.labourWarrantyExclusion(),
        visit.driveWarrantyExclusion(),
        visit.state().takesRecords(visit.day(), today),
        job.closing().isPresent() || visit.isBilled(),
        visit.state().isOver()
            && visit.entries().stream()
                .noneMatch(entry -> entry.kind() == TimeEntry.Kind.LABOUR && entry.minutes() > 0),
        milesMissing,
        visit.entries().stream()
            .map(entry -> time(entry, visit.day(), costing, hours, corrected))
            .toList(),
        visit.uses().stream()
            .map(use -> part(job, use, job.cover(hours.zone()), corrected, promised))
            .toList(),
        visit.drivesHome().stream()
            .map(
                share ->
                    new JobSheet.DriveHome(
                        share.timeEntryId(),
                        share.personId(),
                        share.person(),
                        share.day(),
                        share.minutes(),
                        share.miles(),
                        share.timeCostMinor() + share.distanceCostMinor()))
            .toList());
  }

  private static JobSheet.Time time(
      WholeJob.Entry entry,
      LocalDate day,
      Costing costing,
      WorkingCalendar hours,
      Set<Corrected> corrected) {
    var from = entry.startedAt().atZone(hours.zone());
    var to = entry.endedAt() == null ? null : entry.endedAt().atZone(hours.zone());
    return new JobSheet.Time(
        entry.id(),
        entry.version(),
        entry.personId(),
        entry.person(),
        entry.kind(),
        entry.rateClass(),
        from.toLocalTime(),
        (int) ChronoUnit.DAYS.between(day, from.toLocalDate()),
        to == null ? null : to.toLocalTime(),
        to == null ? 0 : (int) ChronoUnit.DAYS.between(day, to.toLocalDate()),
        entry.endedAt() == null
            || hours.split(entry.startedAt(), entry.endedAt()).stream()
                .allMatch(span -> span.rateClass() == entry.rateClass()),
        entry.minutes(),
        entry.miles(),
        entry.description(),
        timeOf(entry.measuredFrom(), hours),
        timeOf(entry.measuredTo(), hours),
        entry.inDoubt(),
        costing.cost(entry.fact()).total().minor(),
        costOfTime(costing, entry.fact()),
        corrected.contains(new Corrected(RecordKind.TIME_ENTRY, entry.id())));
  }

  private static JobSheet.CostOfTime costOfTime(Costing costing, TimeEntry entry) {
    TimeEntry.Cost cost = costing.cost(entry);
    Costing.RatesOfDay rates = costing.rates(entry);
    return new JobSheet.CostOfTime(
        cost.time().minor(),
        cost.distance().minor(),
        rates.wagePerHour().stripTrailingZeros(),
        rates.onCostShare().movePointRight(2).stripTrailingZeros(),
        rates.classFactor().movePointRight(2).stripTrailingZeros(),
        rates.costPerHour().stripTrailingZeros(),
        rates.costPerMile().stripTrailingZeros(),
        !costing.cost(entry.unapproved()).equals(cost));
  }

  private static @Nullable LocalTime timeOf(@Nullable Instant moment, WorkingCalendar hours) {
    return moment == null ? null : moment.atZone(hours.zone()).toLocalTime();
  }

  /** What goes beyond the promise is marked, where there is one. */
  private static JobSheet.Part part(
      WholeJob job,
      WholeJob.Use use,
      Cover cover,
      Set<Corrected> corrected,
      PromisedParts promised) {
    BigDecimal beyond = promised.use(use.partId(), use.name(), use.quantity());
    return new JobSheet.Part(
        use.id(),
        use.version(),
        use.name(),
        use.unit(),
        use.quantity().stripTrailingZeros(),
        job.promises().isEmpty() ? BigDecimal.ZERO : beyond,
        use.costMinor(),
        cover.parts().percent(),
        use.warrantyExclusion(),
        corrected.contains(new Corrected(RecordKind.VISIT_PART, use.id())),
        use.keptOnRecord() ? Math.max(0, use.quantity().intValue() - use.onRecord()) : 0);
  }

  private static JobSheet.Cost cost(Costing costing, JobFacts facts, CostSheet sheet, Money net) {
    Variances variances = costing.variances(facts, sheet);
    List<JobSheet.Rung> rungs = new ArrayList<>();
    for (Category category : Category.values()) {
      CostSheet.Rung rung = sheet.rung(category);
      rungs.add(
          new JobSheet.Rung(
              category,
              rung.quoted().minor(),
              rung.actual().minor(),
              rung.variance().minor(),
              Because.of(facts, sheet, variances, category).stream()
                  .map(JobSheet.Reason::of)
                  .toList()));
    }
    Margin margin = sheet.marginOn(net);
    Margin quoted = sheet.quotedMargin();
    return new JobSheet.Cost(
        facts.begun(),
        rungs,
        JobSheet.VariancesOf.of(variances, net.minus(sheet.quotedNet())),
        sheet.quotedCost().minor(),
        sheet.actualCost().minor(),
        quoted.amount().minor(),
        quoted.percent(),
        net.minor(),
        margin.amount().minor(),
        margin.percent(),
        margin.amount().minus(quoted.amount()).minor(),
        sheet.overhead().minor());
  }

  /** Time and parts that the office wrote down or put right. */
  private Set<Corrected> corrected(long jobId) {
    return database
        .select(AUDIT_ENTRY.RECORD_KIND, AUDIT_ENTRY.RECORD_ID)
        .from(AUDIT_ENTRY)
        .where(AUDIT_ENTRY.OWNER_KIND.eq(RecordKind.JOB).and(AUDIT_ENTRY.OWNER_ID.eq(jobId)))
        .and(AUDIT_ENTRY.EVENT.in(JobEvent.corrections()))
        .fetchSet(row -> new Corrected(row.value1(), row.value2()));
  }

  private record Corrected(RecordKind kind, long id) {}
}
