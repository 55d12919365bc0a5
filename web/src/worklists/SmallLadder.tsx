import type { SmallRung } from "../api/generated/schema";
import { colours } from "../kit/tokens";
import styles from "./SmallLadder.module.css";

const WIDTH = 84;
const QUOTED = 46;

/**
 * The cost ladder in a list row: each rung's quote is the same outlined length, what went over sticks out in copper.
 * Without any quote, what was spent is drawn to one scale.
 */
export function SmallLadder({ rungs }: { rungs: SmallRung[] }) {
  const quoted = rungs.some((rung) => rung.quotedMinor > 0);
  const most = Math.max(...rungs.map((rung) => rung.actualMinor), 1);
  return (
    <svg className={styles.ladder} viewBox={`0 0 ${WIDTH} 24`} aria-hidden="true">
      {rungs.map((rung, index) =>
        quoted ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: the four rungs never change places
          <Rung key={index} rung={rung} y={index * 6 + 1} />
        ) : (
          <rect
            // biome-ignore lint/suspicious/noArrayIndexKey: the four rungs never change places
            key={index}
            y={index * 6 + 1}
            width={(QUOTED * rung.actualMinor) / most}
            height={4}
            fill={colours.done}
          />
        ),
      )}
    </svg>
  );
}

function Rung({ rung, y }: { rung: SmallRung; y: number }) {
  const share = rung.quotedMinor === 0 ? (rung.actualMinor > 0 ? 2 : 0) : rung.actualMinor / rung.quotedMinor;
  const within = Math.min(share, 1) * QUOTED;
  const over = Math.min(Math.max(share - 1, 0) * QUOTED, WIDTH - QUOTED);
  return (
    <g>
      {rung.quotedMinor > 0 && (
        <rect
          x={0.5}
          y={y}
          width={QUOTED - 0.5}
          height={4}
          fill="none"
          stroke={colours.mark}
          strokeWidth={0.8}
        />
      )}
      {rung.quotedMinor > 0 && within > 0 && (
        <rect x={0} y={y} width={within} height={4} fill={colours.done} />
      )}
      {over > 0 && (
        <rect x={rung.quotedMinor === 0 ? 0 : QUOTED} y={y} width={over} height={4} fill={colours.copper} />
      )}
    </g>
  );
}
