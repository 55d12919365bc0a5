import { useInfiniteQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import type { WantedPart } from "../api/generated/schema";
import { PARTS_WANTED_LISTS, queries } from "../api/queries";
import { moment, weekday, words } from "../format";
import { History } from "../history/History";
import { useActs } from "../kit/Act";
import { Beside, besideStyles } from "../kit/Beside";
import { Heading } from "../kit/Heading";
import {
  askedFor,
  KeyedList,
  ListEnd,
  ListFiles,
  ListFilter,
  moved,
  rowId,
  useKeptInSight,
  useListSearch,
} from "../kit/KeyedList";
import { Section } from "../kit/Section";
import { Select } from "../kit/Select";
import { Sheet, SheetHead } from "../kit/Sheet";
import { useTitle } from "../kit/useTitle";
import { useMay } from "../people/useMay";
import { PartActs } from "./PartActs";
import styles from "./PartsWantedPage.module.css";
import { partName, standing } from "./words";

/** What jobs wait for, the oldest first; keys move, Enter does what comes next. */
export default function PartsWantedPage() {
  const [search, set] = useListSearch();
  const state = askedFor(PARTS_WANTED_LISTS, search.get("state"));
  const filter = search.get("filter") ?? "";
  const list = useInfiniteQuery(queries.partsWanted(state, filter));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at, setAt] = useState<number>();
  const position = rows.findIndex((row) => row.id === at);
  const index = rows.length === 0 ? -1 : Math.max(position, 0);
  const chosen = rows[index];
  const acts = useActs();
  const keyed = useRef<HTMLDivElement>(null);
  useTitle("Parts wanted");
  return (
    <Beside acts={acts}>
      <KeyedList
        list={keyed}
        label="Parts wanted"
        className={besideStyles.list}
        rowsClass={besideStyles.rows}
        role={rows.length > 0 ? "listbox" : "group"}
        on={chosen && String(chosen.id)}
        move={(by) => setAt(rows[moved(index, by, rows.length)]?.id)}
        enter={() => acts.run("Enter")}
        head={
          <div className={besideStyles.head}>
            <div className={besideStyles.line}>
              <Heading>Parts wanted</Heading>
              <span>
                <Link to="/stores">In store and vans</Link>{" "}
                <ListFiles path="/api/parts-wanted" search={search} />
              </span>
            </div>
            <div className={besideStyles.tools}>
              <ListFilter value={filter} change={(typed) => set("filter", typed)} />
              <Select
                aria-label="Open or closed"
                value={state}
                onChange={(value) => set("state", value === "open" ? "" : value)}
                style={{ width: 90 }}
                options={PARTS_WANTED_LISTS.map((value) => ({ value, label: value }))}
              />
            </div>
          </div>
        }
        end={
          <ListEnd
            list={list}
            none={
              list.data && rows.length === 0
                ? filter
                  ? "Nothing matches. Clear the filter to see all."
                  : state === "open"
                    ? "No job waits for a part. A technician notes one on the phone, you on the job’s sheet."
                    : "Nothing was fitted or dropped yet."
                : undefined
            }
          />
        }
      >
        {rows.map((row, each) => (
          <Row key={row.id} row={row} on={each === index} choose={() => setAt(row.id)} />
        ))}
      </KeyedList>
      {chosen && <PartSheet key={chosen.id} part={chosen} />}
    </Beside>
  );
}

/** What is to be known of a row at a glance: how late or how old it is, or when it comes. */
function age(row: WantedPart): string {
  if (row.state === "ordered" && row.expectedOn) {
    return `by ${weekday(row.expectedOn)}`;
  }
  return row.days === 0 ? "today" : `${row.days} d`;
}

function Row({ row, on, choose }: { row: WantedPart; on: boolean; choose: () => void }) {
  const element = useKeptInSight<HTMLDivElement>(on);
  const about = [words(row.state), row.customer, row.site];
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list moves with j, k and the arrows for all rows at once
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as the listbox pattern has it
    <div
      ref={element}
      id={rowId(String(row.id))}
      className={`${besideStyles.row} ${styles.row}`}
      role="option"
      aria-selected={on}
      aria-label={[partName(row), ...about, row.urgent && "urgent", row.late && "late", age(row)]
        .filter(Boolean)
        .join(", ")}
      onClick={choose}
      data-row={`part-wanted-${row.id}`}
    >
      <span>
        <div className={styles.part}>{partName(row)}</div>
        <div className={styles.about}>
          {row.urgent && <span className="needs">urgent · </span>}
          {about.join(" · ")}
        </div>
      </span>
      <span className={row.late ? `${styles.age} needs` : styles.age}>
        {age(row)}
        {row.late && " late"}
      </span>
    </div>
  );
}

function PartSheet({ part }: { part: WantedPart }) {
  const mayPlan = useMay("record_work");
  return (
    <Sheet
      label={partName(part)}
      record={`part-wanted-${part.id}`}
      head={
        <SheetHead
          number="Part wanted"
          title={partName(part)}
          titled="Parts wanted"
          about={<span className={part.late ? "needs" : undefined}>{standing(part)}</span>}
        />
      }
    >
      {mayPlan && (
        <Section name="Next">
          <div className={styles.acts}>
            <PartActs part={part} keyed />
            {part.state === "arrived" && part.nextVisitId && <Link to="/planner">Plan its visit</Link>}
          </div>
        </Section>
      )}
      <Section name="For">
        <div>
          <Link to={`/customers/${part.customerId}`}>{part.customer}</Link>, {part.site} ·{" "}
          <Link to={`/jobs/${part.jobNumber}`}>
            Job {part.jobNumber}, {part.title}
          </Link>
        </div>
        {part.equipment && <div>{part.equipment}</div>}
      </Section>
      <Section name="Asked for">
        {part.part && part.words && <div>“{part.words}”</div>}
        {part.urgent && <span className="needs">urgent, </span>}
        {part.wantedBy}, {moment(part.wantedAt)}
      </Section>
      <Section name="History">
        <History kind="part_wanted" id={part.id} />
      </Section>
    </Sheet>
  );
}
