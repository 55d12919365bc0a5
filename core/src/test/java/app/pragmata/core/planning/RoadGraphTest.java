package app.pragmata.core.planning;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import app.pragmata.core.planning.RoadGraph.Junction;
import app.pragmata.core.planning.RoadGraph.Road;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import net.jqwik.api.ForAll;
import net.jqwik.api.Property;
import org.junit.jupiter.api.Test;

class RoadGraphTest {
  // A hundredth of a degree of latitude is about 1,112 metres.
  private static final Place SOUTH = new Place(53.40, -0.9);
  private static final Place MIDDLE = new Place(53.41, -0.9);
  private static final Place NORTH = new Place(53.42, -0.9);
  private static final Place ISLAND = new Place(53.43, -0.9);

  /** A slow straight road and a fast detour; nobody drives to the island. */
  private final RoadGraph roads =
      new RoadGraph(
          List.of(
              new Junction(7, SOUTH),
              new Junction(8, MIDDLE),
              new Junction(9, NORTH),
              new Junction(10, ISLAND)),
          List.of(new Road(7, 9, 2_400, 24), new Road(7, 8, 2_000, 60), new Road(8, 9, 2_000, 60)));

  @Test
  void the_quickest_way_is_taken_even_if_another_is_shorter() {
    assertThat(roads.between(SOUTH, NORTH)).isEqualTo(new Way(4, 4_000, false));
  }

  @Test
  void roads_are_driven_both_ways() {
    assertThat(roads.between(NORTH, SOUTH)).isEqualTo(roads.between(SOUTH, NORTH));
  }

  @Test
  void minutes_are_rounded_up() {
    assertThat(
            new RoadGraph(twoJunctions(), List.of(new Road(7, 8, 1_010, 60)))
                .between(SOUTH, MIDDLE))
        .isEqualTo(new Way(2, 1_010, false));
  }

  @Test
  void whoever_is_there_does_not_drive() {
    assertThat(roads.between(MIDDLE, MIDDLE)).isEqualTo(Way.NONE);
  }

  @Test
  void where_no_road_leads_the_way_is_a_guess_by_the_straight_line() {
    assertThat(roads.between(SOUTH, ISLAND))
        .isEqualTo(new StraightLines().between(SOUTH, ISLAND))
        .returns(true, Way::guessed);
  }

  @Test
  void neighbours_in_one_lane_do_not_drive_by_its_end() {
    var here = new Place(53.4001, -0.899);
    var nextDoor = new Place(53.4001, -0.8992);
    assertThat(roads.between(here, nextDoor).metres()).isEqualTo(13);
  }

  @Test
  void a_road_has_a_length_and_a_speed() {
    assertThatThrownBy(() -> new Road(7, 8, 0, 30)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Road(7, 8, 10, 0)).isInstanceOf(IllegalArgumentException.class);
  }

  @Test
  void a_place_is_on_the_earth() {
    assertThatThrownBy(() -> new Place(90.1, 0)).isInstanceOf(IllegalArgumentException.class);
    assertThatThrownBy(() -> new Place(Double.NaN, 0)).isInstanceOf(IllegalArgumentException.class);
  }

  private static List<Junction> twoJunctions() {
    return List.of(new Junction(7, SOUTH), new Junction(8, MIDDLE));
  }

  /**
   * Compares with every way there is, tried one after the other (Floyd and Warshall's algorithm).
   */
  @Property(tries = 100)
  void no_way_is_quicker_than_the_one_that_is_found(@ForAll Random random) {
    int count = 2 + random.nextInt(9);
    var junctions = new ArrayList<Junction>();
    for (int i = 0; i < count; i++) {
      junctions.add(new Junction(i, new Place(53 + i / 100.0, -1)));
    }
    var some = new ArrayList<Road>();
    int[][] seconds = new int[count][count];
    for (int[] row : seconds) {
      java.util.Arrays.fill(row, 1_000_000);
    }
    for (int i = 0; i < count; i++) {
      seconds[i][i] = 0;
      for (int j = i + 1; j < count; j++) {
        if (random.nextBoolean()) {
          // So many metres at 36 kilometres per hour are a tenth of as many seconds.
          int road = 10 * (1 + random.nextInt(600));
          some.add(new Road(i, j, road, 36));
          seconds[i][j] = road / 10;
          seconds[j][i] = road / 10;
        }
      }
    }
    for (int via = 0; via < count; via++) {
      for (int i = 0; i < count; i++) {
        for (int j = 0; j < count; j++) {
          seconds[i][j] = Math.min(seconds[i][j], seconds[i][via] + seconds[via][j]);
        }
      }
    }
    var graph = new RoadGraph(junctions, some);
    for (int j = 1; j < count; j++) {
      Way way = graph.between(junctions.getFirst().place(), junctions.get(j).place());
      assertThat(way.guessed()).isEqualTo(seconds[0][j] == 1_000_000);
      if (!way.guessed()) {
        assertThat(way.minutes()).isEqualTo((seconds[0][j] + 59) / 60);
      }
    }
  }
}
