import { useInfiniteQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { FieldChange, HistoryEntry } from "../api/generated/schema";
import { queries } from "../api/queries";
import { fullDay, moment, money, words } from "../format";
import styles from "./History.module.css";

/** What happened to a record, from what to what, by whom and why; read when it is opened. */
export function History({ kind, id }: { kind: HistoryEntry["kind"]; id: number }) {
  const [open, setOpen] = useState(false);
  return (
    <details className={styles.history} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>What happened</summary>
      {open && <Entries kind={kind} id={id} />}
    </details>
  );
}

function Entries({ kind, id }: { kind: HistoryEntry["kind"]; id: number }) {
  const { data, error, hasNextPage, fetchNextPage } = useInfiniteQuery(queries.history(kind, id));
  if (error && !data) {
    return <p className="fault">{error.message}</p>;
  }
  const entries = data?.pages.flatMap((page) => page.entries) ?? [];
  return (
    <ol aria-busy={!data}>
      {entries.map((entry) => (
        <Happened key={entry.id} entry={entry} ofJob={kind === "job"} />
      ))}
      {data && entries.length === 0 && <li className="soft">Nothing is on record yet.</li>}
      {hasNextPage && (
        <li>
          <button type="button" className="plain" onClick={() => fetchNextPage()}>
            Older
          </button>
        </li>
      )}
    </ol>
  );
}

function Happened({ entry, ofJob }: { entry: HistoryEntry; ofJob: boolean }) {
  const told = entry.fields.filter((field) => !pointsElsewhere(field));
  const began = told.filter((field) => field.before == null);
  return (
    <li>
      <span className="soft">{moment(entry.at)}</span>
      <span>
        {words(entry.event)}
        {entry.jobNumber != null && !ofJob && (
          <>
            {" "}
            on <Link to={`/jobs/${entry.jobNumber}`}>job {entry.jobNumber}</Link>
          </>
        )}
        , {entry.by}
        {entry.reason && <span>: {entry.reason}</span>}
        {told
          .filter((field) => field.before != null)
          .map((field) => (
            <div key={field.name} className={styles.change}>
              {fieldName(field.name)}: {value(field, field.before)} → {value(field, field.after)}
            </div>
          ))}
        {began.length > 0 && (
          <div className={styles.change}>
            {began.map((field) => `${fieldName(field.name)}: ${value(field, field.after)}`).join(", ")}
          </div>
        )}
      </span>
    </li>
  );
}

/** The number of another record, which has no name that could be told. */
const pointsElsewhere = (field: FieldChange): boolean =>
  field.name.endsWith("Id") && /^\d+$/.test(field.after ?? field.before ?? "");

/** A field such as "expectedMinutes" in words. */
const fieldName = (name: string): string =>
  name
    .replace(/(Minor|Id)$/, "")
    .replaceAll(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)
    .trim();

const value = (field: FieldChange, text: string | null | undefined): string => {
  if (text == null) {
    return "nothing";
  }
  if (field.name.endsWith("Minor")) {
    return money(Number(text));
  }
  if (/^\d{4}-\d\d-\d\dT/.test(text)) {
    return moment(text);
  }
  if (/^\d{4}-\d\d-\d\d$/.test(text)) {
    return fullDay(text);
  }
  return text === "true" ? "yes" : text === "false" ? "no" : /^[a-z_]+$/.test(text) ? words(text) : text;
};
