import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, withKey } from "../api/client";
import type { JobSheet, Part, Time, Visit } from "../api/generated/schema";
import { useAct } from "../api/useAct";
import { hours, money, time, timeOf, weekday, words } from "../format";
import { useMay } from "../people/useMay";
import { PlanForm } from "../planning/PlanForm";
import { Asking } from "../records/Asking";
import { Section } from "../records/Section";
import { AddPartForm, OtherCostForm, QuantityForm, TimeForm } from "./CorrectionForms";

/** What was done: each visit with its clocks and parts, and the office's corrections. */
export function WorkSection({ job }: { job: JobSheet }) {
  const mayRecord = useMay("record_work");
  const [form, setForm] = useState<"visit" | "other">();
  const running = job.billing.state === "unbilled" && job.state !== "called_off";
  const editable = running && mayRecord;
  // What comes when the job is closed is cost, and is charged no more.
  const late = !running && mayRecord;
  const close = () => setForm(undefined);
  return (
    <Section name="Work">
      {job.visits.map((visit) => (
        <VisitBlock key={visit.id} visit={visit} editable={editable} late={late} />
      ))}
      {job.visits.length === 0 && <span className="soft">No visit is planned.</span>}
      {job.otherCosts.map((cost) => (
        <table className="lines" key={cost.id}>
          <tbody>
            <tr>
              <td>
                {cost.supplier}: {cost.description}
              </td>
              <td className="figure">{money(cost.costMinor)}</td>
            </tr>
          </tbody>
        </table>
      ))}
      {form === "visit" && <PlanForm jobId={job.id} close={close} />}
      {form === "other" && <OtherCostForm jobId={job.id} close={close} />}
      {(editable || late) && !form && (
        <div className="actions" style={{ marginTop: 5 }}>
          {editable && (
            <button type="button" className="plain small" onClick={() => setForm("visit")}>
              Another visit
            </button>
          )}
          <button type="button" className="plain small" onClick={() => setForm("other")}>
            {late ? "Late supplier's bill" : "Supplier's bill"}
          </button>
        </div>
      )}
    </Section>
  );
}

const SOLID = ["finished", "checked"];
const RUNNING = ["driving", "on_site"];

function StateMark({ state }: { state: string }) {
  const kind = SOLID.includes(state)
    ? "solid"
    : RUNNING.includes(state)
      ? "running"
      : state === "unplanned"
        ? "wanting"
        : "";
  return <span className={`state ${kind}`}>{words(state)}</span>;
}

type Editing =
  | { kind: "plan" | "add-time" | "add-part" }
  | { kind: "time"; id: number }
  | { kind: "part"; id: number };

