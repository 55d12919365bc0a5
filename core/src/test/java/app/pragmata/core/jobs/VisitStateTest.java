package app.pragmata.core.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import java.lang.reflect.Method;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class VisitStateTest {
  @Test
  void a_visit_is_driven_to_worked_finished_and_checked_in_that_order() {
    assertThat(new VisitState.Unplanned().plan().drive().arrive().finish().check())
        .isInstanceOf(VisitState.Checked.class);
  }

  @Test
  void a_technician_from_next_door_arrives_without_a_drive() {
    assertThat(new VisitState.Planned().arrive()).isInstanceOf(VisitState.OnSite.class);
  }

  @Test
  void a_check_can_be_taken_back_and_made_again() {
    assertThat(new VisitState.Checked().reopen().check()).isInstanceOf(VisitState.Checked.class);
  }

  /** The whole table of moves: what is not in it cannot be written, for there is no such method. */
  static Stream<Arguments> moves() {
    return Stream.of(
        Arguments.of(VisitState.Unplanned.class, Set.of("plan", "notThisTime", "callOff")),
        Arguments.of(
            VisitState.Planned.class,
            Set.of("plan", "unplan", "drive", "arrive", "writeDown", "notThisTime", "callOff")),
        Arguments.of(VisitState.Driving.class, Set.of("arrive", "notThisTime", "callOff")),
        Arguments.of(VisitState.OnSite.class, Set.of("finish", "notThisTime", "callOff")),
        Arguments.of(VisitState.Finished.class, Set.of("check", "notThisTime", "callOff")),
        Arguments.of(VisitState.Checked.class, Set.of("reopen")),
        Arguments.of(VisitState.NotThisTime.class, Set.of()),
        Arguments.of(VisitState.CalledOff.class, Set.of()));
  }

  @ParameterizedTest
  @MethodSource("moves")
  void each_state_offers_exactly_the_moves_that_may_follow_it(Class<?> state, Set<String> moves) {
    Set<String> offered = new TreeSet<>();
    for (Method method : state.getMethods()) {
      if (VisitState.class.isAssignableFrom(method.getReturnType())
          && method.getParameterCount() == 0) {
        offered.add(method.getName());
      }
    }
    assertThat(offered).containsExactlyInAnyOrderElementsOf(moves);
  }

  @Test
  void the_table_of_moves_names_every_state() {
    List<Class<?>> named = moves().<Class<?>>map(row -> (Class<?>) row.get()[0]).toList();
    assertThat(named).containsExactlyInAnyOrderElementsOf(states(VisitState.class).toList());
  }

  private static Stream<Class<?>> states(Class<?> sealed) {
    return sealed.isSealed()
        ? Arrays.stream(sealed.getPermittedSubclasses()).flatMap(VisitStateTest::states).distinct()
        : Stream.of(sealed);
  }
}
