package app.pragmata.core.field;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.jobs.TimeEntry;
import app.pragmata.core.planning.Place;
import org.junit.jupiter.api.Test;

class TapPositionTest {
  private static final Place SITE = new Place(54.0, -1.2);

  /** A degree of latitude is 111,195 metres on the mean sphere. */
  private static TapPosition north(int metres, int accuracyMetres) {
    return new TapPosition(new Place(54.0 + metres / 111_195.0, -1.2), accuracyMetres);
  }

  @Test
  void around_the_corner_is_at_the_site() {
    assertThat(north(399, 0).isAwayFrom(SITE)).isFalse();
    assertThat(north(402, 0).isAwayFrom(SITE)).isTrue();
  }

  @Test
  void a_phone_that_hardly_knows_where_it_is_puts_nobody_elsewhere() {
    assertThat(north(2_000, 1_700).isAwayFrom(SITE)).isFalse();
    assertThat(north(2_000, 1_500).isAwayFrom(SITE)).isTrue();
  }

  @Test
  void the_distance_is_in_miles_with_one_decimal() {
    assertThat(north(3_219, 20).milesFrom(SITE)).isEqualByComparingTo("2.0");
    assertThat(north(2_500, 20).milesFrom(SITE)).isEqualByComparingTo("1.6");
  }

  @Test
  void a_drive_begins_wherever_it_does_and_ends_at_the_site() {
    assertThat(TapPosition.isExpectedAtSite(TimeEntry.Kind.DRIVE, true)).isFalse();
    assertThat(TapPosition.isExpectedAtSite(TimeEntry.Kind.DRIVE, false)).isTrue();
    assertThat(TapPosition.isExpectedAtSite(TimeEntry.Kind.LABOUR, true)).isTrue();
  }
}
