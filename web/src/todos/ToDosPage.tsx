import { useInfiniteQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useRef, useState } from "react";
import type { ToDo } from "../api/generated/schema";
import { queries, TO_DO_LISTS, WHOSE } from "../api/queries";
import { weekday } from "../format";
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
import { ToDoForm } from "./ToDoForm";
import { ToDoSheet } from "./ToDoSheet";
import styles from "./ToDosPage.module.css";

/** What is to be done, one's own or everybody's, overdue first; keys move, Enter goes to what came of it. */
export default function ToDosPage() {
  const [search, set] = useListSearch();
  const whose = askedFor(WHOSE, search.get("whose"));
  const state = askedFor(TO_DO_LISTS, search.get("state"));
  const filter = search.get("filter") ?? "";
  const list = useInfiniteQuery(queries.toDos(whose, state, filter));
  const rows = list.data?.pages.flatMap((page) => page.rows) ?? [];
  const [at, setAt] = useState(0);
  const [adding, setAdding] = useState(false);
  const asked = Number(search.get("at"));
  const index = Math.min(
    asked
      ? Math.max(
          rows.findIndex((row) => row.id === asked),
          0,
        )
      : at,
    rows.length - 1,
  );
  const chosen = rows[index];
  const acts = useActs();
  const keyed = useRef<HTMLDivElement>(null);
  useTitle("To-dos");

  const choose = (to: number) => {
    if (asked) {
      set("at", "");
    }
    setAdding(false);
    setAt(to);
  };

  return (
    <Beside acts={acts}>
      <KeyedList
        list={keyed}
        label="To-dos"
        className={besideStyles.list}
        rowsClass={besideStyles.rows}
        role={rows.length > 0 ? "listbox" : "group"}
        on={chosen && String(chosen.id)}
        move={(by) => choose(moved(index, by, rows.length))}
        enter={() => acts.run("Enter")}
        head={
          <div className={besideStyles.head}>
            <div className={besideStyles.line}>
              <Heading>To-dos</Heading>
              <Button size="small" onClick={() => setAdding(true)}>
                New to-do
              </Button>
              <ListFiles path="/api/to-dos" search={search} />
            </div>
            <Tools filter={filter} whose={whose} state={state} set={set} />
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
                    ? "Nothing is to be done. Note something with “New to-do” above."
                    : "Nothing was closed yet."
                : undefined
            }
          />
        }
      >
        {rows.map((row, position) => (
          <Row key={row.id} row={row} on={position === index} choose={() => choose(position)} />
        ))}
      </KeyedList>
      {adding ? (
        <Sheet label="New to-do" head={<SheetHead title="New to-do" titled="To-dos" />}>
          <Section name="What">
            <ToDoForm close={() => setAdding(false)} />
          </Section>
        </Sheet>
      ) : (
        chosen && (
          <ToDoSheet
            key={`${chosen.id} ${chosen.state}`}
            toDo={chosen}
            done={() => keyed.current?.focus({ preventScroll: true })}
          />
        )
      )}
    </Beside>
  );
}

function Tools({
  filter,
  whose,
  state,
  set,
}: {
  filter: string;
  whose: string;
  state: string;
  set: (name: string, value: string) => void;
}) {
  return (
    <div className={besideStyles.tools}>
      <ListFilter value={filter} change={(typed) => set("filter", typed)} />
      <Select
        aria-label="Whose"
        value={whose}
        onChange={(value) => set("whose", value === "mine" ? "" : value)}
        style={{ width: 118 }}
        options={[
          { value: "mine", label: "mine" },
          { value: "all", label: "everybody's" },
        ]}
      />
      <Select
        aria-label="Open or closed"
        value={state}
        onChange={(value) => set("state", value === "open" ? "" : value)}
        style={{ width: 90 }}
        options={["open", "closed"].map((value) => ({ value, label: value }))}
      />
    </div>
  );
}

function Row({ row, on, choose }: { row: ToDo; on: boolean; choose: () => void }) {
  const element = useKeptInSight<HTMLDivElement>(on);
  const about = [row.customer, row.forPerson].filter(Boolean);
  const late = row.state === "open" && row.daysLate > 0;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list moves with j, k and the arrows for all rows at once
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as the listbox pattern has it
    <div
      ref={element}
      id={rowId(String(row.id))}
      className={`${besideStyles.row} ${styles.row}`}
      role="option"
      aria-selected={on}
      aria-label={[
        row.what,
        ...about,
        late ? `${row.daysLate} days late` : row.state === "open" ? `due ${weekday(row.due)}` : row.state,
      ].join(", ")}
      onClick={choose}
      data-row={`to-do-${row.id}`}
    >
      <span>
        <div className={styles.what}>{row.what}</div>
        <div className={styles.about}>{about.join(" · ")}</div>
      </span>
      <span className={late ? `${styles.due} needs` : styles.due}>
        {late ? `${row.daysLate} d late` : row.state === "open" ? weekday(row.due) : row.state}
      </span>
    </div>
  );
}
