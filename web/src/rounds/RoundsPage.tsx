import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useRef, useState } from "react";
import { answer, client } from "../api/client";
import type { DueDate, RoundsOfMonth } from "../api/generated/schema";
import { queries } from "../api/queries";
import { monthName, weekday } from "../format";
import { Act, useActs } from "../kit/Act";
import { Beside, besideStyles } from "../kit/Beside";
import { Heading } from "../kit/Heading";
import { KeyedList, moved, rowId, useKeptInSight, useListSearch } from "../kit/KeyedList";
import { Select } from "../kit/Select";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { useSession } from "../people/SessionGate";
import { useMay } from "../people/useMay";
import { AgreementSheet } from "./AgreementSheet";
import styles from "./Rounds.module.css";
import { standing } from "./words";

const MONTHS_BACK = 3;
const MONTHS_AHEAD = 12;

const keyOf = ({ roundId, dueOn }: DueDate): string => `${roundId}-${dueOn}`;

/** What comes again in a month, late ones first; keys move, Enter opens the job of the day that is on. */
export default function RoundsPage() {
  const [search, set] = useListSearch();
  const { now } = useSession();
  const running = now.slice(0, 7);
  const month = search.get("month") ?? running;
  const { data, error } = useQuery(queries.roundsDue(month));
  const rows = data?.dates ?? [];
  const [at, setAt] = useState<string>();
  const index =
    rows.length === 0
      ? -1
      : Math.max(
          rows.findIndex((row) => keyOf(row) === at),
          0,
        );
  const chosen = rows[index];
  const acts = useActs();
  const keyed = useRef<HTMLDivElement>(null);
  useTitle("Rounds");
  return (
    <Beside acts={acts}>
      <KeyedList
        list={keyed}
        label="Rounds"
        className={besideStyles.list}
        rowsClass={besideStyles.rows}
        role={rows.length > 0 ? "listbox" : "group"}
        on={chosen && keyOf(chosen)}
        move={(by) => {
          const next = rows[moved(index, by, rows.length)];
          setAt(next && keyOf(next));
        }}
        enter={() => acts.run("Enter")}
        head={
          <div className={besideStyles.head}>
            <div className={besideStyles.line}>
              <Heading>Rounds</Heading>
              <Select
                aria-label="Month"
                value={month}
                onChange={(value) => set("month", value === running ? "" : value)}
                style={{ width: 150 }}
                options={monthsAround(running).map((value) => ({ value, label: monthName(value) }))}
              />
            </div>
            {data && (
              <div className={styles.acts}>
                {chosen && <OpenJob key={keyOf(chosen)} date={chosen} />}
                <MakeMonth month={data} />
              </div>
            )}
          </div>
        }
        end={
          <>
            {error && !data && <p className="pad fault">{error.message}</p>}
            {data && rows.length === 0 && (
              <p className="pad soft">
                Nothing is due. What comes again is agreed on the customer’s page, under Rounds.
              </p>
            )}
          </>
        }
      >
        {rows.map((row) => (
          <Row key={keyOf(row)} row={row} on={row === chosen} choose={() => setAt(keyOf(row))} />
        ))}
      </KeyedList>
      {chosen && <AgreementSheet key={chosen.agreementId} id={chosen.agreementId} />}
    </Beside>
  );
}

function monthsAround(running: string): string[] {
  const first = new Date(`${running}-15T12:00:00Z`);
  first.setUTCMonth(first.getUTCMonth() - MONTHS_BACK);
  return Array.from({ length: MONTHS_BACK + MONTHS_AHEAD + 1 }, () => {
    const month = first.toISOString().slice(0, 7);
    first.setUTCMonth(first.getUTCMonth() + 1);
    return month;
  });
}

const opened = (made: number): string =>
  made === 0
    ? "They had their jobs already."
    : `${made === 1 ? "One job waits" : `${made} jobs wait`} for a time.`;

function useMake() {
  return useAct(
    (dates: DueDate[]) =>
      answer(
        client.POST("/api/rounds/make", {
          body: { dates: dates.map(({ roundId, dueOn }) => ({ roundId, dueOn })) },
        }),
      ),
    { said: ({ made }) => ({ text: opened(made) }) },
  );
}

/** All that is due and has no job gets one, in one act. */
function MakeMonth({ month }: { month: RoundsOfMonth }) {
  const mayRecord = useMay("record_work");
  const make = useMake();
  if (month.toMake === 0) {
    return month.dates.length > 0 ? <span className="soft">Everything that is due has its job.</span> : null;
  }
  return mayRecord ? (
    <Button
      loading={make.running}
      onClick={() => make.run(month.dates.filter(({ state }) => state === "due"))}
    >
      {month.toMake === 1 ? "Open the one that is due" : `Open all ${month.toMake} that are due`}
    </Button>
  ) : null;
}

function OpenJob({ date }: { date: DueDate }) {
  const mayRecord = useMay("record_work");
  const make = useMake();
  return mayRecord && date.state === "due" ? (
    <Act by="Enter" running={make.running} run={() => make.run([date])}>
      Open this job
    </Act>
  ) : null;
}

function Row({ row, on, choose }: { row: DueDate; on: boolean; choose: () => void }) {
  const element = useKeptInSight<HTMLDivElement>(on);
  const place = [row.customer, row.site, row.equipment].filter(Boolean).join(" · ");
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list moves with j, k and the arrows for all rows at once
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as the listbox pattern has it
    <div
      ref={element}
      id={rowId(keyOf(row))}
      className={`${besideStyles.row} ${styles.row}`}
      role="option"
      aria-selected={on}
      aria-label={[weekday(row.dueOn), row.title, place, standing(row)].join(", ")}
      onClick={choose}
      data-row={keyOf(row)}
    >
      <span>
        <div className={styles.title}>{row.title}</div>
        <div className={styles.about}>{place}</div>
      </span>
      <span className={styles.when}>
        {weekday(row.dueOn)}
        <div className={row.late ? "needs" : "soft"}>{standing(row)}</div>
      </span>
    </div>
  );
}
