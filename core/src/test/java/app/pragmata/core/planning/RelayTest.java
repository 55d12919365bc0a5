package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;

import app.pragmata.core.planning.Relay.Move;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Random;
import java.util.Set;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class RelayTest {
  private static final LocalDate DAY = LocalDate.of(2026, 11, 30);
  private static final Place TOWN = new Place(53, 0);

  /** A quarter of an hour to anywhere else. */
  private static final Ways WAYS =
      (from, to) -> from.equals(to) ? Way.NONE : new Way(15, 9_000, false);

  private static final TimeSearch SEARCH =
      new TimeSearch(WAYS, DAY.atTime(6, 0), new Stretch(0, Stretch.DAY));

  private static Wanted visit(long id, int minutes, @Nullable LocalDateTime respondBy) {
    return new Wanted(id, new Place(53, id / 100.0), minutes, Set.of(), null, respondBy);
  }

  private static PersonDay day(long person, int until) {
    return new PersonDay(
        person,
        DAY,
        TOWN,
        List.of(new Stretch(480, until)),
        List.of(),
        List.of(),
        Set.of(),
        List.of());
  }

  @Test
  void whoever_was_promised_first_chooses_first() {
    List<Move> moves =
        Relay.propose(
            List.of(visit(1, 60, null), visit(2, 60, DAY.atTime(9, 0))),
            List.of(day(5, 1020)),
            SEARCH);
    assertThat(moves).extracting(move -> move.visit().visitId()).containsExactly(2L, 1L);
    assertThat(moves.getFirst().found()).returns(480, found -> found.at().from());
  }

  @Test
  void what_one_takes_the_next_no_longer_has() {
    List<Move> moves =
        Relay.propose(
            List.of(visit(1, 60, null), visit(2, 60, null)), List.of(day(5, 600)), SEARCH);
    assertThat(moves.get(0).found()).isNotNull();
    assertThat(moves.get(1).found()).as("forty-five minutes are left").isNull();
  }

  @Property(tries = 300)
  void no_two_moves_clash_and_none_is_made_while_there_was_room(@ForAll Random random) {
    var visits = new ArrayList<Wanted>();
    for (long id = 1; id <= 1 + random.nextInt(6); id++) {
      visits.add(
          visit(
              id,
              15 + random.nextInt(240),
              random.nextInt(3) > 0 ? null : DAY.atTime(8 + random.nextInt(9), 0)));
    }
    var days = new HashMap<Long, PersonDay>();
    for (long person = 1; person <= 3; person++) {
      days.put(person, day(person, 700 + random.nextInt(400)));
    }
    for (Move move : Relay.propose(visits, List.copyOf(days.values()), SEARCH)) {
      if (move.found() == null) {
        assertThat(SEARCH.best(move.visit(), List.copyOf(days.values()), 1)).isEmpty();
        continue;
      }
      PersonDay day = days.get(move.found().personId());
      assertThat(day.clashes(move.visit(), move.found().at(), WAYS))
          .isSubsetOf(Clash.AFTER_RESPOND_BY);
      var stops = new ArrayList<>(day.stops());
      stops.add(
          new PersonDay.Stop(move.visit().visitId(), move.visit().place(), move.found().at()));
      days.put(
          day.personId(),
          new PersonDay(
              day.personId(),
              DAY,
              TOWN,
              day.working(),
              day.away(),
              day.held(),
              day.skillIds(),
              stops));
    }
  }
}
