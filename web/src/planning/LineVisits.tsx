import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { JobVisit, PromisedWork } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, weekday } from "../format";
import { Lines } from "../kit/Lines";
import { Select } from "../kit/Select";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";

/** That a line needs no visit, where one is chosen for it. */
const NONE = 0;
/** That the next visit does it. */
const NEXT = -1;

const STANDINGS: Record<PromisedWork["standing"], string> = {
  not_needed: "needs no visit",
  missing: "still needs a visit",
  waiting: "its visit waits for a time",
  planned: "planned",
  done: "done",
};

const standing = ({ standing, day }: PromisedWork): string =>
  `${STANDINGS[standing]}${day && standing === "planned" ? ` ${weekday(day)}` : ""}`;

const worked = ({ workedMinutes, promisedMinutes }: PromisedWork): string =>
  promisedMinutes ? `${hours(workedMinutes)} of ${hours(promisedMinutes)}` : hours(workedMinutes);

/** Which visit does what was promised: what still needs one is said at once, the rest when it is asked for. */
export function LineVisits({ jobId, editable }: { jobId: number; editable: boolean }) {
  const { data } = useQuery(queries.lineVisits(jobId));
  const [open, setOpen] = useState(false);
  if (!data || data.lines.length === 0) {
    return null;
  }
  const missing = data.lines.filter((line) => line.standing === "missing");
  const ticked = data.lines.filter((line) => line.ticked);
  const longer = data.lines.filter(
    ({ workedMinutes, promisedMinutes }) => promisedMinutes != null && workedMinutes > promisedMinutes,
  );
  return (
    <>
      {missing.length > 0 && (
        <div className="needs">
          Still {missing.length === 1 ? "needs" : "need"} a visit:{" "}
          {missing.map((line) => line.description).join(", ")}
        </div>
      )}
      {ticked.length > 0 && (
        <div>
          Ticked off as done: <b>{ticked.map((line) => line.description).join(", ")}</b>
        </div>
      )}
      {longer.length > 0 && (
        <div className="needs">
          Took longer than promised:{" "}
          {longer.map((line) => `${line.description} (${worked(line)})`).join(", ")}
        </div>
      )}
      <div className="small">
        <Word id={`lines-of-${jobId}`} run={() => setOpen(!open)}>
          {open ? "Hide which visit does what" : "Which visit does what"}
        </Word>
      </div>
      {open && (
        <Lines
          caption="Which visit does what"
          columns={[
            { name: "Promised", silent: true },
            { name: "Stands", silent: true },
            { name: "Visit", silent: true },
          ]}
        >
          {data.lines.map((line) => (
            <Line
              key={line.lineId}
              jobId={jobId}
              version={data.version}
              line={line}
              visits={data.visits}
              editable={editable}
            />
          ))}
        </Lines>
      )}
    </>
  );
}

function Line({
  jobId,
  version,
  line,
  visits,
  editable,
}: {
  jobId: number;
  version: number;
  line: PromisedWork;
  visits: JobVisit[];
  editable: boolean;
}) {
  const choose = useAct(
    (chosen: number) =>
      answer(
        client.PUT("/api/jobs/{id}/line-visits/{lineId}", {
          params: { path: { id: jobId, lineId: line.lineId } },
          body: { version, needed: chosen !== NONE, visitId: chosen > 0 ? chosen : undefined },
        }),
      ),
    { said: `Noted for ${line.description}.` },
  );
  return (
    <tr>
      <td>{line.description}</td>
      <td className={line.standing === "missing" ? "needs" : "soft"}>
        {standing(line)}
        {line.workedMinutes > 0 && `, ${worked(line)} worked`}
      </td>
      <td>
        {editable && (
          <Select
            size="small"
            aria-label={`Visit for ${line.description}`}
            style={{ width: 190 }}
            popupMatchSelectWidth={false}
            value={line.standing === "not_needed" ? NONE : (line.chosenId ?? NEXT)}
            options={[
              { value: NEXT, label: "the next one" },
              ...visits
                .filter((visit) => visit.state !== "called_off" && visit.state !== "not_this_time")
                .map((visit) => ({
                  value: visit.id,
                  label: visit.day ? `that of ${weekday(visit.day)}` : "the one without a day",
                })),
              { value: NONE, label: "it needs none" },
            ]}
            onChange={(chosen: number) => choose.run(chosen)}
          />
        )}
      </td>
    </tr>
  );
}
