package app.pragmata.core.company;

import app.pragmata.core.Decimal;
import java.math.BigDecimal;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * How time is paid, from a day on.
 *
 * @param dailyMinutes of normal time past which a day is overtime; null for however many
 * @param weeklyMinutes of normal time past which a week, from Monday on, is overtime; null for
 *     however many
 * @param weekend the days whose hours are paid as those of a weekend; none where no day is
 * @param breaksPaid whether breaks are paid as well
 * @param roundingMinutes the paid time of a day is rounded to whole steps of so many, half a step
 *     up; 1 for not at all
 * @param factors what an hour of each class counts for
 */
public record PayTerms(
    LocalDate fromDay,
    @Nullable Integer dailyMinutes,
    @Nullable Integer weeklyMinutes,
    Set<DayOfWeek> weekend,
    boolean breaksPaid,
    int roundingMinutes,
    Map<PayClass, BigDecimal> factors)
    implements InForce.Dated {
  public PayTerms {
    weekend = Set.copyOf(weekend);
    factors = Map.copyOf(factors);
    if (!factors.keySet().containsAll(Set.of(PayClass.values()))) {
      throw new IllegalArgumentException("Every class of pay has its factor");
    }
    if (roundingMinutes < 1) {
      throw new IllegalArgumentException("A step of rounding has minutes");
    }
  }

  /** What an hour of the class counts for; normal time for one. */
  public BigDecimal factor(PayClass payClass) {
    return Objects.requireNonNull(factors.get(payClass));
  }

  /** The same in percent of normal time, such as 150. */
  public BigDecimal percent(PayClass payClass) {
    return new BigDecimal(Decimal.text(factor(payClass).movePointRight(2)));
  }
}
