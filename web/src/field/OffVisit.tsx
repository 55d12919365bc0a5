import { Button } from "antd";
import { useState } from "react";
import type { Problem } from "../api/client";
import type { ClockForm, Day, RunningClock } from "../api/generated/schema";
import { hours, moment } from "../format";
import { CrewTicks, useTicked } from "./CrewTicks";
import { clockWords } from "./clockWords";
import { Arrive, EndedAt, useMinutesSince } from "./PocketForms";
import { useTap } from "./useTap";
import { useWhereabouts } from "./whereabouts";

type Start = Pick<ClockForm, "kind" | "work">;
type Stop = { miles?: string; endedAt?: string };
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
        <Running clock={day.clock} running={act.running} stop={(stop) => take({ stop })} />
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
      <CrewTicks crew={day.crew} ticked={ticked} />
      <Sums day={day} />
      {problem && (
        <p className="fault" role="alert">
          {problem.faults[0]?.detail ?? problem.message}
        </p>
      )}
    </section>
  );
}

function Running({
  clock,
  running,
  stop,
}: {
  clock: RunningClock;
  running: boolean;
  stop: (stop: Stop) => void;
}) {
  const since = useMinutesSince(clock.startedAt);
  if (clock.forgotten) {
    return (
      <EndedAt
        running={running}
        asked={`Your clock has run since ${moment(clock.since)}. When did you really stop, on that day?`}
        submit={(endedAt) => stop({ endedAt })}
      />
    );
  }
  return clock.kind === "drive" ? (
    <>
      <p>
        <b>Driving</b>, {hours(since)} so far. Starting on a visit ends it too.
      </p>
      <Arrive words="I am there" running={running} submit={(miles) => stop({ miles })} />
    </>
  ) : (
    <Button type="primary" className="big" loading={running} onClick={() => stop({})}>
      <span>{clock.kind === "break" ? "End the break" : `End: ${clock.work}`}</span>{" "}
      <span>{hours(since)}</span>
    </Button>
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
