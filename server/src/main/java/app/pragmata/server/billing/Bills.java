package app.pragmata.server.billing;

import app.pragmata.core.Category;
import app.pragmata.core.Reading;
import app.pragmata.core.Refused;
import app.pragmata.core.Rule;
import app.pragmata.core.billing.Bill;
import app.pragmata.core.billing.Billing;
import app.pragmata.core.billing.Deduction;
import app.pragmata.core.billing.Promised;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobState;
import app.pragmata.core.jobs.PromisedStage;
import app.pragmata.core.jobs.VisitState;
import app.pragmata.core.money.Money;
import app.pragmata.server.company.Company;
import app.pragmata.server.company.CompanyStore;
import app.pragmata.server.jobs.CostTaking;
import app.pragmata.server.jobs.PromiseStore;
import app.pragmata.server.jobs.WholeJob;
import app.pragmata.server.jobs.WholeJob.Other;
import app.pragmata.server.jobs.WholeJob.WholeVisit;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Makes what invoices charge for jobs, by what is promised, done and billed before. */
@Component
class Bills {
  private final CompanyStore companies;
  private final InvoiceStore invoices;

  Bills(CompanyStore companies, InvoiceStore invoices) {
    this.companies = companies;
    this.invoices = invoices;
  }

  /**
   * What was billed of jobs before.
   *
   * @param ahead of their work; their final bills take it off
   * @param sales for good, without VAT
   */
  record Before(Map<Long, List<Deduction>> ahead, Map<Long, Money> sales) {
    List<Deduction> aheadOf(WholeJob job) {
      return ahead.getOrDefault(job.job().id(), List.of());
    }

    Money salesOf(WholeJob job) {
      return sales.getOrDefault(job.job().id(), Money.ZERO);
    }
  }

  /** What was billed of these jobs, as a final bill of a tax day takes it off. */
  Before before(Collection<WholeJob> jobs, LocalDate taxDay) {
    List<Long> ids = jobs.stream().map(job -> job.job().id()).toList();
    return new Before(
        invoices.billedAhead(ids, code -> companies.getCompany().terms().vat().on(code, taxDay)),
        invoices.sales(ids));
  }

  /** Refuses a bill by which more is charged than was promised, while nobody has said why. */
  void requireReason(JobBill bill, LocalDate taxDay, Before before) {
    WholeJob job = bill.job();
    Money above = above(job, taxDay, before.salesOf(job).plus(bill.bill().net()));
    if (bill.takesCost() && above.isPositive() && job.job().abovePromiseReason() == null) {
      throw new Refused(
          Rule.ABOVE_PROMISE,
          "This charges %s more for job %d than was accepted. Say why on its bill first."
              .formatted(above, job.job().number()));
    }
  }

  /** What its accepted quotes promise by now; empty for a job straight from a call. */
  Optional<Promised> promised(WholeJob job, BillingBasis basis, LocalDate taxDay) {
    ZoneId zone = companies.getCompany().zone();
    return job.promised()
        .map(
            accepted ->
                billing(taxDay).promised(accepted, job.facts(zone), basis, job.cover(zone)));
  }

  /** How much more is charged of a job than its accepted quotes promise. */
  Money above(WholeJob job, LocalDate taxDay, Money charged) {
    return promised(job, job.job().basis(), taxDay)
        .map(promised -> promised.above(charged))
        .orElse(Money.ZERO);
  }

  /** By time and parts as far as the promise lets it be charged. */
  private Bill limit(WholeJob job, Bill bill, LocalDate taxDay, Before before) {
    return promised(job, new BillingBasis.TimeAndParts(), taxDay)
        .map(promised -> promised.limit(bill, before.salesOf(job)))
        .orElse(bill);
  }

  /** All that is left of a job, on a basis. */
  JobBill last(WholeJob job, BillingBasis basis, LocalDate taxDay, Before before) {
    ZoneId zone = companies.getCompany().zone();
    JobFacts left = job.unbilled(zone);
    Bill whole = billing(taxDay).bill(left, basis, job.cover(zone), before.aheadOf(job));
    Bill bill =
        basis instanceof BillingBasis.TimeAndParts ? limit(job, whole, taxDay, before) : whole;
    return new JobBill(job, bill, job.job().billingBasis(), null, null, left);
  }

  /** What a bill would take out of work in progress by now. */
  Map<Category, Money> costs(JobBill bill) {
    CostSheet sheet = new Costing(companies.getCompany().terms()).cost(bill.facts());
    return Arrays.stream(Category.values())
        .collect(Collectors.toMap(category -> category, category -> sheet.rung(category).actual()));
  }

  /** What a closed job would have been charged in all on a basis. */
  Bill inAll(WholeJob job, BillingBasis basis, LocalDate taxDay) {
    ZoneId zone = companies.getCompany().zone();
    Bill whole = billing(taxDay).bill(job.facts(zone), basis, job.cover(zone));
    return basis instanceof BillingBasis.TimeAndParts
        ? limit(job, whole, taxDay, new Before(Map.of(), Map.of()))
        : whole;
  }

  /**
   * What is asked for. Refused when the job is not so far, or what is asked for is not there or is
   * billed already.
   *
   * @param field of the form, before its own fields
   */
  JobBill asked(
      Reading reading,
      String field,
      WholeJob job,
      InvoiceForm.BillForm form,
      LocalDate taxDay,
      Before before) {
    requireOpen(job);
    return switch (Objects.requireNonNull(form.kind())) {
      case STAGE -> stage(reading, field, job, form);
      case PART -> part(reading, field, job, form, taxDay, before);
      case FINAL -> {
        requireChecked(job);
        yield last(job, job.job().basis(), taxDay, before);
      }
    };
  }

