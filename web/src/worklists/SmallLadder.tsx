import type { SmallRung } from "../api/generated/schema";

const WIDTH = 84;
const QUOTED = 46;

/**
 * The cost ladder in a list row: each rung's quote is the same outlined length, what went over sticks out in copper.
 * Without any quote, what was spent is drawn to one scale.
 */
export function SmallLadder({ rungs }: { rungs: SmallRung[] }) {
  if (rungs.every((rung) => rung.quotedMinor === 0)) {
    const most = Math.max(...rungs.map((rung) => rung.actualMinor), 1);
    return (
      <svg className="small-ladder" viewBox={`0 0 ${WIDTH} 24`} aria-hidden="true">
        {rungs.map((rung, index) => (
          <rect
            // biome-ignore lint/suspicious/noArrayIndexKey: the four rungs never change places
            key={index}
            y={index * 6 + 1}
            width={(QUOTED * rung.actualMinor) / most}
            height={4}
            fill="#44574e"
          />
        ))}
      </svg>
    );
  }
  return (
    <svg className="small-ladder" viewBox={`0 0 ${WIDTH} 24`} aria-hidden="true">
      {rungs.map((rung, index) => {
        const y = index * 6 + 1;
        const share =
          rung.quotedMinor === 0 ? (rung.actualMinor > 0 ? 2 : 0) : rung.actualMinor / rung.quotedMinor;
        const within = Math.min(share, 1) * QUOTED;
        const over = Math.min(Math.max(share - 1, 0) * QUOTED, WIDTH - QUOTED);
        const start = rung.quotedMinor === 0 ? 0 : QUOTED;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: the four rungs never change places
          <g key={index}>
            {rung.quotedMinor > 0 && (
              <rect
                x={0.5}
                y={y}
                width={QUOTED - 0.5}
                height={4}
                fill="none"
                stroke="#868c84"
                strokeWidth={0.8}
              />
            )}
            {rung.quotedMinor > 0 && within > 0 && (
              <rect x={0} y={y} width={within} height={4} fill="#44574e" />
            )}
            {over > 0 && <rect x={start} y={y} width={over} height={4} fill="#a64b17" />}
          </g>
        );
      })}
    </svg>
  );
}