function VisitBlock({ visit, editable, late }: { visit: Visit; editable: boolean; late: boolean }) {
  const [editing, setEditing] = useState<Editing>();
  const close = () => setEditing(undefined);
  const takesLate = (late || (editable && visit.billed)) && visit.technicianId != null;
  const correctable = (editable && visit.takesRecords) || takesLate;
  return (
    <div className="visit" data-visit={visit.id}>
      <div className="visit-head">
        <span>{visit.day ? weekday(visit.day) : "No day yet"}</span>
        <b>
          {visit.technician ? (
            <PersonsDay id={visit.technicianId} name={visit.technician} day={visit.day} />
          ) : (
            "nobody yet"
          )}
        </b>
        {visit.companions.length > 0 && (
          <span>
            with{" "}
            {visit.companions.map((person, place) => (
              <span key={person.id}>
                {place > 0 && ", "}
                <PersonsDay id={person.id} name={person.name} day={visit.day} />
              </span>
            ))}
          </span>
        )}
        <span className="soft small">
          {visit.replacesId && "in place of one that did not happen, "}
          {visit.start &&
            `planned ${visit.plannedDay && visit.plannedDay !== visit.day ? `${weekday(visit.plannedDay)} ` : ""}${time(visit.start)}, `}
          {hours(visit.expectedMinutes)}
        </span>
        <StateMark state={visit.state} />
        {editable && <VisitActions visit={visit} setEditing={setEditing} />}
        {takesLate && (
          <span className="actions small">
            <button type="button" className="plain" onClick={() => setEditing({ kind: "add-time" })}>
              Late time
            </button>
            <button type="button" className="plain" onClick={() => setEditing({ kind: "add-part" })}>
              Late part
            </button>
          </span>
        )}
      </div>
      {editing?.kind === "plan" && <PlanForm visit={visit} close={close} />}
      {visit.times.length + visit.parts.length + visit.drivesHome.length > 0 && (
        <table className="lines">
          <thead>
            <tr>
              <th style={{ width: 118 }} />
              <th />
              <th className="figure" style={{ width: 64 }}>
                normal
              </th>
              <th className="figure" style={{ width: 72 }}>
                overtime
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
            {visit.times.map((entry) =>
              editing?.kind === "time" && editing.id === entry.id ? (
                <tr key={entry.id}>
                  <td colSpan={6}>
                    <TimeForm entry={entry} close={close} />
                  </td>
                </tr>
              ) : (
                <TimeRow
                  key={entry.id}
                  entry={entry}
                  helper={entry.personId === visit.technicianId ? undefined : entry.person}
                  milesMissing={visit.milesMissing && entry.kind === "drive"}
                  edit={
                    correctable && entry.to ? () => setEditing({ kind: "time", id: entry.id }) : undefined
                  }
                />
              ),
            )}
            {visit.drivesHome.map((share) => (
              <tr key={`home-${share.timeEntryId}`}>
                <td>
                  <Link to={`/people/${share.personId}/days/${share.day}`}>its share</Link>
                </td>
                <td>
                  Drive home
                  {share.personId !== visit.technicianId && `, ${share.person}`}
                  <span className="soft">, not charged</span>
                </td>
                <td className="figure">{hours(share.minutes)}</td>
                <td />
                <td className="figure">{share.miles > 0 && share.miles}</td>
                <td className="figure soft">{money(share.costMinor)}</td>
              </tr>
            ))}
            {visit.parts.map((part) =>
              editing?.kind === "part" && editing.id === part.id ? (
                <tr key={`part-${part.id}`}>
                  <td colSpan={6}>
                    <QuantityForm part={part} close={close} />
                  </td>
                </tr>
              ) : (
                <PartRow
                  key={`part-${part.id}`}
                  part={part}
                  editable={editable}
                  edit={correctable ? () => setEditing({ kind: "part", id: part.id }) : undefined}
                />
              ),
            )}
          </tbody>
        </table>
      )}
      {editing?.kind === "add-time" && <TimeForm visit={visit} close={close} />}
      {editing?.kind === "add-part" && <AddPartForm visitId={visit.id} close={close} />}
      {visit.labourMissing && <div className="needs">No working time is on the clock.</div>}
      {visit.note && <div className="soft">“{visit.note}”</div>}
      {visit.reason && <div className="needs small">{visit.reason}</div>}
    </div>
  );
}

/** Leads to all that somebody did on the day of a visit. */
function PersonsDay({ id, name, day }: { id?: number | null; name: string; day?: string | null }) {
  return id && day ? <Link to={`/people/${id}/days/${day}`}>{name}</Link> : name;
}

function VisitActions({ visit, setEditing }: { visit: Visit; setEditing: (editing: Editing) => void }) {
  const path = { params: { path: { id: visit.id } } };
  const notThisTime = useAct((reason: string) =>
    answer(
      client.POST("/api/visits/{id}/not-this-time", { ...path, body: { version: visit.version, reason } }),
    ),
  );
  const callOff = useAct((reason: string) =>
    answer(client.POST("/api/visits/{id}/call-off", { ...path, body: { version: visit.version, reason } })),
  );
  const reopen = useAct(() =>
    answer(client.POST("/api/visits/{id}/reopen", { ...path, body: { version: visit.version } })),
  );
  const droppable = ["planned", "driving", "on_site", "finished"].includes(visit.state);
  return (
    <span className="actions small">
      {visit.state === "unplanned" && (
        <Button size="small" type="primary" onClick={() => setEditing({ kind: "plan" })}>
          Plan this visit
        </Button>
      )}
      {visit.state === "planned" && (
        <button type="button" className="plain" onClick={() => setEditing({ kind: "plan" })}>
          Move
        </button>
      )}
      {visit.takesRecords && (
        <>
          <button type="button" className="plain" onClick={() => setEditing({ kind: "add-time" })}>
            Add time
          </button>
          {visit.state !== "planned" && (
            <button type="button" className="plain" onClick={() => setEditing({ kind: "add-part" })}>
              Add part
            </button>
          )}
        </>
      )}
      {droppable && (
        <>
          <Asking
            plain
            label="Not this time…"
            title="The visit did not happen?"
            question="Why? A new visit without a time takes its place; nothing is billed for this one."
            confirm="Not this time"
            run={notThisTime.run}
          />
          <Asking
            plain
            label="Call off…"
            title="Call this visit off?"
            question="Why? Nothing is billed for it."
            confirm="Call off"
            run={callOff.run}
          />
        </>
      )}
      {visit.state === "checked" && !visit.billed && (
        <button type="button" className="plain" onClick={() => reopen.run()}>
          Take the check back
        </button>
      )}
    </span>
  );
}

