import { useRef } from "react";
import { answer, client } from "../api/client";
import { hours as inHours, weekday } from "../format";
import { useAct } from "../kit/useAct";
import { clock } from "./scale";
import { useUndo } from "./useUndo";
import type { Clash } from "./words";

/** A visit at a time with a person; its companions come along as before. */
export type Plan = {
  visitId: number;
  version: number;
  technicianId: number;
  companionIds: number[];
  day: string;
  from: number;
  minutes: number;
  /** What speaks against it and is put up with; anything else is refused. */
  overruled: Clash[];
  /** The time that was held for it. */
  holdId?: number;
};

/** Where a visit was before: at a time, with those who come along for some hours of it, or among those that wait. */
type Before = (Plan & { hours: CrewHours[] }) | "waiting";

/** The part of a visit for which somebody comes along. */
type CrewHours = { personId: number; from: number; to: number };

/**
 * Gives visits their person and time. Each step can be put back, the newest first.
 *
 * @param whose how the person is called in what is said
 */
export function usePlanning(whose: (personId: number) => string, done: () => void) {
  const { count, keep, undo } = useUndo();
  // What was changed here can be put back at the version that it got by it.
  const versions = useRef(new Map<number, number>());
  const plan = useAct(
    async ({ plan, hours = [] }: { plan: Plan; before?: Before; hours?: CrewHours[] }) => {
      let changed = await answer(
        client.PUT("/api/visits/{id}/plan", {
          params: { path: { id: plan.visitId } },
          body: {
            version: plan.version,
            technicianId: plan.technicianId,
            companionIds: plan.companionIds,
            day: plan.day,
            start: clock(plan.from),
            expected: inHours(plan.minutes),
            overruled: plan.overruled,
            holdId: plan.holdId,
          },
        }),
      );
      for (const { personId, from, to } of hours) {
        changed = await answer(
          client.PUT("/api/visits/{id}/crew/{personId}/hours", {
            params: { path: { id: plan.visitId, personId } },
            body: {
              version: changed.version,
              hours: `${clock(from)} to ${clock(to)}`,
              overruled: plan.overruled,
            },
          }),
        );
      }
      return changed;
    },
    {
      done,
      said: (changed, { plan, before }) => {
        versions.current.set(plan.visitId, changed.version);
        if (before) {
          keep(() => back(plan.visitId, before));
        }
        return {
          text: `Planned: ${weekday(plan.day)} ${clock(plan.from)}, ${whose(plan.technicianId)}.`,
          undo: before && { label: "Put it back", run: undo },
        };
      },
    },
  );
  const unplan = useAct(
    ({ visitId, version }: { visitId: number; version: number; before?: Before }) =>
      answer(
        client.POST("/api/visits/{id}/unplan", { params: { path: { id: visitId } }, body: { version } }),
      ),
    {
      done,
      said: (changed, { visitId, before }) => {
        versions.current.set(visitId, changed.version);
        if (before) {
          keep(() => back(visitId, before));
        }
        return {
          text: "It waits for a time again.",
          undo: before && { label: "Put it back", run: undo },
        };
      },
    },
  );
  const back = (visitId: number, before: Before) => {
    const version = versions.current.get(visitId) ?? 0;
    if (before === "waiting") {
      unplan.run({ visitId, version });
    } else {
      plan.run({ plan: { ...before, version }, hours: before.hours });
    }
  };
  return {
    run: (planned: Plan, before: Before) => plan.run({ plan: planned, before }),
    unplan: (before: Exclude<Before, "waiting">) =>
      unplan.run({ visitId: before.visitId, version: before.version, before }),
    running: plan.running || unplan.running,
    /** How many steps can be put back. */
    steps: count,
    undo,
  };
}
