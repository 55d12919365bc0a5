package app.pragmata.core.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.company.RateClass;
import app.pragmata.core.jobs.DriveHome.Share;
import app.pragmata.core.jobs.DriveHome.Stop;
import app.pragmata.core.money.Money;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import net.jqwik.api.Arbitraries;
import net.jqwik.api.Arbitrary;
import net.jqwik.api.Combinators;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.Provide;
import org.junit.jupiter.api.Test;

class DriveHomeTest {
  @Test
  void the_days_visits_bear_a_drive_home_by_the_minutes_on_site() {
    List<Share> shares =
        DriveHome.share(
            drive(35, "12.5"),
            cost("14.06", "4.75"),
            List.of(new Stop(7, 150), new Stop(8, 45), new Stop(9, 0)));
    assertThat(shares)
        .containsExactly(
            new Share(7, 27, new BigDecimal("9.6"), cost("10.82", "3.65")),
            new Share(8, 8, new BigDecimal("2.9"), cost("3.24", "1.10")),
            new Share(9, 0, new BigDecimal("0.0"), cost("0.00", "0.00")));
  }

  @Test
  void visits_on_which_nobody_worked_bear_it_equally_and_the_earlier_one_the_odd_minute() {
    List<Share> shares =
        DriveHome.share(
            drive(35, "12.5"), cost("14.06", "4.75"), List.of(new Stop(7, 0), new Stop(8, 0)));
    assertThat(shares)
        .containsExactly(
            new Share(7, 18, new BigDecimal("6.3"), cost("7.03", "2.38")),
            new Share(8, 17, new BigDecimal("6.2"), cost("7.03", "2.37")));
  }

  @Property
  void the_shares_add_up_to_the_drive(
      @ForAll("drives") TimeEntry drive, @ForAll("stops") List<Stop> stops) {
    TimeEntry.Cost cost = drive.approved();
    List<Share> shares = DriveHome.share(drive, cost, stops);
    assertThat(shares.stream().mapToInt(Share::minutes).sum()).isEqualTo(drive.minutes());
    assertThat(shares.stream().map(Share::miles).reduce(BigDecimal.ZERO, BigDecimal::add))
        .isEqualByComparingTo(drive.miles());
    assertThat(shares.stream().map(share -> share.cost().time()).collect(Money.sum()))
        .isEqualTo(cost.time());
    assertThat(shares.stream().map(share -> share.cost().distance()).collect(Money.sum()))
        .isEqualTo(cost.distance());
  }

  @Provide
  Arbitrary<TimeEntry> drives() {
    return Combinators.combine(
            Arbitraries.integers().between(0, 960),
            Arbitraries.integers().between(0, 5_000),
            Arbitraries.longs().between(0, 100_000),
            Arbitraries.longs().between(0, 100_000))
        .as(
            (minutes, tenths, time, distance) ->
                entry(
                    minutes,
                    BigDecimal.valueOf(tenths, 1),
                    new TimeEntry.Cost(Money.ofMinor(time), Money.ofMinor(distance))));
  }

  @Provide
  Arbitrary<List<Stop>> stops() {
    return Combinators.combine(
            Arbitraries.longs().between(1, 99), Arbitraries.integers().between(0, 600))
        .as(Stop::new)
        .list()
        .ofMinSize(1)
        .ofMaxSize(8);
  }

  private static TimeEntry drive(int minutes, String miles) {
    return entry(minutes, new BigDecimal(miles), null);
  }

  private static TimeEntry entry(
      int minutes, BigDecimal miles, TimeEntry.@org.jspecify.annotations.Nullable Cost approved) {
    return new TimeEntry(
        1,
        1,
        TimeEntry.Kind.DRIVE,
        RateClass.NORMAL,
        LocalDate.of(2026, 11, 25),
        minutes,
        miles,
        approved);
  }

  private static TimeEntry.Cost cost(String time, String distance) {
    return new TimeEntry.Cost(Money.of(time), Money.of(distance));
  }
}
