import { useRef } from "react";
import { answer, client } from "../api/client";
import { hours, weekday } from "../format";
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

/** Where a visit was before: at a time, or among those that wait. */
type Before = Plan | "waiting";

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
    ({ plan }: { plan: Plan; before?: Before }) =>
      answer(
        client.PUT("/api/visits/{id}/plan", {
          params: { path: { id: plan.visitId } },
          body: {
            version: plan.version,
            technicianId: plan.technicianId,
            companionIds: plan.companionIds,
            day: plan.day,
            start: clock(plan.from),
            expected: hours(plan.minutes),
            overruled: plan.overruled,
            holdId: plan.holdId,
          },
        }),
      ),
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
      plan.run({ plan: { ...before, version } });
    }
  };
  return {
    run: (planned: Plan, before: Before) => plan.run({ plan: planned, before }),
    unplan: (before: Plan) => unplan.run({ visitId: before.visitId, version: before.version, before }),
    running: plan.running || unplan.running,
    /** How many steps can be put back. */
    steps: count,
    undo,
  };
}
