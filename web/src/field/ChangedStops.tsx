import type { Day, Stop } from "../api/generated/schema";
import { time, weekday } from "../format";
import { type StopChange, useChangedStops } from "./seenStops";

/** What the office changed of the plan since its technician last looked, until they say that they have seen it. */
export function ChangedStops({ now }: { now: Day | undefined }) {
  const { changed, saw } = useChangedStops(now);
  if (!now || changed.length === 0) {
    return null;
  }
  return (
    <section className="body" aria-label="Changed by the office">
      <h2>Changed by the office</h2>
      {changed.map((change) => (
        <p key={change.stop.visitId}>
          <b className="needs">{what(change)}</b> {when(change, now.day)}, {change.stop.customer},{" "}
          {change.stop.title}
        </p>
      ))}
      <button type="button" className="early tall" onClick={saw}>
        I have seen it
      </button>
    </section>
  );
}

const what = ({ was, gone }: StopChange) => (gone ? "Taken off you:" : was ? "Moved:" : "New:");

function when({ stop, was }: StopChange, today: string): string {
  const at = ({ day, start }: Stop, near: string) =>
    day === near ? time(start) : `${weekday(day)} ${time(start)}`;
  if (!was) {
    return at(stop, today);
  }
  return `${at(stop, was.day === stop.day ? today : "")} instead of ${at(was, stop.day)}`;
}
