import type { CSSProperties } from "react";
import type { PlannerDay, Stretch } from "../api/generated/schema";

/** The quarter hour to which a visit snaps. */
export const SNAP = 15;

const HOUR = 60;
const USUAL: Stretch = { from: 7 * HOUR, to: 18 * HOUR };

/** The hours of a day that are drawn: the usual ones, and whatever lies outside them. */
export function drawn(day: PlannerDay): Stretch {
  const parts = day.ribbons.flatMap((ribbon) => [
    ...ribbon.working,
    ...ribbon.blocks.map((block) => block.at),
    ...ribbon.drives.map((drive) => ({ from: drive.from, to: drive.from + drive.minutes })),
  ]);
  const from = Math.min(USUAL.from, ...parts.map((part) => part.from));
  const to = Math.max(USUAL.to, ...parts.map((part) => part.to));
  return { from: Math.floor(from / HOUR) * HOUR, to: Math.ceil(to / HOUR) * HOUR };
}

/** Where a stretch stands on the ribbon, as a style. */
export const placed = (at: Stretch, hours: Stretch) => ({
  left: `${share(at.from, hours)}%`,
  width: `${((at.to - at.from) / (hours.to - hours.from)) * 100}%`,
});

/** Where a minute stands on the ribbon, in percent of its width. */
export const share = (minute: number, hours: Stretch): number =>
  ((minute - hours.from) / (hours.to - hours.from)) * 100;

/** The full hours that are drawn. */
export const ticks = (hours: Stretch): number[] =>
  Array.from({ length: (hours.to - hours.from) / HOUR + 1 }, (_, index) => hours.from + index * HOUR);

/** The distance between two full hours on the ribbon, as a style that its ruling is drawn by. */
export const hourly = (hours: Stretch): CSSProperties =>
  ({ "--hour": `calc(100% / ${(hours.to - hours.from) / HOUR})` }) as CSSProperties;

/** A minute of the day as "8:30". */
export const clock = (minute: number): string =>
  `${Math.floor(minute / HOUR) % 24}:${String(minute % HOUR).padStart(2, "0")}`;

/** The minute of a moment of this day such as "2026-11-24T10:42:00". */
export const minuteOf = (iso: string): number => Number(iso.slice(11, 13)) * HOUR + Number(iso.slice(14, 16));
