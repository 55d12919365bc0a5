package app.pragmata.core.costing;

import app.pragmata.core.Category;
import app.pragmata.core.costing.CostSheet.LabourVariance;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;

/** Says in a few words why a category cost other than quoted. */
public final class Because {
  private Because() {}

  /** Empty when there is nothing to say. */
  public static String of(CostSheet sheet, Category category) {
    return switch (category) {
      case LABOUR -> labour(sheet.labourVariance(), sheet);
      case DRIVE -> drive(sheet);
      case PARTS, OTHER -> "";
    };
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
      reasons.add(
          (miles.signum() > 0 ? "+" : "−")
              + miles.abs().stripTrailingZeros().toPlainString()
              + " mi");
    }
    return String.join(", ", reasons);
  }

  private static String signed(int minutes) {
    return (minutes > 0 ? "+" : "−") + Minutes.text(Math.abs(minutes));
  }

  private static String signed(Money amount) {
    return (amount.isNegative() ? "−" : "+") + Money.ofMinor(Math.abs(amount.minor()));
  }
}
