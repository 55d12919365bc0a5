import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useEffect, useRef, useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { CheckDesk, VisitToCheck } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, hours, money } from "../format";
import { useActs } from "../kit/Act";
import { Beside, besideStyles } from "../kit/Beside";
import { Heading } from "../kit/Heading";
import { askedFor, KeyedList, moved, rowId, useKeptInSight, useListSearch } from "../kit/KeyedList";
import { Select } from "../kit/Select";
import { WaitingSheet } from "../kit/Sheet";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { useMay } from "../people/useMay";
import { JobSheetView } from "../sheet/JobSheetView";
import styles from "./CheckDeskPage.module.css";

const SHOWN = ["all", "odd", "plain"] as const;

/**
 * What the technicians say is finished, with what is odd about it in words, beside the sheet of the visit that is on.
 * Enter checks it; all with nothing odd about them are checked in one act.
 */
export default function CheckDeskPage() {
  const [search, set] = useListSearch();
  const asked = {
    from: search.get("from") ?? "",
    to: search.get("to") ?? "",
    technicianId: Number(search.get("technician")) || undefined,
    kindOfJobId: Number(search.get("kind")) || undefined,
    district: search.get("district") ?? "",
    costCentre: search.get("centre") ?? "",
  };
  const shown = askedFor(SHOWN, search.get("show"));
  const { data, error } = useQuery(queries.checkDesk(asked));
  const rows = (data?.visits ?? []).filter(
    ({ odd }) => shown === "all" || (shown === "odd") === odd.length > 0,
  );
  const [at, setAt] = useState<number>();
  // Where the chosen visit stood: when it has left the list, the one that took its place is next.
  const stood = useRef(0);
  const found = rows.findIndex((row) => row.visitId === at);
  const index = rows.length === 0 ? -1 : found >= 0 ? found : Math.min(stood.current, rows.length - 1);
  const chosen = rows[index];
  useEffect(() => {
    if (index >= 0) {
      stood.current = index;
    }
  }, [index]);
  const acts = useActs();
  const keyed = useRef<HTMLDivElement>(null);
  useTitle("Check desk");
  return (
    <Beside acts={acts}>
      <KeyedList
        list={keyed}
        label="Finished visits"
        className={besideStyles.list}
        rowsClass={besideStyles.rows}
        role={rows.length > 0 ? "listbox" : "group"}
        on={chosen && String(chosen.visitId)}
        move={(by) => setAt(rows[moved(index, by, rows.length)]?.visitId)}
        enter={() => acts.run("Enter")}
        head={
          <div className={besideStyles.head}>
            <div className={besideStyles.line}>
              <Heading>{data ? title(data) : "Finished visits"}</Heading>
            </div>
            <Which desk={data} search={search} set={set} />
            {data && <CheckPlain desk={data} />}
          </div>
        }
        end={error && <p className="pad fault">{error.message}</p>}
      >
        {rows.map((row) => (
          <Row key={row.visitId} visit={row} on={row === chosen} choose={() => setAt(row.visitId)} />
        ))}
      </KeyedList>
      {chosen ? (
        <JobSheetView
          key={chosen.jobId}
          id={chosen.jobId}
          visitId={chosen.visitId}
          done={() => {
            setAt(undefined);
            keyed.current?.focus({ preventScroll: true });
          }}
        />
      ) : (
        data === undefined && <WaitingSheet />
      )}
    </Beside>
  );
}

const counted = (count: number) => (count === 1 ? "one visit" : `${count} visits`);

function title({ visits, plain }: CheckDesk): string {
  if (visits.length === 0) {
    return "Everything that was finished is checked";
  }
  const odd = visits.length - plain;
  return `${counted(visits.length)} to check${odd > 0 ? `, ${odd} odd` : ""}`;
}

