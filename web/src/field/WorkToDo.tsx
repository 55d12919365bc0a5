import { Button } from "antd";
import type { PocketVisit } from "../api/generated/schema";
import { moment } from "../format";
import { useTap } from "./useTap";
import styles from "./WorkToDo.module.css";

/** What was promised, to be ticked off line by line as it is done. */
export function WorkToDo({ visit }: { visit: PocketVisit }) {
  const tick = useTap({
    said: ({ form, name }) => ({ text: `${form.done ? "Done" : "Not done after all"}: ${name}.` }),
  });
  const open = visit.work.filter((line) => !line.doneAt).length;
  const over = visit.state === "finished" || visit.state === "checked";
  // Who ticked nothing off has said by the end what came of it.
  if (visit.work.length === 0 || (over && open === visit.work.length)) {
    return null;
  }
  return (
    <div className="fact">
      <div className="first">
        <span>To be done</span>
        <span>
          {open === 0 ? "all done" : `${open} of ${visit.work.length} ${over ? "not ticked off" : "to go"}`}
        </span>
      </div>
      {visit.work.map(({ lineId, description, doneBy, doneAt }) => (
        <Button
          key={lineId}
          className={`tall ${styles.line}`}
          aria-pressed={doneAt != null}
          disabled={visit.state !== "on_site" || tick.running}
          onClick={({ detail }) => {
            // A second tap of the same double tap does not take the first one back.
            if (detail < 2) {
              tick.run({
                step: "tick_line",
                visitId: visit.visitId,
                form: { lineId, done: doneAt == null },
                name: description,
              });
            }
          }}
        >
          <span>{description}</span>
          <span className={doneAt ? "soft small" : "needs small"}>
            {doneAt
              ? ["done", doneBy, moment(doneAt)].filter(Boolean).join(", ")
              : over
                ? "not ticked off"
                : "to do"}
          </span>
        </Button>
      ))}
    </div>
  );
}
