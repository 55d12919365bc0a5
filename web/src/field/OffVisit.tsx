import { Button } from "antd";
import { lazy, Suspense, useState } from "react";
import type { Problem } from "../api/client";
import type { ClockForm, Day, RunningClock } from "../api/generated/schema";
import { hours } from "../format";
import { clockWords } from "./clockWords";
import type { Stop } from "./Running";
import { useTap } from "./useTap";
import { useTicked } from "./useTicked";
import { useWhereabouts } from "./whereabouts";

// Whoever is alone, with no clock on no visit, need not wait for these forms.
const CrewTicks = lazy(() => import("./CrewTicks"));
const Running = lazy(() => import("./Running"));

type Start = Pick<ClockForm, "kind" | "work">;
type Tap = { start?: Start; stop?: Stop };

/** What is done on no visit: a break, the drive home or to anywhere else, other paid time. */
export function OffVisit({ day }: { day: Day }) {
  const [problem, setProblem] = useState<Problem>();
  const ticked = useTicked(day.crew, false);
  const { position } = useWhereabouts();
  const act = useTap({
    done: () => setProblem(undefined),
    refused: setProblem,
    said: ({ step, form }) => ({
      text:
        step === "start_clock"
          ? `${clockWords({ work: "", ...(form as Pick<RunningClock, "kind">), visitId: null })}.`
          : "The clock is stopped.",
    }),
  });
  const take = ({ start, stop }: Tap) =>
    act.run({
      step: start ? "start_clock" : "stop_clock",
      form: { ...(start ?? stop), crewIds: ticked.crewIds, position: position() },
    });
  return (
    <section className="body" aria-label="On no visit">
      {day.clock ? (
        <Suspense>
          <Running clock={day.clock} running={act.running} stop={(stop) => take({ stop })} />
        </Suspense>
      ) : (
        <div className="pair">
          <Button loading={act.running} onClick={() => take({ start: { kind: "break" } })}>
            Break
          </Button>
          <Button loading={act.running} onClick={() => take({ start: { kind: "drive" } })}>
            Drive home
          </Button>
          {day.otherWork.map((work) => (
            <Button
              key={work}
              loading={act.running}
              onClick={() => take({ start: { kind: "labour", work } })}
            >
              {work}
            </Button>
          ))}
        </div>
      )}
      {day.crew.length > 0 && (
        <Suspense>
          <CrewTicks crew={day.crew} ticked={ticked} />
        </Suspense>
      )}
      <Sums day={day} />
      {problem && (
        <p className="fault" role="alert">
          {problem.faults[0]?.detail ?? problem.message}
        </p>
      )}
    </section>
  );
}

function Sums({ day }: { day: Day }) {
  const sums = [
    day.offVisits.drive > 0 && `${hours(day.offVisits.drive)} driven`,
    day.offVisits.otherWork > 0 && `${hours(day.offVisits.otherWork)} other work`,
    day.offVisits.breaks > 0 && `${hours(day.offVisits.breaks)} break`,
  ].filter(Boolean);
  return sums.length > 0 && <p className="soft">On no visit today: {sums.join(", ")}.</p>;
}
