package app.pragmata.server.jobs;

import app.pragmata.core.Category;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.Reductions;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Table;

/**
 * The columns in which a table keeps lines with a price. The lines of a quote that is being written
 * and those of a promise have the same, so one place knows them.
 */
public final class LineColumns {
  private final Field<String> description;
  private final Field<Integer> minutes;
  private final Field<RateClass> rateClass;
  private final Field<BigDecimal> miles;
  private final Field<Long> partId;
  private final Field<BigDecimal> quantity;
  private final Field<BigDecimal> unitCost;
  private final Field<BigDecimal> costPerMile;
  private final Field<DriveCharge.Rule> driveCharge;
  private final Field<UnitPrice> unitPrice;
  private final Field<String> vatCode;
  private final Field<Long> discount;
  private final Field<BigDecimal> warrantyShare;
  private final Field<Long> warranty;
  private final Field<Long> discountOfWhole;
  private final Field<String> warrantyExclusion;

  private LineColumns(Table<?> table) {
    description = column(table, "description");
    minutes = column(table, "minutes");
    rateClass = column(table, "rate_class");
    miles = column(table, "miles");
    partId = column(table, "part_id");
    quantity = column(table, "quantity");
    unitCost = column(table, "unit_cost");
    costPerMile = column(table, "cost_per_mile");
    driveCharge = column(table, "drive_charge");
    unitPrice = column(table, "unit_price");
    vatCode = column(table, "vat_code");
    discount = column(table, "discount_minor");
    warrantyShare = column(table, "warranty_share");
    warranty = column(table, "warranty_reduction_minor");
    discountOfWhole = column(table, "discount_of_whole_minor");
    warrantyExclusion = column(table, "warranty_exclusion");
  }

  /** Of a table that has them all; another is a broken invariant. */
  public static LineColumns of(Table<?> table) {
    return new LineColumns(table);
  }

  @SuppressWarnings("unchecked") // the tables are generated with these types
  private static <T> Field<T> column(Table<?> table, String name) {
    return (Field<T>) Objects.requireNonNull(table.field(name), name);
  }

  /** All of them, to be selected. */
  public List<Field<?>> all() {
    return List.of(
        description,
        minutes,
        rateClass,
        miles,
        partId,
        quantity,
        unitCost,
        costPerMile,
        driveCharge,
        unitPrice,
        vatCode,
        discount,
        warrantyShare,
        warranty,
        discountOfWhole,
        warrantyExclusion);
  }

  /** The line of a row, with its VAT by the treatment of its code. */
  public QuoteLine read(
      Record row, Category category, Function<String, VatTreatment> vatTreatments) {
    String described = row.get(description);
    VatTreatment vatTreatment = vatTreatments.apply(row.get(vatCode));
    Reductions reductions = reductions(row);
    return switch (category) {
      case LABOUR ->
          new QuoteLine.Labour(
              described,
              row.get(minutes),
              row.get(rateClass),
              row.get(unitCost),
              row.get(unitPrice),
              vatTreatment,
              reductions);
      case DRIVE ->
          new QuoteLine.Drive(
              described,
              row.get(minutes),
              row.get(miles),
              row.get(unitCost),
              row.get(costPerMile),
              DriveCharge.of(row.get(driveCharge), row.get(unitPrice)),
              vatTreatment,
              reductions);
      case PARTS ->
          new QuoteLine.Part(
              row.get(partId),
              described,
              row.get(quantity),
              row.get(unitCost),
              row.get(unitPrice),
              vatTreatment,
              reductions);
      case OTHER ->
          new QuoteLine.Other(
              described,
              row.get(quantity),
              Money.rounded(row.get(unitCost)),
              row.get(unitPrice),
              vatTreatment,
              reductions);
    };
  }

  private Reductions reductions(Record row) {
    var agreed =
        new Reductions(
            Money.ofMinor(row.get(discount)),
            new Share(row.get(warrantyShare)),
            Money.ofMinor(row.get(warranty)),
            Money.ZERO,
            Money.ofMinor(row.get(discountOfWhole)));
    return row.get(warrantyExclusion) == null ? agreed : agreed.outOfWarranty();
  }

  /** Sets the row's columns to what the line says. */
  public void write(Record row, QuoteLine line) {
    row.set(discount, line.reductions().discount().minor());
    row.set(warrantyShare, line.reductions().warrantyShare().fraction());
    row.set(warranty, line.reductions().warranty().minor());
    row.set(discountOfWhole, line.reductions().discountOfWhole().minor());
    row.set(description, line.description());
    row.set(unitPrice, line.unitPrice());
    row.set(vatCode, line.vatTreatment().code());
    switch (line) {
      case QuoteLine.Labour labour -> {
        row.set(minutes, labour.minutes());
        row.set(rateClass, labour.rateClass());
        row.set(unitCost, labour.costPerHour());
      }
      case QuoteLine.Drive drive -> {
        row.set(minutes, drive.minutes());
        row.set(miles, drive.miles());
        row.set(unitCost, drive.costPerHour());
        row.set(costPerMile, drive.costPerMile());
        row.set(driveCharge, drive.charge().rule());
      }
      case QuoteLine.Part part -> {
        row.set(partId, part.partId());
        row.set(quantity, part.quantity());
        row.set(unitCost, part.unitCost());
      }
      case QuoteLine.Other other -> {
        row.set(quantity, other.quantity());
        row.set(unitCost, other.unitCost().major());
      }
    }
  }
}
