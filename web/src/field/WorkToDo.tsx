import { Button } from "antd";
import type { PocketVisit, WorkToDo as Work } from "../api/generated/schema";
import { hours, moment } from "../format";
import { useMinutesSince } from "./PocketForms";
import { useTap } from "./useTap";
import styles from "./WorkToDo.module.css";

/**
 * What was promised, to be ticked off line by line as it is done. Where its lines are clocked one by one, the first tap
 * on a line starts its clock, and the next one says that it is done.
 */
export function WorkToDo({ visit, start }: { visit: PocketVisit; start: (lineId: number) => void }) {
  const tick = useTap({
    said: ({ form, name }) => ({ text: `${form.done ? "Done" : "Not done after all"}: ${name}.` }),
  });
  const since = useMinutesSince(visit.runningSince ?? undefined);
  const open = visit.work.filter((line) => !line.doneAt).length;
  const over = visit.state === "finished" || visit.state === "checked";
  // Who ticked nothing off has said by the end what came of it.
  if (visit.work.length === 0 || (over && open === visit.work.length)) {
    return null;
  }
  const tapped = ({ lineId, description, doneAt, onClock }: Work) => {
    if (visit.clockPerLine && !doneAt && !onClock) {
      start(lineId);
    } else {
      tick.run({
        step: "tick_line",
        visitId: visit.visitId,
        form: { lineId, done: doneAt == null },
        name: description,
      });
    }
  };
  return (
    <div className="fact">
      <div className="first">
        <span>To be done</span>
        <span>
          {open === 0 ? "all done" : `${open} of ${visit.work.length} ${over ? "not ticked off" : "to go"}`}
        </span>
      </div>
      {visit.work.map((line) => (
        <Button
          key={line.lineId}
          className={`tall ${styles.line}`}
          aria-pressed={line.doneAt != null}
          disabled={visit.state !== "on_site" || tick.running}
          // A second tap of the same double tap does not take the first one back.
          onClick={({ detail }) => detail < 2 && tapped(line)}
        >
          <span>{line.description}</span>
          <span className={line.doneAt ? "soft small" : line.onClock ? "small" : "needs small"}>
            {[stands(line, over, visit.clockPerLine), worked(line, line.onClock ? since : 0)]
              .filter(Boolean)
              .join(", ")}
          </span>
        </Button>
      ))}
    </div>
  );
}

function stands({ doneBy, doneAt, onClock }: Work, over: boolean, clocked: boolean): string {
  if (doneAt) {
    return ["done", doneBy, moment(doneAt)].filter(Boolean).join(", ");
  }
  if (over) {
    return "not ticked off";
  }
  return onClock ? "on the clock: tap when it is done" : clocked ? "to do: tap to start" : "to do";
}

/** How long was worked on a line, of how long was promised; nothing where no clock says so. */
function worked({ workedMinutes, promisedMinutes }: Work, since: number): string {
  const minutes = workedMinutes + since;
  return minutes === 0 ? "" : `${hours(minutes)}${promisedMinutes ? ` of ${hours(promisedMinutes)}` : ""}`;
}