  private static void requireOpen(WholeJob job) {
    if (job.closing().isPresent()) {
      throw new Refused(Rule.JOB_BILLED, "Job %d is billed already.".formatted(job.job().number()));
    }
  }

  static void requireChecked(WholeJob job) {
    if (job.job().state() != JobState.Code.CHECKED) {
      throw new Refused(
          Rule.JOB_NOT_CHECKED,
          "There is nothing to bill until all work of job %d is finished and checked."
              .formatted(job.job().number()));
    }
  }

  private Billing billing(LocalDate taxDay) {
    Company company = companies.getCompany();
    return new Billing(company.terms(), company.wording(), taxDay);
  }

  private JobBill stage(Reading reading, String field, WholeJob job, InvoiceForm.BillForm form) {
    if (job.job().billingBasis() != BillingBasis.Code.FIXED_PRICE) {
      throw new Refused(
          Rule.NO_LINES,
          "Job %d is not charged by its fixed price, so no stage falls due. Bill some of its work instead."
              .formatted(job.job().number()));
    }
    List<PromiseStore.Promise> staged =
        job.promises().stream()
            .filter(each -> !each.stages().isEmpty())
            .filter(each -> form.quoteId() == null || each.quote().quoteId() == form.quoteId())
            .toList();
    if (staged.size() != 1) {
      reading.fault(
          field + "quoteId",
          staged.isEmpty() ? Rule.NOT_FOUND : Rule.MISSING,
          staged.isEmpty()
              ? "No accepted quote of this job has stages. Bill all at the end."
              : "Several quotes of this job have stages. Say of which one.");
      reading.refuseIfFaulty();
    }
    PromiseStore.Promise promise = staged.getFirst();
    long quoteId = promise.quote().quoteId();
    Set<Integer> billed = invoices.stagesBilled(quoteId);
    // The last stage is billed with all that is left.
    List<PromisedStage> ahead = promise.stages().subList(0, promise.stages().size() - 1);
    PromisedStage stage =
        ahead.stream()
            .filter(
                each ->
                    form.stage() == null
                        ? !billed.contains(each.position())
                        : each.position() == form.stage())
            .findFirst()
            .orElse(null);
    if (stage == null || billed.contains(stage.position())) {
      reading.fault(
          field + "stage",
          form.stage() != null && stage == null ? Rule.NOT_FOUND : Rule.STAGE_BILLED,
          stage == null
              ? "No stage is left to bill ahead of work: the last one is the final invoice."
              : "“%s” is billed already. Credit that invoice first, or choose another."
                  .formatted(stage.name()));
      reading.refuseIfFaulty();
    }
    PromisedStage chosen = Objects.requireNonNull(stage);
    return new JobBill(
        job,
        Bill.ofStage(chosen, promise.lines()),
        BillingBasis.Code.FIXED_PRICE,
        new JobBill.StageOf(quoteId, chosen.position()),
        null,
        new JobFacts(List.of(), List.of(), List.of()));
  }

  private JobBill part(
      Reading reading,
      String field,
      WholeJob job,
      InvoiceForm.BillForm form,
      LocalDate taxDay,
      Before before) {
    if (job.job().billingBasis() != BillingBasis.Code.TIME_AND_PARTS) {
      throw new Refused(
          Rule.NO_LINES,
          "Job %d is not charged by time and parts, so none of its work can be billed on its own."
              .formatted(job.job().number()));
    }
    var visitIds = new HashSet<>(form.askedVisits());
    var otherCostIds = new HashSet<>(form.askedOtherCosts());
    if (visitIds.isEmpty() && otherCostIds.isEmpty()) {
      reading.fault(
          field + "visitIds", Rule.MISSING, "Name the visits and suppliers' bills to charge.");
    }
    Map<Long, WholeVisit> visits =
        job.visits().stream().collect(Collectors.toMap(WholeVisit::id, each -> each));
    for (long id : visitIds) {
      WholeVisit visit = visits.get(id);
      if (visit == null) {
        reading.fault(
            field + "visitIds", Rule.NOT_FOUND, "A visit is not of this job. Reload the page.");
      } else if (visit.state() != VisitState.Code.CHECKED) {
        reading.fault(
            field + "visitIds",
            Rule.VISIT_NOT_CHECKED,
            "A visit is not checked yet. Check it first, then bill it.");
      }
    }
    Map<Long, Other> others =
        job.others().stream().collect(Collectors.toMap(Other::id, each -> each));
    if (!others.keySet().containsAll(otherCostIds)) {
      reading.fault(
          field + "otherCostIds",
          Rule.NOT_FOUND,
          "A supplier's bill is not of this job. Reload the page.");
    }
    reading.refuseIfFaulty();
    ZoneId zone = companies.getCompany().zone();
    JobFacts left = job.unbilled(zone);
    var facts =
        new JobFacts(
            left.promise(),
            left.visits().stream().filter(each -> visitIds.contains(each.id())).toList(),
            left.otherCosts().stream().filter(each -> otherCostIds.contains(each.id())).toList(),
            left.vat());
    return new JobBill(
        job,
        limit(job, billing(taxDay).partBill(facts, job.cover(zone)), taxDay, before),
        BillingBasis.Code.TIME_AND_PARTS,
        null,
        new CostTaking.Some(visitIds, otherCostIds),
        facts);
  }
}