/** Which visits: their days as people type them, whose, of what kind and where. */
function Which({
  desk,
  search,
  set,
}: {
  desk: CheckDesk | undefined;
  search: URLSearchParams;
  set: (name: string, value: string) => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  const chosen = (name: string) => Number(search.get(name)) || 0;
  return (
    <>
      <div className={besideStyles.tools}>
        <Typed
          label="First day"
          value={search.get("from") ?? ""}
          placeholder={desk ? `from ${day(desk.from)}` : "from"}
          set={(typed) => set("from", typed)}
        />
        <Typed
          label="Last day"
          value={search.get("to") ?? ""}
          placeholder="to today"
          set={(typed) => set("to", typed)}
        />
        <Typed
          label="Postcode district"
          value={search.get("district") ?? ""}
          placeholder="district"
          set={(typed) => set("district", typed)}
        />
        <Choice
          label="Which of them"
          value={askedFor(SHOWN, search.get("show"))}
          set={(value) => set("show", value === "all" ? "" : value)}
          options={[
            { value: "all", label: "all" },
            { value: "odd", label: "odd ones" },
            { value: "plain", label: "not odd" },
          ]}
        />
      </div>
      <div className={besideStyles.tools}>
        <Choice
          label="Whose visits"
          value={chosen("technician")}
          set={(value) => set("technician", value === 0 ? "" : String(value))}
          options={[{ value: 0, label: "everybody" }, ...named(choices?.technicians)]}
        />
        <Choice
          label="Kind of job"
          value={chosen("kind")}
          set={(value) => set("kind", value === 0 ? "" : String(value))}
          options={[{ value: 0, label: "every kind" }, ...named(choices?.kindsOfJob)]}
        />
        <Choice
          label="Cost centre"
          value={search.get("centre") ?? ""}
          set={(value) => set("centre", value)}
          options={[
            { value: "", label: "all centres" },
            ...(desk?.costCentres ?? []).map(({ code, name }) => ({ value: code, label: name })),
          ]}
        />
      </div>
    </>
  );
}

const named = (list: { id: number; name: string }[] | undefined) =>
  (list ?? []).map(({ id, name }) => ({ value: id, label: name }));

function Choice<T extends string | number>({
  label,
  value,
  set,
  options,
}: {
  label: string;
  value: T;
  set: (value: T) => void;
  options: { value: T; label: string }[];
}) {
  return (
    <Select
      aria-label={label}
      className={styles.choice}
      value={value}
      onChange={set}
      popupMatchSelectWidth={false}
      options={options}
    />
  );
}

/** Asked for once it is typed, and not at every letter of it. */
function Typed({
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
  const ask = () => typed.trim() !== value && set(typed.trim());
  return (
    <Input
      aria-label={label}
      className={styles.typed}
      placeholder={placeholder}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={ask}
      onPressEnter={ask}
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
    <div className={besideStyles.line} data-section="plain">
      <span className="small">
        Nothing odd: {counted(desk.plain)} with {hours(desk.plainLabourMinutes)} of labour,{" "}
        {money(desk.plainCostMinor)} of cost
      </span>
      <Button size="small" type="primary" loading={check.running} onClick={() => check.run(plain)}>
        {plain.length === 1 ? "Check this one" : `Check these ${plain.length}`}
      </Button>
    </div>
  );
}

/** So many are checked together. */
const MOST_AT_ONCE = 100;

function Row({ visit, on, choose }: { visit: VisitToCheck; on: boolean; choose: () => void }) {
  const element = useKeptInSight<HTMLDivElement>(on);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list moves with j, k and the arrows for all rows at once
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as the listbox pattern has it
    <div
      ref={element}
      id={rowId(String(visit.visitId))}
      className={`${besideStyles.row} ${styles.row}`}
      role="option"
      aria-selected={on}
      onClick={choose}
      data-visit={visit.visitId}
    >
      <span className="soft small">
        <div>{day(visit.day)}</div>
        <div>{visit.start?.slice(0, 5)}</div>
      </span>
      <span>
        <div className={styles.who}>{visit.customer}</div>
        <div className={styles.what}>
          {visit.technician} · J {visit.jobNumber} {visit.title}
        </div>
        {visit.odd.map(({ oddity, words }) => (
          <div key={oddity} className="needs small">
            {words}
          </div>
        ))}
      </span>
      <span className="figure">
        <div>{money(visit.costMinor)}</div>
        <div className="soft small">{worked(visit)}</div>
      </span>
    </div>
  );
}

/** What was recorded on it: time worked and driven, and lines of parts. */
function worked({ labourMinutes, driveMinutes, parts }: VisitToCheck): string {
  const time = [labourMinutes, driveMinutes].filter((minutes) => minutes > 0).map(hours);
  const used = parts === 0 ? "" : parts === 1 ? ", 1 part" : `, ${parts} parts`;
  return (time.join(" + ") || "no time") + used;
}
