import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { OwnTimeForm, OwnWeek, WeekDay, WeekEntry } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, hours, moment, time, timeOf, weekday, words } from "../format";
import { Select } from "../kit/Select";
import { useTitle } from "../kit/useTitle";
import { Measured } from "./Measured";
import { plusDays } from "./mondays";
import { isWaiting, type NotedTime } from "./outbox";
import styles from "./PocketWeek.module.css";
import { useTap } from "./useTap";
import { useWaiting } from "./useWaiting";
import { Waiting } from "./Waiting";

/** One's own week: what is written down, put right by hand, and signed off. */
export default function PocketWeek() {
  const { monday = "" } = useParams();
  const { data, error } = useQuery(queries.ownWeek(monday));
  useTitle("My week");
  return (
    <main className="pocket">
      <header className="bar">
        <Link to="/pocket">Today's stops</Link>
        <span>
          <Link to={`/pocket/week/${plusDays(monday, -7)}`}>The week before</Link>
        </span>
      </header>
      <Waiting />
      {error && !data && <p className="body fault">{error.message}</p>}
      {data && <Week key={monday} week={data} />}
    </main>
  );
}

function Week({ week }: { week: OwnWeek }) {
  const { worked, paid, waitingForCheck } = week.hours;
  const sums = [
    ["labour", worked.labour],
    ["other work", worked.otherWork],
    ["drive", worked.drive],
    ["break, not paid", worked.breaks],
    ["overtime in it", worked.overtime],
    ["night in it", worked.night],
    ["waits for the check", waitingForCheck],
  ] as const;
  return (
    <>
      <div className="body">
        <h1>
          {hours(paid)} in the week of {day(week.monday)}
        </h1>
        <dl className={styles.sums}>
          {sums.map(
            ([name, minutes]) =>
              minutes > 0 && (
                <div key={name}>
                  <dt>{name}</dt>
                  <dd>{hours(minutes)}</dd>
                </div>
              ),
          )}
        </dl>
        <SignOff week={week} />
      </div>
      {week.days
        .filter((one) => one.entries.length > 0 || week.mayBackdate)
        .map((one) => (
          <OneDay key={one.day} week={week} day={one} />
        ))}
    </>
  );
}

function SignOff({ week }: { week: OwnWeek }) {
  const sign = useTap({ said: "Signed off. The office sees it." });
  const kept = useWaiting().some(
    (act) => act.step === "sign_week_off" && act.form.monday === week.monday && isWaiting(act),
  );
  const signed = week.signedOff;
  if (kept) {
    return <p className="needs">Signed off on this phone, not sent yet.</p>;
  }
  return (
    <>
      {signed && (
        <p className={signed.changedSince ? "needs" : "soft"}>
          {signed.changedSince
            ? `Signed off ${moment(signed.at)}, and changed since.`
            : `Signed off ${moment(signed.at)}.`}
        </p>
      )}
      {(!signed || signed.changedSince) && (
        <Button
          type="primary"
          className="tall"
          block
          loading={sign.running}
          onClick={() => sign.run({ step: "sign_week_off", form: { monday: week.monday } })}
        >
          {signed ? "Sign it off again" : "Sign this week off"}
        </Button>
      )}
    </>
  );
}

function OneDay({ week, day: of }: { week: OwnWeek; day: WeekDay }) {
  const [editing, setEditing] = useState<number | "new">();
  const close = () => setEditing(undefined);
  const noted = useWaiting()
    .filter((act) => act.step === "note_time" && isWaiting(act))
    .map(({ count, form }) => ({ count, ...(form as NotedTime) }))
    .filter((one) => one.day === of.day);
  return (
    <section className="fact" aria-label={weekday(of.day)} data-day={of.day}>
      <div className="first">
        <h2 className={styles.day}>{weekday(of.day)}</h2>
        <span>{of.paid > 0 && hours(of.paid)}</span>
      </div>
      {of.entries.map((entry) =>
        editing === entry.id ? (
          <TimeForm key={entry.id} week={week} of={of} entry={entry} close={close} />
        ) : (
          <Entry
            key={entry.id}
            entry={entry}
            putRight={noted.find(({ timeEntryId }) => timeEntryId === entry.id)?.time}
            correct={
              entry.to &&
              !entry.checked &&
              (week.mayBackdate || entry.inDoubt) &&
              !noted.some(({ timeEntryId }) => timeEntryId === entry.id)
                ? () => setEditing(entry.id)
                : undefined
            }
          />
        ),
      )}
      {noted
        .filter(({ timeEntryId }) => !timeEntryId)
        .map(({ count, time: { from, to, work } }) => (
          <div key={count} className="needs small">
            added: {from} – {to}
            {work && `, ${work}`}, not sent yet
          </div>
        ))}
      {editing === "new" && <TimeForm week={week} of={of} close={close} />}
      {week.mayBackdate && editing === undefined && (
        <Button type="text" className={styles.add} onClick={() => setEditing("new")}>
          Add a forgotten time
        </Button>
      )}
    </section>
  );
}

