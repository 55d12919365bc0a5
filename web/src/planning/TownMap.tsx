import { useQuery } from "@tanstack/react-query";
import { memo } from "react";
import type { PlannerDay, Point } from "../api/generated/schema";
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
  if (!map || map.junctions.length === 0) {
    return null;
  }
  const draw = projection(map.junctions);
  const places = new Map(map.junctions.map((junction) => [junction.id, draw(junction)]));
  const roads = map.roads
    .map(({ from, to }) => {
      const [here, there] = [places.get(from), places.get(to)];
      return here && there ? `M${here.x} ${here.y}L${there.x} ${there.y}` : "";
    })
    .join("");
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
        <g key={ribbon.personId} className={ribbon === round ? styles.chosen : undefined}>
          {ribbon.base && (
            <rect
              className={styles.base}
              x={draw(ribbon.base).x - 3}
              y={draw(ribbon.base).y - 3}
              width={6}
              height={6}
            />
          )}
          {ribbon.blocks.map(
            (block) =>
              block.point && (
                <circle
                  key={block.visitId}
                  className={["finished", "checked"].includes(block.state) ? styles.over : styles.stop}
                  cx={draw(block.point).x}
                  cy={draw(block.point).y}
                  r={ribbon === round ? 5 : 3.5}
                />
              ),
          )}
        </g>
      ))}
      {point && <circle className={styles.wanted} cx={draw(point).x} cy={draw(point).y} r={6} />}
    </svg>
  );
});

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
