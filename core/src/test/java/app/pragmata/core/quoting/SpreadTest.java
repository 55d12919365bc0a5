package app.pragmata.core.quoting;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import net.jqwik.api.constraints.Size;
import org.junit.jupiter.api.Test;

class SpreadTest {
  @Test
  void the_median_and_the_quartiles_are_values_that_occurred() {
    assertThat(Spread.of(List.of(90L, 120L, 95L, 300L, 110L, 100L, 105L, 130L)))
        .contains(new Spread(8, 95, 105, 120));
  }

  @Test
  void fewer_than_five_past_jobs_say_nothing() {
    assertThat(Spread.of(List.of(90L, 120L, 95L, 300L))).isEmpty();
  }

  @Property
  void the_middle_half_lies_around_the_median(@ForAll @Size(min = 5, max = 200) List<Long> values) {
    Spread spread = Spread.of(values).orElseThrow();
    assertThat(spread.median()).isBetween(spread.lowerQuartile(), spread.upperQuartile());
    assertThat(values.stream().filter(value -> value <= spread.median()).count())
        .isGreaterThanOrEqualTo((values.size() + 1) / 2);
  }
}
