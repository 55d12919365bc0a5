import { useQuery } from "@tanstack/react-query";
import { memo, useMemo } from "react";
import type { PlannerDay, Point, Ribbon, TownMap as Town } from "../api/generated/schema";
import { queries } from "../api/queries";
import styles from "./TownMap.module.css";

const WIDTH = 300;
const HEIGHT = 200;
const EDGE = 8;

/** The roads with the day's stops on them, one person's round drawn through; the same as the ribbons say. */
export const TownMap = memo(function TownMap({
  day,
  personId,
  point,
}: {
  day: PlannerDay;
  personId?: number;
  point?: Point;
}) {
  const { data: map } = useQuery(queries.townMap);
  const drawn = useMemo(() => map && map.junctions.length > 0 && drawing(map), [map]);
  if (!drawn) {
    return null;
  }
  const { draw, roads } = drawn;
  const round = day.ribbons.find((ribbon) => ribbon.personId === personId);
  const stops = round?.blocks.flatMap((block) => (block.point ? [block.point] : [])) ?? [];
  const way = [round?.base, ...stops, round?.base].filter((stop) => stop != null).map(draw);
  return (
    <svg
      className={styles.map}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={round ? `${round.name}’s round on the map` : "The day’s stops on the map"}
    >
      <path className={styles.road} d={roads} />
      {way.length > 1 && (
        <polyline className={styles.way} points={way.map(({ x, y }) => `${x},${y}`).join(" ")} />
      )}
      {day.ribbons.map((ribbon) => (
        <Stops key={ribbon.personId} ribbon={ribbon} draw={draw} chosen={ribbon === round} />
      ))}
      {point && <circle className={styles.wanted} cx={draw(point).x} cy={draw(point).y} r={6} />}
    </svg>
  );
});

/** The roads as one path, and where on the drawing a place is. */
function drawing({ junctions, roads }: Town) {
  const draw = projection(junctions);
  const places = new Map(junctions.map((junction) => [junction.id, draw(junction)]));
  return {
    draw,
    roads: roads
      .map(({ from, to }) => {
        const [here, there] = [places.get(from), places.get(to)];
        return here && there ? `M${here.x} ${here.y}L${there.x} ${there.y}` : "";
      })
      .join(""),
  };
}

/** Where one person's day begins and where it stops. */
const Stops = memo(function Stops({
  ribbon: { base, blocks },
  draw,
  chosen,
}: {
  ribbon: Ribbon;
  draw: Projection;
  chosen: boolean;
}) {
  return (
    <g className={chosen ? styles.chosen : undefined}>
      {base && (
        <rect className={styles.base} x={draw(base).x - 3} y={draw(base).y - 3} width={6} height={6} />
      )}
      {blocks.map(
        (block) =>
          block.point && (
            <circle
              key={block.visitId}
              className={["finished", "checked"].includes(block.state) ? styles.over : styles.stop}
              cx={draw(block.point).x}
              cy={draw(block.point).y}
              r={chosen ? 5 : 3.5}
            />
          ),
      )}
    </g>
  );
});

type Projection = ReturnType<typeof projection>;

/** Fits the roads into the drawing; a degree is as wide as it is at their latitude. */
function projection(around: { latitude: number; longitude: number }[]) {
  const north = Math.max(...around.map((each) => each.latitude));
  const south = Math.min(...around.map((each) => each.latitude));
  const west = Math.min(...around.map((each) => each.longitude));
  const east = Math.max(...around.map((each) => each.longitude));
  const narrow = Math.cos((((north + south) / 2) * Math.PI) / 180);
  const scale = Math.min(
    (WIDTH - 2 * EDGE) / ((east - west) * narrow || 1),
    (HEIGHT - 2 * EDGE) / (north - south || 1),
  );
  return ({ latitude, longitude }: { latitude: number; longitude: number }) => ({
    x: Math.round((EDGE + (longitude - west) * narrow * scale) * 10) / 10,
    y: Math.round((EDGE + (north - latitude) * scale) * 10) / 10,
  });
}