function TimeRow({
  entry,
  edit,
  helper,
  milesMissing,
}: {
  entry: Time;
  edit?: () => void;
  /** Whose time it is, where it is not the visit's technician's. */
  helper?: string;
  milesMissing: boolean;
}) {
  const span = `${timeOf(entry.from, entry.fromDaysLater)} – ${entry.to ? timeOf(entry.to, entry.toDaysLater) : "running"}`;
  const mark = entry.corrected ? "figure corrected" : "figure";
  const isNormal = entry.rateClass === "normal";
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
        {entry.kind === "drive" ? "Drive" : "Labour"}
        {entry.rateClass === "night" && ", night"}
        {helper && `, ${helper}`}
        {entry.description && <span className="soft">, {entry.description}</span>}
        {milesMissing && <span className="needs">, miles not entered</span>}
      </td>
      <td className="figure">{isNormal && <span className={mark}>{hours(entry.minutes)}</span>}</td>
      <td className="figure">{!isNormal && <span className={mark}>{hours(entry.minutes)}</span>}</td>
      <td className="figure">{entry.miles > 0 && entry.miles}</td>
      <td className="figure soft">{money(entry.costMinor)}</td>
    </tr>
  );
}

function PartRow({ part, edit, editable }: { part: Part; edit?: () => void; editable: boolean }) {
  const onRecord = useAct((serialNumber: string, key) =>
    answer(
      client.POST("/api/visit-parts/{id}/equipment", {
        params: { path: { id: part.id }, ...withKey(key) },
        body: { serialNumber },
      }),
    ),
  );
  const warranty = useAct((reason: string) =>
    answer(
      client.POST("/api/visit-parts/{id}/warranty", {
        params: { path: { id: part.id } },
        body: { version: part.version, reason },
      }),
    ),
  );
  const covered = part.warrantyPercent !== "0";
  return (
    <tr data-part={part.id}>
      <td>
        {edit ? (
          <button
            type="button"
            className="plain"
            onClick={edit}
            aria-label={`Correct quantity of ${part.name}`}
          >
            <span className={part.corrected ? "corrected" : undefined}>{part.quantity}</span> {part.unit}
          </button>
        ) : (
          <>
            <span className={part.corrected ? "corrected" : undefined}>{part.quantity}</span> {part.unit}
          </>
        )}
      </td>
      <td colSpan={4}>
        {part.name}
        {part.beyondPromise > 0 && <span className="needs"> {part.beyondPromise} more than promised</span>}
        {part.toPutOnRecord > 0 && (
          <span className="small">
            {" "}
            <Asking
              plain
              label={
                part.toPutOnRecord > 1
                  ? `${part.toPutOnRecord} serial numbers missing…`
                  : "serial number missing…"
              }
              title={`${part.name}, fitted`}
              question="Its serial number; it goes on record at the site with its warranty."
              confirm="Put on record"
              run={onRecord.run}
            />
          </span>
        )}
        {covered && !part.warrantyExclusion && (
          <span className="soft small">
            {" "}
            warranty bears {part.warrantyPercent} %{" "}
            {editable && (
              <Asking
                plain
                label="not this part…"
                title={`Take “${part.name}” out of the warranty?`}
                question="Why? The reason stays with the line."
                confirm="Take out"
                run={warranty.run}
              />
            )}
          </span>
        )}
        {covered && part.warrantyExclusion && (
          <span className="soft small">
            {" "}
            not under warranty: {part.warrantyExclusion}{" "}
            {editable && (
              <button type="button" className="plain" onClick={() => warranty.run("")}>
                back under it
              </button>
            )}
          </span>
        )}
      </td>
      <td className="figure soft">{money(part.costMinor)}</td>
    </tr>
  );
}
