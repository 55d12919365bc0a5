package app.pragmata.server.company;

import app.pragmata.core.Day;
import app.pragmata.core.Reading;
import app.pragmata.core.Rule;
import app.pragmata.core.Unreadable;
import app.pragmata.core.company.DriveCharge;
import app.pragmata.core.company.FromDay;
import app.pragmata.core.company.RateClass;
import app.pragmata.core.money.Minutes;
import app.pragmata.core.money.TypedMoney;
import app.pragmata.server.company.EnteredTerms.Charges;
import app.pragmata.server.company.EnteredTerms.ClassRate;
import app.pragmata.server.company.EnteredTerms.Costs;
import app.pragmata.server.company.EnteredTerms.Hours;
import app.pragmata.server.company.EnteredTerms.MarkupBand;
import app.pragmata.server.company.EnteredTerms.MarkupBands;
import app.pragmata.server.company.EnteredTerms.Pay;
import app.pragmata.server.company.EnteredTerms.RatesOfDay;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Objects;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Terms as typed, with the day from which they hold. */
final class TermsForms {
  private static final BigDecimal DEAREST = BigDecimal.valueOf(10_000);
  private static final int MOST_BANDS = 12;

  private TermsForms() {}

  /** Days are numbers by ISO 8601, Monday is 1; times as people type them. */
  record HoursForm(
      int version,
      @Nullable String fromDay,
      List<Integer> normalDays,
      @Nullable String normalFrom,
      @Nullable String normalTo,
      @Nullable String nightFrom,
      @Nullable String nightTo,
      @Nullable RateClass onHolidays) {

    Hours read(LocalDate today) {
      var reading = new Reading();
      LocalDate from = FromDay.read(reading, fromDay(), today);
      LocalTime start = reading.required("normalFrom", normalFrom(), Day::parseTime);
      LocalTime end = reading.required("normalTo", normalTo(), Day::parseTime);
      LocalTime night = reading.required("nightFrom", nightFrom(), Day::parseTime);
      LocalTime morning = reading.required("nightTo", nightTo(), Day::parseTime);
      List<Integer> days = normalDays().stream().distinct().sorted().toList();
      if (days.isEmpty() || days.stream().anyMatch(day -> day < 1 || day > 7)) {
        reading.fault("normalDays", Rule.MISSING, "Choose at least one day of the week.");
      }
      if (start != null && end != null && !start.isBefore(end)) {
        reading.fault(
            "normalTo", Rule.ENDS_BEFORE_START, "Normal hours end after they begin. Check both.");
      }
      if (start != null && morning != null && morning.isAfter(start)) {
        reading.fault(
            "nightTo",
            Rule.ENDS_BEFORE_START,
            "The night ends in the morning before normal hours begin, or with them.");
      }
      if (end != null && night != null && night.isBefore(end)) {
        reading.fault(
            "nightFrom",
            Rule.ENDS_BEFORE_START,
            "The night begins in the evening after normal hours end, or with them.");
      }
      if (onHolidays() == null) {
        reading.fault("onHolidays", Rule.MISSING, "Choose what hours of a holiday are.");
      }
      reading.refuseIfFaulty();
      return new Hours(
          Objects.requireNonNull(from),
          days,
          Objects.requireNonNull(start),
          Objects.requireNonNull(end),
          Objects.requireNonNull(night),
          Objects.requireNonNull(morning),
          Objects.requireNonNull(onHolidays()));
    }
  }

