package app.pragmata.core.costing;

import app.pragmata.core.billing.Billing;
import app.pragmata.core.company.ChargeTerms;
import app.pragmata.core.company.CostTerms;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.InForce;
import app.pragmata.core.company.Markup;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.company.Rates;
import app.pragmata.core.company.Terms;
import app.pragmata.core.company.VatTreatments;
import app.pragmata.core.company.Wording;
import app.pragmata.core.jobs.Cover;
import app.pragmata.core.jobs.JobFacts;
import app.pragmata.core.jobs.JobFacts.Charging;
import app.pragmata.core.jobs.JobFacts.VisitFacts;
import app.pragmata.core.jobs.PartUse;
import app.pragmata.core.jobs.QuoteLine;
import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.jobs.TimeEntry.Kind;
import app.pragmata.core.jobs.Warranty;
import app.pragmata.core.money.Money;
import app.pragmata.core.money.Share;
import app.pragmata.core.money.UnitPrice;
import app.pragmata.core.money.VatTreatment;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * The swing gate's ram: the one job that every layer of the program is held against, to the penny.
 */
public final class WorkedExample {
  public static final LocalDate DAY = LocalDate.of(2026, 11, 23);
  public static final long TECHNICIAN = 1;

  /** Two more who are not in the example, with other wages. */
  static final long HELPER = 2;

  static final long SUBSTITUTE = 3;
  public static final VatTreatment STANDARD = VatTreatment.rated("standard", "20");
  private static final LocalDate LONG_AGO = LocalDate.of(2026, 1, 1);

  private WorkedExample() {}

  public static Rates rates() {
    return new Rates(
        Map.of(
            TECHNICIAN, wage("19.60", "0.23"),
            HELPER, wage("12.21", "0.138"),
            SUBSTITUTE, wage("31.07", "0")),
        Map.of(
            RateClass.NORMAL, terms("normal rate", "1", "58.00"),
            RateClass.OVERTIME, terms("overtime rate", "1.5", "87.00"),
            RateClass.NIGHT, terms("night rate", "2", "116.00")),
        new InForce<>(
            "vehicle cost", List.of(new Rates.VehicleCost(LONG_AGO, new BigDecimal("0.38")))));
  }

  private static InForce<Rates.Wage> wage(String perHour, String onCostShare) {
    return new InForce<>(
        "wage",
        List.of(new Rates.Wage(LONG_AGO, new BigDecimal(perHour), new BigDecimal(onCostShare))));
  }

  private static InForce<Rates.ClassTerms> terms(String what, String factor, String charge) {
    return new InForce<>(
        what,
        List.of(new Rates.ClassTerms(LONG_AGO, new BigDecimal(factor), UnitPrice.of(charge))));
  }

  public static Costing costing() {
    return new Costing(terms());
  }

  public static Terms terms() {
    return terms(chargeTerms());
  }

  /** The example's terms with others for charging. */
  public static Terms terms(ChargeTerms charge) {
    return new Terms(
        rates(),
        new InForce<>("charge terms", List.of(charge)),
        new InForce<>(
            "cost terms",
            List.of(new CostTerms(LONG_AGO, new BigDecimal("24.108"), new BigDecimal("6.00")))),
        new InForce<>(
            "markup",
            List.of(
                new Markup(
                    LONG_AGO,
                    List.of(new Markup.Band(Money.of("100.00"), new BigDecimal("0.90")))))),
        new VatTreatments(
            STANDARD.code(),
            Map.of(
                STANDARD.code(),
                new VatTreatments.Kind(
                    STANDARD.group().category(),
                    "",
                    new InForce<>(
                        "VAT percent",
                        List.of(
                            new VatTreatments.Percent(LONG_AGO, STANDARD.group().percent())))))));
  }

  public static Billing billing() {
    return new Billing(terms(), Wording.of(Locale.UK), DAY);
  }

  public static ChargeTerms chargeTerms() {
    return chargeTerms(new DriveCharge.PerCallOut(UnitPrice.of("45.00")), "0.15");
  }

  /** The example's terms with another drive charge and another markup of other costs. */
  public static ChargeTerms chargeTerms(DriveCharge drive, String otherMarkupShare) {
    return new ChargeTerms(LONG_AGO, 15, 60, drive, new BigDecimal(otherMarkupShare), 30);
  }

  public static Cover cover() {
    return new Warranty(
            DAY.minusYears(1),
            DAY.plusYears(1),
            Share.ofPercent("60"),
            DAY.minusDays(1),
            Share.ofPercent("100"))
        .on(DAY);
  }

  public static JobFacts job() {
    return new JobFacts(
        List.of(
            new QuoteLine.Labour(
                "Change the ram",
                150,
                RateClass.NORMAL,
                new BigDecimal("24.108"),
                UnitPrice.of("58.00"),
                STANDARD),
            new QuoteLine.Drive(
                "Call-out",
                30,
                new BigDecimal("15"),
                new BigDecimal("24.108"),
                new BigDecimal("0.38"),
                new DriveCharge.PerCallOut(UnitPrice.of("45.00")),
                STANDARD),
            new QuoteLine.Part(
                1,
                "Gate ram",
                BigDecimal.ONE,
                new BigDecimal("212.40"),
                UnitPrice.of("318.60"),
                STANDARD),
            new QuoteLine.Part(
                2,
                "Photocell pair",
                BigDecimal.ONE,
                new BigDecimal("14.25"),
                UnitPrice.of("26.90"),
                STANDARD),
            new QuoteLine.Other(
                "Limit switch set-up",
                BigDecimal.ONE,
                Money.ZERO,
                UnitPrice.of("76.50"),
                STANDARD)),
        List.of(
            new VisitFacts(
                1,
                DAY,
                Charging.WHOLE,
                List.of(
                    entry(1, Kind.DRIVE, RateClass.NORMAL, 40, "18.4"),
                    entry(2, Kind.LABOUR, RateClass.NORMAL, 155, "0"),
                    entry(3, Kind.LABOUR, RateClass.OVERTIME, 45, "0")),
                List.of(
                    new PartUse(
                        1,
                        1,
                        "Gate ram",
                        BigDecimal.ONE,
                        Money.of("212.40"),
                        UnitPrice.of("318.60"),
                        STANDARD,
                        false),
                    new PartUse(
                        2,
                        2,
                        "Photocell pair",
                        new BigDecimal("2"),
                        Money.of("28.50"),
                        UnitPrice.of("26.90"),
                        STANDARD,
                        true)),
                List.of())),
        List.of());
  }

  public static TimeEntry entry(
      long id, Kind kind, RateClass rateClass, int minutes, String miles) {
    return new TimeEntry(
        id, TECHNICIAN, kind, rateClass, DAY, minutes, new BigDecimal(miles), null);
  }
}
