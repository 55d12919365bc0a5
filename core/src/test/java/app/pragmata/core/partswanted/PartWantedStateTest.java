package app.pragmata.core.partswanted;

import static app.pragmata.core.partswanted.PartWantedState.ARRIVED;
import static app.pragmata.core.partswanted.PartWantedState.FITTED;
import static app.pragmata.core.partswanted.PartWantedState.NO_LONGER_WANTED;
import static app.pragmata.core.partswanted.PartWantedState.ORDERED;
import static app.pragmata.core.partswanted.PartWantedState.WANTED;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.Refused;
import java.util.ArrayList;
import java.util.List;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class PartWantedStateTest {
  @Test
  void a_part_goes_from_wanted_over_ordered_and_arrived_to_fitted() {
    assertThat(WANTED.become(ORDERED).become(ARRIVED).become(FITTED)).isEqualTo(FITTED);
  }

  @Test
  void a_part_from_the_store_is_never_ordered() {
    assertThat(WANTED.become(ARRIVED)).isEqualTo(ARRIVED);
    assertThat(WANTED.become(FITTED)).isEqualTo(FITTED);
  }

  @Test
  void what_has_arrived_is_not_ordered_again() {
    assertThatThrownBy(() -> ARRIVED.become(ORDERED))
        .isInstanceOf(Refused.class)
        .hasMessage("This part is there. Take that back first.");
  }

  @Test
  void nothing_is_done_any_more_about_a_part_that_is_over() {
    for (PartWantedState over : List.of(FITTED, NO_LONGER_WANTED)) {
      for (PartWantedState next : PartWantedState.values()) {
        assertThatThrownBy(() -> over.become(next)).isInstanceOf(Refused.class);
      }
    }
  }

  @Test
  void a_part_that_is_only_wanted_has_no_step_to_take_back() {
    assertThatThrownBy(() -> WANTED.before(false, false))
        .hasMessage("Nothing was done about this part yet.");
  }

  @Property
  void taking_back_every_step_leads_the_same_way_back(@ForAll List<PartWantedState> wanted) {
    var way = new ArrayList<>(List.of(WANTED));
    for (PartWantedState next : wanted) {
      if (next != way.getLast() && mayBecome(way.getLast(), next)) {
        way.add(way.getLast().become(next));
      }
    }
    while (way.size() > 1) {
      PartWantedState last = way.removeLast();
      assertThat(last.before(way.contains(ORDERED), way.contains(ARRIVED)))
          .isEqualTo(way.getLast());
    }
  }

  private static boolean mayBecome(PartWantedState from, PartWantedState next) {
    try {
      from.become(next);
      return true;
    } catch (Refused refused) {
      return false;
    }
  }
}
