import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { DayEntry } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, money, timeOf, weekday, words } from "../format";
import lines from "../kit/Lines.module.css";
import { Section } from "../kit/Section";
import sheet from "../kit/Sheet.module.css";
import { useTitle } from "../kit/useTitle";
import { useMay } from "../people/useMay";
import { TimeForm } from "./CorrectionForms";
import { Measured } from "./Measured";
import { mondayOf } from "./mondays";

/** All that somebody did on a day, on visits and on none: the drive home, the yard, training. */
export default function DayPage() {
  const { id = "", day = "" } = useParams();
  const { data, error } = useQuery(queries.personsDay(Number(id), day));
  const [editing, setEditing] = useState<number | "new">();
  const editable = useMay("record_work");
  useTitle(data ? `${data.person}, ${weekday(data.day)}` : "Day");
  if (error && !data) {
    return (
      <div className={`${sheet.sheet} ${sheet.alone}`}>
        <p className="pad fault">{error.message}</p>
      </div>
    );
  }
  if (!data) {
    return <div className={`${sheet.sheet} ${sheet.alone}`} aria-busy="true" />;
  }
  const close = () => setEditing(undefined);
  return (
    <article className={`${sheet.sheet} ${sheet.alone}`} aria-label={`${data.person}'s day`}>
      <header className={sheet.head}>
        <div className={sheet.number}>Day</div>
        <div className={sheet.titled}>
          <div>
            <h1>
              {data.person}, {weekday(data.day)}
            </h1>
            <div className="small soft">
              {hours(data.labourMinutes)} labour, {hours(data.driveMinutes)} drive
              {data.breakMinutes > 0 && `, ${hours(data.breakMinutes)} break`}
            </div>
          </div>
          <div className="actions">
            <Link to={`/hours/${mondayOf(data.day)}`}>Hours of the week</Link>
            <Link to={`/people/${id}/days/${data.dayBefore}`}>The day before</Link>
            <Link to={`/people/${id}/days/${data.dayAfter}`}>The day after</Link>
          </div>
        </div>
      </header>
      <Section name="Time">
        {data.entries.length === 0 && <span className="soft">Nothing is recorded on this day.</span>}
        {data.entries.length > 0 && (
          <table className={lines.lines}>
            <thead>
              <tr>
                <th style={{ width: 118 }} />
                <th />
                <th className="figure" style={{ width: 64 }}>
                  time
                </th>
                <th className="figure" style={{ width: 56 }}>
                  miles
                </th>
                <th className="figure" style={{ width: 76 }}>
                  cost
                </th>
              </tr>
            </thead>
            <tbody>
              {data.entries.map((entry) =>
                editing === entry.id ? (
                  <tr key={entry.id}>
                    <td colSpan={5}>
                      <TimeForm entry={{ ...entry, fromDaysLater: 0 }} close={close} />
                    </td>
                  </tr>
                ) : (
                  <EntryRow
                    key={entry.id}
                    entry={entry}
                    edit={editable && !entry.visitId ? () => setEditing(entry.id) : undefined}
                  />
                ),
              )}
            </tbody>
          </table>
        )}
        {editing === "new" && <TimeForm ofDay={{ personId: data.personId, day: data.day }} close={close} />}
        {editable && editing === undefined && (
          <div className="actions" style={{ marginTop: 5 }}>
            <button type="button" className="plain small" onClick={() => setEditing("new")}>
              Add time on no visit
            </button>
          </div>
        )}
      </Section>
    </article>
  );
}

function EntryRow({ entry, edit }: { entry: DayEntry; edit?: () => void }) {
  const span = `${timeOf(entry.from, 0)} – ${entry.to ? timeOf(entry.to, entry.toDaysLater) : "running"}`;
  return (
    <tr data-time={entry.id}>
      <td>
        {edit ? (
          <button type="button" className="plain" onClick={edit} aria-label={`Correct ${span}`}>
            {span}
          </button>
        ) : (
          span
        )}
      </td>
      <td>
        {entry.visitId ? (
          <>
            {words(entry.kind)}, <Link to={`/jobs/${entry.jobNumber}`}>job {entry.jobNumber}</Link>{" "}
            <span className="soft">{entry.jobTitle}</span>
          </>
        ) : entry.kind === "drive" ? (
          <>
            drive to no visit{" "}
            <span className="soft">
              {entry.approved
                ? "borne by the day's visits"
                : "borne by the day's visits once all are checked"}
            </span>
          </>
        ) : entry.kind === "break" ? (
          "break"
        ) : (
          <>
            labour <span className="soft">on no visit, borne by no job</span>
          </>
        )}
        {entry.rateClass !== "normal" && `, ${entry.rateClass}`}
        {entry.description && <span className="soft">, {entry.description}</span>}
        {entry.inDoubt && <span className="needs">, the end was set by the next clock</span>}
        <Measured entry={entry} />
      </td>
      <td className="figure">{hours(entry.minutes)}</td>
      <td className="figure">{entry.miles > 0 && entry.miles}</td>
      <td className="figure soft">{money(entry.costMinor)}</td>
    </tr>
  );
}
