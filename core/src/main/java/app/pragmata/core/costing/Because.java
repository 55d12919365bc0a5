package app.pragmata.core.costing;

import app.pragmata.core.Category;
import app.pragmata.core.costing.CostSheet.LabourVariance;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import app.pragmata.core.quoting.QuoteLine;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
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
    var beyond = new LinkedHashMap<Long, BigDecimal>();
    var names = new HashMap<Long, String>();
    job.parts()
        .forEach(
            use -> {
              beyond.merge(use.partId(), use.quantity(), BigDecimal::add);
              names.put(use.partId(), use.description());
            });
    for (QuoteLine line : job.promise()) {
      if (line instanceof QuoteLine.Part part) {
        beyond.merge(part.partId(), part.quantity().negate(), BigDecimal::add);
        names.putIfAbsent(part.partId(), part.description());
      }
    }
    List<String> reasons =
        beyond.entrySet().stream()
            .filter(entry -> entry.getValue().signum() != 0)
            .map(entry -> signed(entry.getValue()) + " " + names.get(entry.getKey()))
            .toList();
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
