package app.pragmata.core.billing;

import app.pragmata.core.Category;
import app.pragmata.core.company.Terms;
import app.pragmata.core.company.Wording;
import app.pragmata.core.costing.CostSheet;
import app.pragmata.core.costing.Costing;
import app.pragmata.core.costing.WorkAhead;
import app.pragmata.core.jobs.BillingBasis;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.PromiseKind;
import app.pragmata.core.money.Margin;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * What a job comes to at its end (the textbooks' estimate at completion): what was spent so far and
 * all that is to come, costed and charged by the rules that will hold for it then.
 *
 * @param ahead what is to come
 * @param sheet as if it were done
 * @param net charged without VAT for all of it
 * @param promise the kind of its accepted quotes; null where it has none
 */
public record Forecast(WorkAhead ahead, CostSheet sheet, Money net, @Nullable PromiseKind promise) {

  /**
   * A job as it is charged.
   *
   * @param all its facts
   * @param unbilled those that no document has taken
   * @param sold charged for good so far, without VAT
   * @param promised what its accepted quotes promise together; empty for none
   */
  public record Charged(
      JobFacts all,
      JobFacts unbilled,
      BillingBasis basis,
      Cover cover,
      Optional<Promised> promised,
      Money sold) {}

  /** Of a job of which this is to come. */
  public static Forecast of(
      Charged job, WorkAhead ahead, Terms terms, Wording wording, LocalDate today) {
    CostSheet sheet = new Costing(terms).cost(ahead.addedTo(job.all()));
    return new Forecast(
        ahead,
        sheet,
        switch (job.basis()) {
          case BillingBasis.FixedPrice fixed -> sheet.quotedNet();
          case BillingBasis.NotCharged free -> job.sold();
          case BillingBasis.PromisedOnSite onSite ->
              new Billing(terms, wording, today)
                  .bill(ahead.addedTo(job.all()), onSite, job.cover())
                  .net();
          case BillingBasis.TimeAndParts worked ->
              job.sold().plus(left(job, ahead, new Billing(terms, wording, today)));
        },
        job.promised().map(Promised::kind).orElse(null));
  }

  private static Money left(Charged job, WorkAhead ahead, Billing billing) {
    var basis = new BillingBasis.TimeAndParts();
    Bill bill = billing.bill(ahead.addedTo(job.unbilled()), basis, job.cover());
    return job.promised()
        .map(
            accepted ->
                billing
                    .promised(accepted, ahead.addedTo(job.all()), basis, job.cover())
                    .limit(bill, job.sold()))
        .orElse(bill)
        .net();
  }

  /** What is left of the charge. */
  public Margin margin() {
    return sheet.marginOn(net);
  }

  /** Whether less is left of what is charged than the company wants to keep; never of nothing. */
  public boolean isBelow(BigDecimal floorPercent) {
    BigDecimal percent = margin().percent();
    return percent != null && percent.compareTo(floorPercent) < 0;
  }

  /** Why it is below a floor, in words, the largest reason first; empty where it is not. */
  public List<String> reasons(BigDecimal floorPercent) {
    if (!isBelow(floorPercent)) {
      return List.of();
    }
    var reasons = new ArrayList<String>();
    BigDecimal quoted = sheet.quotedMargin().percent();
    if (promise == null) {
      reasons.add("by time and parts it keeps no more, at what its hours and parts are charged at");
    } else {
      over().forEach(category -> reasons.add(words(category)));
      if (quoted != null && quoted.compareTo(floorPercent) < 0) {
        reasons.add("it was promised at " + percent(quoted) + " already");
      } else if (net.compareTo(sheet.quotedNet()) < 0) {
        reasons.add("it charges %s less than quoted".formatted(sheet.quotedNet().minus(net)));
      }
    }
    return List.copyOf(reasons);
  }

  private List<Category> over() {
    return Arrays.stream(Category.values())
        .filter(category -> sheet.rung(category).variance().isPositive())
        .sorted(
            Comparator.comparing((Category category) -> sheet.rung(category).variance()).reversed())
        .toList();
  }

  private String words(Category category) {
    String more = category.code() + " costs " + sheet.rung(category).variance() + " more";
    int minutes = sheet.actual().labourMinutes() - sheet.quoted().labourMinutes();
    return category == Category.LABOUR && minutes > 0
        ? "%s, %s longer than quoted".formatted(more, Minutes.text(minutes))
        : more + " than quoted";
  }

  /** What can still be done about it, in words. */
  public String remedy() {
    return promise == PromiseKind.FIXED_PRICE || promise == PromiseKind.NOT_MORE_THAN
        ? "Quote what was not promised as extra work, or tell the customer before more is done."
        : "Tell the customer what it comes to before more is done, or look at what is charged.";
  }

  private static String percent(BigDecimal percent) {
    return percent.setScale(1, RoundingMode.HALF_UP).toPlainString().replace('-', '−') + " %";
  }
}