  /**
   * Limits as lengths of time, a bare number is hours; empty for none. Days are numbers by ISO
   * 8601.
   */
  record PayForm(
      int version,
      @Nullable String fromDay,
      @Nullable String daily,
      @Nullable String weekly,
      List<Integer> weekend,
      boolean breaksPaid,
      @Nullable String roundingMinutes,
      @Nullable String overtimePercent,
      @Nullable String nightPercent,
      @Nullable String weekendPercent,
      @Nullable String holidayPercent) {

    Pay read(LocalDate today) {
      var reading = new Reading();
      LocalDate from = FromDay.read(reading, fromDay(), today);
      Integer day = reading.optional("daily", daily(), text -> limit(text, 24));
      Integer week = reading.optional("weekly", weekly(), text -> limit(text, 7 * 24));
      List<Integer> days = weekend().stream().distinct().sorted().toList();
      if (days.stream().anyMatch(one -> one < 1 || one > 7)) {
        reading.fault("weekend", Rule.EXCEEDS_LIMIT, "A day of the week is from 1 to 7.");
      }
      Integer rounding =
          reading.required(
              "roundingMinutes", roundingMinutes(), text -> Reading.whole(text, 1, 60));
      BigDecimal overtime = factor(reading, "overtimePercent", overtimePercent());
      BigDecimal night = factor(reading, "nightPercent", nightPercent());
      BigDecimal ofWeekend = factor(reading, "weekendPercent", weekendPercent());
      BigDecimal holiday = factor(reading, "holidayPercent", holidayPercent());
      reading.refuseIfFaulty();
      return new Pay(
          Objects.requireNonNull(from),
          day,
          week,
          days,
          breaksPaid(),
          Objects.requireNonNull(rounding),
          Objects.requireNonNull(overtime),
          Objects.requireNonNull(night),
          Objects.requireNonNull(ofWeekend),
          Objects.requireNonNull(holiday));
    }

    private static int limit(String typed, int mostHours) {
      String plain = typed.strip();
      int minutes = plain.matches("\\d{1,3}") ? 60 * Integer.parseInt(plain) : Minutes.parse(typed);
      if (minutes == 0 || minutes > mostHours * 60) {
        throw new Unreadable(
            Rule.EXCEEDS_LIMIT,
            "Enter up to %d hours, or nothing for no limit.".formatted(mostHours));
      }
      return minutes;
    }

    private static @Nullable BigDecimal factor(
        Reading reading, String field, @Nullable String typed) {
      BigDecimal percent = reading.required(field, typed, TermsForms::percent);
      if (percent != null && percent.signum() == 0) {
        reading.fault(field, Rule.MISSING, "Such an hour is paid. Enter more than 0 %.");
      }
      return percent;
    }
  }

  record RatesForm(int version, @Nullable String fromDay, List<ClassRateForm> classes) {
    RatesOfDay read(LocalDate today, TypedMoney typed) {
      var reading = new Reading();
      LocalDate from = FromDay.read(reading, fromDay(), today);
      var rates = new ArrayList<ClassRate>();
      for (int i = 0; i < classes().size(); i++) {
        ClassRateForm form = classes().get(i);
        String at = "classes/" + i;
        BigDecimal charge =
            reading.required(at + "/chargePerHour", form.chargePerHour(), price(typed));
        BigDecimal cost =
            reading.required(at + "/costPercent", form.costPercent(), TermsForms::percent);
        if (cost != null && cost.signum() == 0) {
          reading.fault(
              at + "/costPercent", Rule.MISSING, "An hour costs something. Enter more than 0 %.");
        }
        if (form.rateClass() != null && charge != null && cost != null) {
          rates.add(new ClassRate(form.rateClass(), charge, cost));
        }
      }
      rates.sort(Comparator.comparing(ClassRate::rateClass));
      if (reading.faults().isEmpty()
          && !rates.stream()
              .map(ClassRate::rateClass)
              .toList()
              .equals(List.of(RateClass.values()))) {
        reading.fault(
            "classes", Rule.MISSING, "Enter a rate for each class of hours, and for each once.");
      }
      reading.refuseIfFaulty();
      return new RatesOfDay(Objects.requireNonNull(from), rates);
    }
  }

  record ClassRateForm(
      @Nullable RateClass rateClass,
      @Nullable String chargePerHour,
      @Nullable String costPercent) {}

  record ChargesForm(
      int version,
      @Nullable String fromDay,
      @Nullable String stepMinutes,
      @Nullable String minimumMinutes,
      DriveCharge.@Nullable Rule driveCharge,
      @Nullable String driveChargePrice,
      @Nullable String otherMarkupPercent,
      @Nullable String paymentDays) {

    Charges read(LocalDate today, TypedMoney typed) {
      var reading = new Reading();
      LocalDate from = FromDay.read(reading, fromDay(), today);
      Integer step =
          reading.required("stepMinutes", stepMinutes(), text -> Reading.whole(text, 1, 240));
      Integer minimum =
          reading.required("minimumMinutes", minimumMinutes(), text -> Reading.whole(text, 0, 480));
      if (driveCharge() == null) {
        reading.fault("driveCharge", Rule.MISSING, "Choose how driving is charged.");
      }
      BigDecimal drive =
          driveCharge() == DriveCharge.Rule.NONE
              ? BigDecimal.ZERO
              : reading.required("driveChargePrice", driveChargePrice(), price(typed));
      BigDecimal markup =
          reading.required("otherMarkupPercent", otherMarkupPercent(), TermsForms::percent);
      Integer payment =
          reading.required("paymentDays", paymentDays(), text -> Reading.whole(text, 0, 180));
      reading.refuseIfFaulty();
      return new Charges(
          Objects.requireNonNull(from),
          Objects.requireNonNull(step),
          Objects.requireNonNull(minimum),
          Objects.requireNonNull(driveCharge()),
          Objects.requireNonNull(drive),
          Objects.requireNonNull(markup),
          Objects.requireNonNull(payment));
    }
  }

