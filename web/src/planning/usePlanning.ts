import { answer, client } from "../api/client";
import { hours, weekday } from "../format";
import { useAct } from "../kit/useAct";
import { clock } from "./scale";
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

/**
 * Gives a visit its person and time. What it was before can be taken back to, once it had a time at all.
 *
 * @param whose how the person is called in what is said
 */
export function usePlanning(whose: (personId: number) => string, done: () => void) {
  const act = useAct(
    ({ plan }: { plan: Plan; before?: Plan }) =>
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
      said: (changed, { plan, before }) => ({
        text: `Planned: ${weekday(plan.day)} ${clock(plan.from)}, ${whose(plan.technicianId)}.`,
        undo: before && {
          label: "Put it back",
          run: () => run({ ...before, version: changed.version }),
        },
      }),
    },
  );
  const run = (plan: Plan, before?: Plan) => act.run({ plan, before });
  return { run, running: act.running };
}
