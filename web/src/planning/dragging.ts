import type { PointerEvent } from "react";
import type { Stretch } from "../api/generated/schema";
import { SNAP } from "./scale";
import type { Clash } from "./words";

/** Where a visit is, or would be. */
export type Spot = { personId: number; from: number };

/** A visit that is held over the day: where it was, and where it would be. */
export type Held = {
  visit: { visitId: number; version: number; customer: string; minutes: number; clashes: Clash[] };
  /** Nothing for one that waits. */
  origin?: Spot;
  to: Spot;
  /** The time that was held for it; whoever gives it that has the customer's word for it. */
  holdId?: number;
  /** What speaks against where it was let go, and is asked about. */
  asked?: Clash[];
};

/** So far a pointer moves before it drags, in pixels. */
const STILL = 4;

const within = (from: number): number =>
  Math.max(0, Math.min(Math.round(from / SNAP) * SNAP, 24 * 60 - SNAP));

/** Whether a visit is held there already; nothing is drawn anew for a pointer that stays in its quarter hour. */
const isAt = (held: Held | undefined, to: Spot | undefined): boolean =>
  held?.to.personId === to?.personId && held?.to.from === to?.from;

/**
 * The ribbons with where they are drawn. Of those out of sight nothing inside is measured, for it would have to be
 * laid out first; they all begin and end where the axis above them does.
 */
function linesOf(field: ParentNode) {
  const axis = field.querySelector("[data-axis]")?.getBoundingClientRect();
  return [...field.querySelectorAll<HTMLElement>("[data-ribbon]")].map((ribbon) => {
    const { top, bottom } = ribbon.getBoundingClientRect();
    return {
      personId: Number(ribbon.dataset.ribbon),
      box: { top, bottom, left: axis?.left ?? 0, right: axis?.right ?? 0, width: axis?.width ?? 1 },
    };
  });
}

/** Follows the pointer until it is let go, or Escape gives up. */
function follow(move: (event: globalThis.PointerEvent) => void, ended: (dropped: boolean) => void) {
  const end = (dropped: boolean) => {
    window.removeEventListener("pointermove", move);
    window.removeEventListener("pointerup", up);
    window.removeEventListener("keydown", giveUp, true);
    ended(dropped);
  };
  const up = () => end(true);
  const giveUp = (event: globalThis.KeyboardEvent) => event.key === "Escape" && end(false);
  window.addEventListener("pointermove", move);
  window.addEventListener("pointerup", up);
  window.addEventListener("keydown", giveUp, true);
}

/** Moves a visit with the pointer: its time is read from where the pointer is, its person from the ribbon below it. */
export function drag(
  down: PointerEvent,
  field: HTMLElement | null,
  hours: Stretch,
  start: Held,
  hold: (held: Held | undefined) => void,
  drop: (held: Held) => void,
) {
  if (down.button !== 0 || !field || !start.origin) {
    return;
  }
  const { personId, from: begun } = start.origin;
  const lines = linesOf(field);
  const perPixel = (hours.to - hours.from) / (lines[0]?.box.width ?? 1);
  let held: Held | undefined;
  follow(
    (event) => {
      if (!held && Math.hypot(event.clientX - down.clientX, event.clientY - down.clientY) < STILL) {
        return;
      }
      const over = lines.find(({ box }) => event.clientY >= box.top && event.clientY < box.bottom);
      const to = {
        personId: over?.personId ?? held?.to.personId ?? personId,
        from: within(begun + (event.clientX - down.clientX) * perPixel),
      };
      if (!isAt(held, to)) {
        held = { ...start, to };
        hold(held);
      }
    },
    (dropped) => {
      if (held) {
        if (dropped) {
          drop(held);
        } else {
          hold(undefined);
        }
      }
    },
  );
}

/** Moves a visit that waits onto a ribbon: it begins where the pointer is; beside the ribbons it is nowhere. */
export function dragIn(
  down: PointerEvent,
  hours: Stretch,
  visit: Held["visit"],
  hold: (held: Held | undefined) => void,
  drop: (held: Held) => void,
) {
  if (down.button !== 0) {
    return;
  }
  const lines = linesOf(document);
  let held: Held | undefined;
  follow(
    (event) => {
      const over = lines.find(
        ({ box }) =>
          event.clientY >= box.top &&
          event.clientY < box.bottom &&
          event.clientX >= box.left &&
          event.clientX < box.right,
      );
      const share = over ? (event.clientX - over.box.left) / over.box.width : 0;
      const to = over && {
        personId: over.personId,
        from: within(hours.from + share * (hours.to - hours.from)),
      };
      if (!isAt(held, to)) {
        held = to && { visit, to };
        hold(held);
      }
    },
    (dropped) => {
      if (dropped && held) {
        drop(held);
      } else {
        hold(undefined);
      }
    },
  );
}

/** Draws a stretch of a ribbon out with the pointer, from quarter hour to quarter hour. */
export function drawOut(
  down: PointerEvent<HTMLElement>,
  hours: Stretch,
  show: (at: Stretch | undefined) => void,
  keep: (at: Stretch) => void,
) {
  if (down.button !== 0 || (down.target as HTMLElement).closest("[data-visit]")) {
    return;
  }
  const box = down.currentTarget.getBoundingClientRect();
  const minute = (x: number) =>
    Math.round((hours.from + ((x - box.left) / box.width) * (hours.to - hours.from)) / SNAP) * SNAP;
  const from = Math.floor(minute(down.clientX) / SNAP) * SNAP;
  let at: Stretch | undefined;
  follow(
    (event) => {
      const to = minute(event.clientX);
      at = to === from ? undefined : { from: Math.min(from, to), to: Math.max(from, to) };
      show(at);
    },
    (dropped) => {
      show(undefined);
      if (dropped && at) {
        keep(at);
      }
    },
  );
}
