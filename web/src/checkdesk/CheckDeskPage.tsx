import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { answer, client, withKey } from "../api/client";
import type { CheckDesk, VisitToCheck } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, hours } from "../format";
import { Heading } from "../kit/Heading";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { Select } from "../kit/Select";
import { useAct } from "../kit/useAct";
import { useMay } from "../people/useMay";
import styles from "./CheckDeskPage.module.css";

/** What the technicians say is finished, with what is odd about it in words, checked in one act where nothing is. */
export default function CheckDeskPage() {
  const [search, setSearch] = useSearchParams();
  const from = search.get("from") ?? "";
  const to = search.get("to") ?? "";
  const technician = Number(search.get("technician")) || undefined;
  const { data, error } = useQuery(queries.checkDesk(from, to, technician));
  const set = (name: string, value: string) =>
    setSearch(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) {
          next.set(name, value);
        } else {
          next.delete(name);
        }
        return next;
      },
      { replace: true },
    );
  return (
    <article className="sheet alone" aria-label="Check desk">
      <header className="section head">
        <div className="margin soft">Check desk</div>
        <div className="titled">
          <div>
            <Heading>{data ? title(data) : "Finished visits"}</Heading>
            <div className="small soft">
              {data && `${day(data.from)} to ${day(data.to)}. What is odd stands in the row.`}
            </div>
          </div>
          <Days from={from} to={to} technician={technician} set={set} />
        </div>
      </header>
      {error && <p className="pad fault">{error.message}</p>}
      {data && <CheckPlain desk={data} />}
      {data && data.visits.length > 0 && (
        <Section name="Visits">
          <Lines
            caption="Finished visits"
            columns={[
              { name: "Day", width: 88 },
              { name: "Technician", width: 124 },
              { name: "Job" },
              { name: "labour", figure: true, width: 60 },
              { name: "drive", figure: true, width: 56 },
              { name: "parts", figure: true, width: 50 },
              { name: "", silent: true, width: 24 },
              { name: "What is odd", width: 250 },
              { name: "Check", silent: true, width: 66 },
            ]}
          >
            {data.visits.map((visit) => (
              <Row key={visit.visitId} visit={visit} />
            ))}
          </Lines>
        </Section>
      )}
    </article>
  );
}

const counted = (count: number) => (count === 1 ? "one visit" : `${count} visits`);

function title({ visits, plain }: CheckDesk): string {
  if (visits.length === 0) {
    return "Everything that was finished is checked";
  }
  const odd = visits.length - plain;
  return `${counted(visits.length)} to check${odd > 0 ? `, ${odd} of them odd` : ""}`;
}

/** Which days and whose visits, as people type them. */
function Days({
  from,
  to,
  technician,
  set,
}: {
  from: string;
  to: string;
  technician: number | undefined;
  set: (name: string, value: string) => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  return (
    <div className="actions">
      <TypedDay
        label="First day"
        value={from}
        placeholder="two weeks ago"
        set={(typed) => set("from", typed)}
      />
      <TypedDay label="Last day" value={to} placeholder="today" set={(typed) => set("to", typed)} />
      <Select
        aria-label="Whose visits"
        value={technician ?? 0}
        onChange={(value) => set("technician", value === 0 ? "" : String(value))}
        popupMatchSelectWidth={false}
        className={styles.whose}
        options={[
          { value: 0, label: "everybody" },
          ...(choices?.technicians ?? []).map((person) => ({ value: person.id, label: person.name })),
        ]}
      />
    </div>
  );
}

/** A day is asked for once it is typed, and not at every letter of it. */
function TypedDay({
  label,
  value,
  placeholder,
  set,
}: {
  label: string;
  value: string;
  placeholder: string;
  set: (typed: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  return (
    <Input
      aria-label={label}
      className={styles.day}
      placeholder={placeholder}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => set(typed.trim())}
      onPressEnter={() => set(typed.trim())}
    />
  );
}

/** All visits with nothing odd about them, in one act that can be taken back. */
function CheckPlain({ desk }: { desk: CheckDesk }) {
  const mayCheck = useMay("record_work");
  const back = useAct(
    (visits: { visitId: number; version: number }[], key) =>
      answer(client.POST("/api/visit-checks/take-back", { params: withKey(key), body: { visits } })),
    { said: ({ visits }) => ({ text: `Taken back: ${counted(visits.length)} to check again.` }) },
  );
  const check = useAct(
    (plain: VisitToCheck[], key) =>
      answer(
        client.POST("/api/visit-checks", {
          params: withKey(key),
          body: { visits: plain.map(({ visitId, version }) => ({ visitId, version })) },
        }),
      ),
    {
      said: ({ visits }) => ({
        text: `Checked: ${counted(visits.length)}. The time is in the books.`,
        undo: { label: "Take it back", run: () => back.run(visits) },
      }),
    },
  );
  const plain = desk.visits.filter((visit) => visit.odd.length === 0).slice(0, MOST_AT_ONCE);
  if (plain.length === 0 || !mayCheck) {
    return null;
  }
  return (
    <Section name="Nothing odd">
      <p>
        {counted(desk.plain)} with {hours(desk.plainLabourMinutes)} of labour.{" "}
        <Button type="primary" loading={check.running} onClick={() => check.run(plain)}>
          {plain.length === 1 ? "Check this one" : `Check these ${plain.length}`}
        </Button>
      </p>
    </Section>
  );
}

/** So many are checked together. */
const MOST_AT_ONCE = 100;

function Row({ visit }: { visit: VisitToCheck }) {
  const mayCheck = useMay("record_work");
  const { visitId, version } = visit;
  const check = useAct(
    () =>
      answer(client.POST("/api/visits/{id}/check", { params: { path: { id: visitId } }, body: { version } })),
    { said: `Checked: ${visit.technician} at ${visit.customer}.` },
  );
  return (
    <tr data-visit={visitId}>
      <td>{day(visit.day)}</td>
      <td>
        {visit.technicianId ? (
          <Link to={`/people/${visit.technicianId}/days/${visit.day}`}>{visit.technician}</Link>
        ) : (
          visit.technician
        )}
      </td>
      <td>
        <Link to={`/jobs/${visit.jobNumber}`}>J {visit.jobNumber}</Link> {visit.customer}
        <div className="small soft">{visit.title}</div>
      </td>
      <td className="figure">{visit.labourMinutes > 0 ? hours(visit.labourMinutes) : "–"}</td>
      <td className="figure">{visit.driveMinutes > 0 ? hours(visit.driveMinutes) : "–"}</td>
      <td className="figure">{visit.parts > 0 ? visit.parts : "–"}</td>
      <td />
      <td>
        {visit.odd.map(({ oddity, words }) => (
          <div key={oddity} className="needs small">
            {words}
          </div>
        ))}
      </td>
      <td>
        {mayCheck && (
          <Button
            size="small"
            aria-label={`Check ${visit.technician} at ${visit.customer}`}
            loading={check.running}
            onClick={() => check.run()}
          >
            Check
          </Button>
        )}
      </td>
    </tr>
  );
}
