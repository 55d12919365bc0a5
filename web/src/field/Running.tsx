import { Button } from "antd";
import type { RunningClock } from "../api/generated/schema";
import { hours, moment } from "../format";
import { Arrive, EndedAt, useMinutesSince } from "./PocketForms";

/** What is said when a clock is stopped. */
export type Stop = { miles?: string; endedAt?: string };

/** The clock that runs on no visit, or was forgotten on one, and how it is stopped. */
export default function Running({
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