function Entry({
  entry,
  putRight,
  correct,
}: {
  entry: WeekEntry;
  /** As it was put right, while that waits on the phone. */
  putRight?: OwnTimeForm;
  correct?: () => void;
}) {
  const span = `${time(entry.from)} – ${entry.to ? timeOf(entry.to, entry.toDaysLater) : "running"}`;
  return (
    <div className={styles.entry}>
      <span>
        {span} <span className="soft">{entryWords(entry)}</span>
        <Measured entry={entry} />
        {putRight && (
          <div className="needs small">
            put right: {putRight.from} – {putRight.to}, not sent yet
          </div>
        )}
        {entry.inDoubt && <div className="needs small">the end was set by the next clock</div>}
        {entry.forgotten && <div className="needs small">still on the clock after your hours</div>}
      </span>
      <span className="figure">{entry.to && hours(entry.minutes)}</span>
      {correct ? (
        <Button className="tall" aria-label={`Correct ${span}`} onClick={correct}>
          Correct
        </Button>
      ) : (
        <span className="soft small">{entry.checked && "checked"}</span>
      )}
    </div>
  );
}

/** What a time was for. */
function entryWords(entry: WeekEntry): string {
  const miles = entry.miles > 0 ? `, ${entry.miles} mi` : "";
  if (entry.visitId) {
    return `${entry.what}, ${words(entry.kind)}${miles}`;
  }
  return entry.kind === "labour" ? entry.what : `${words(entry.kind)}${miles}`;
}

type What = { value: string; label: string; form: Partial<OwnTimeForm> };

/** What somebody may have been at: the visits of the day, and what is on none. */
function whats(week: OwnWeek, of: WeekDay): What[] {
  const visits = new Map(of.entries.flatMap((one) => (one.visitId ? [[one.visitId, one.what]] : [])));
  return [
    ...[...visits].flatMap(([visitId, name]) =>
      (["labour", "drive"] as const).map((kind) => ({
        value: `${kind} ${visitId}`,
        label: `${name}, ${kind}`,
        form: { kind, visitId },
      })),
    ),
    ...week.otherWork.map((work) => ({ value: work, label: work, form: { kind: "labour" as const, work } })),
    { value: "drive", label: "Drive to no visit", form: { kind: "drive" } },
    { value: "break", label: "Break", form: { kind: "break" } },
  ];
}

/** A time put right, or one that nobody clocked, with its reason. */
function TimeForm({
  week,
  of,
  entry,
  close,
}: {
  week: OwnWeek;
  of: WeekDay;
  entry?: WeekEntry;
  close: () => void;
}) {
  const choices = whats(week, of);
  const [what, setWhat] = useState(choices[0]?.value ?? "");
  const [typed, setTyped] = useState({
    from: entry ? time(entry.from) : "",
    to: entry?.to ? timeOf(entry.to, entry.toDaysLater) : "",
    miles: entry && entry.miles > 0 ? String(entry.miles) : "",
    reason: "",
  });
  const [faults, setFaults] = useState<Record<string, string>>({});
  const chosen = choices.find((one) => one.value === what);
  const kind = entry ? entry.kind : chosen?.form.kind;
  const save = useTap({
    done: close,
    refused: (problem) =>
      setFaults(Object.fromEntries(problem.faults.map((one) => [one.pointer.slice(1), one.detail]))),
    said: "Written down, with what the clock said beside it.",
  });
  const write = () => {
    const added = entry ? {} : chosen?.form;
    const form: NotedTime = {
      timeEntryId: entry?.id,
      day: of.day,
      time: { version: entry?.version ?? 0, ...typed, ...added },
    };
    save.run({ step: "note_time", visitId: entry?.visitId ?? added?.visitId ?? undefined, form });
  };
  const field = (name: keyof typeof typed, label: string, placeholder: string) => (
    <label>
      {label}
      <Input
        className="tall"
        placeholder={placeholder}
        value={typed[name]}
        aria-invalid={faults[name] !== undefined}
        onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
      />
      {faults[name] && (
        <span className="fault" role="alert">
          {faults[name]}
        </span>
      )}
    </label>
  );
  return (
    <form
      className="form"
      aria-label={entry ? `Correct ${entryWords(entry)}` : `A forgotten time on ${weekday(of.day)}`}
      onSubmit={(event) => {
        event.preventDefault();
        write();
      }}
    >
      {entry ? (
        <b>{entryWords(entry)}</b>
      ) : (
        <Select
          aria-label="What it was"
          className="tall"
          value={what}
          onChange={setWhat}
          options={choices.map(({ value, label }) => ({ value, label }))}
        />
      )}
      <div className="pair">
        {field("from", "From", "8:10")}
        {field("to", "To", "9:30")}
      </div>
      {kind === "drive" && field("miles", "Miles", "18.4")}
      {field("reason", "Why", "forgot the clock")}
      <div className="pair">
        <Button type="primary" htmlType="submit" loading={save.running}>
          Write it down
        </Button>
        <Button onClick={close}>Leave it</Button>
      </div>
    </form>
  );
}