  record CostsForm(
      int version,
      @Nullable String fromDay,
      @Nullable String standardCostPerHour,
      @Nullable String overheadPerHour,
      @Nullable String costPerMile) {

    Costs read(LocalDate today, TypedMoney typed) {
      var reading = new Reading();
      LocalDate from = FromDay.read(reading, fromDay(), today);
      BigDecimal standard =
          reading.required("standardCostPerHour", standardCostPerHour(), price(typed));
      if (standard != null && standard.signum() == 0) {
        reading.fault(
            "standardCostPerHour", Rule.MISSING, "An hour costs something. Enter what it does.");
      }
      BigDecimal overhead = reading.required("overheadPerHour", overheadPerHour(), price(typed));
      BigDecimal mile = reading.required("costPerMile", costPerMile(), price(typed));
      reading.refuseIfFaulty();
      return new Costs(
          Objects.requireNonNull(from),
          Objects.requireNonNull(standard),
          Objects.requireNonNull(overhead),
          Objects.requireNonNull(mile));
    }
  }

  /** Bands in which nothing was typed are left out. */
  record MarkupForm(int version, @Nullable String fromDay, List<MarkupBandForm> bands) {
    MarkupBands read(LocalDate today, TypedMoney typed) {
      var reading = new Reading();
      LocalDate from = FromDay.read(reading, fromDay(), today);
      var read = new ArrayList<MarkupBand>();
      for (int i = 0; i < Math.min(bands().size(), MOST_BANDS); i++) {
        MarkupBandForm form = bands().get(i);
        if (!form.isEmpty()) {
          String at = "bands/" + i;
          BigDecimal cost =
              reading.required(
                  at + "/upToCost", form.upToCost(), text -> typed.money(text).major());
          BigDecimal markup =
              reading.required(at + "/markupPercent", form.markupPercent(), TermsForms::percent);
          if (cost != null && cost.signum() == 0) {
            reading.fault(at + "/upToCost", Rule.MISSING, "Enter a cost above nothing.");
          }
          if (cost != null
              && read.stream().anyMatch(band -> band.upToCost().compareTo(cost) == 0)) {
            reading.fault(
                at + "/upToCost", Rule.REPEATED, "There is a band up to this cost already.");
          }
          if (cost != null && markup != null) {
            read.add(new MarkupBand(cost, markup));
          }
        }
      }
      if (bands().size() > MOST_BANDS) {
        reading.fault(
            "bands", Rule.EXCEEDS_LIMIT, "There are at most %d bands.".formatted(MOST_BANDS));
      }
      if (read.isEmpty() && reading.faults().isEmpty()) {
        reading.fault("bands", Rule.NO_LINES, "Enter at least one band.");
      }
      reading.refuseIfFaulty();
      read.sort(Comparator.comparing(MarkupBand::upToCost));
      return new MarkupBands(Objects.requireNonNull(from), read);
    }
  }

  record MarkupBandForm(@Nullable String upToCost, @Nullable String markupPercent) {
    private boolean isEmpty() {
      return (upToCost() == null || upToCost().isBlank())
          && (markupPercent() == null || markupPercent().isBlank());
    }
  }

  private static Function<String, BigDecimal> price(TypedMoney typed) {
    return text -> {
      BigDecimal price = typed.unitPrice(text).major();
      if (price.compareTo(DEAREST) > 0) {
        throw new Unreadable(Rule.TOO_LARGE, "More than 10,000. Check the figure.");
      }
      return price;
    };
  }

  private static BigDecimal percent(String typed) {
    return Reading.percent(typed).movePointRight(2);
  }
}
