package app.pragmata.core.costing;

import app.pragmata.core.Category;
import app.pragmata.core.costing.CostSheet.LabourVariance;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.PromisedParts;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/** Says in a few words why a category cost other than quoted. */
public final class Because {
  private static final int MOST_PARTS = 2;

  private Because() {}

  /** Empty when there is nothing to say; the sheet is the job's. */
  public static String of(JobFacts job, CostSheet sheet, Category category) {
    return switch (category) {
      case LABOUR -> labour(sheet.labourVariance(), sheet);
      case DRIVE -> drive(sheet);
      case PARTS -> parts(job);
      case OTHER -> "";
    };
  }

  /** What was fitted beyond the promise or left out of it, such as "+1 Photocell pair". */
  private static String parts(JobFacts job) {
    var parts = new PromisedParts(job.promise());
    job.parts().forEach(use -> parts.use(use.partId(), use.description(), use.quantity()));
    var reasons = new ArrayList<String>();
    parts.beyond().forEach(more -> reasons.add(signed(more.quantity()) + " " + more.description()));
    parts
        .toFit()
        .forEach(less -> reasons.add(signed(less.quantity().negate()) + " " + less.description()));
    return reasons.size() <= MOST_PARTS
        ? String.join(", ", reasons)
        : String.join(", ", reasons.subList(0, MOST_PARTS))
            + " and %d more".formatted(reasons.size() - MOST_PARTS);
  }

  private static String labour(LabourVariance variance, CostSheet sheet) {
    var reasons = new ArrayList<String>();
    int minutes = sheet.actual().labourMinutes() - sheet.quoted().labourMinutes();
    if (minutes != 0) {
      reasons.add("hours " + signed(minutes) + ", " + signed(variance.hours()));
    }
    if (!variance.rate().isZero()) {
      reasons.add("rate " + signed(variance.rate()));
    }
    return String.join(" · ", reasons);
  }

  private static String drive(CostSheet sheet) {
    List<String> reasons = new ArrayList<>();
    int minutes = sheet.actual().driveMinutes() - sheet.quoted().driveMinutes();
    BigDecimal miles = sheet.actual().miles().subtract(sheet.quoted().miles());
    if (minutes != 0) {
      reasons.add(signed(minutes));
    }
    if (miles.signum() != 0) {
      reasons.add(signed(miles) + " mi");
    }
    return String.join(", ", reasons);
  }

  private static String signed(int minutes) {
    return (minutes > 0 ? "+" : "−") + Minutes.text(Math.abs(minutes));
  }

  private static String signed(BigDecimal quantity) {
    return (quantity.signum() > 0 ? "+" : "−")
        + quantity.abs().stripTrailingZeros().toPlainString();
  }

  private static String signed(Money amount) {
    return (amount.isNegative() ? "−" : "+") + Money.ofMinor(Math.abs(amount.minor()));
  }
}
