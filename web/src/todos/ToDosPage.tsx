import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, type Problem, withKey } from "../api/client";
import type { ToDo } from "../api/generated/schema";
import { queries, TO_DO_LISTS, WHOSE } from "../api/queries";
import { useAct } from "../api/useAct";
import { day, moment, weekday } from "../format";
import { History } from "../history/History";
import { askedFor, KeyedList, ListEnd, ListFiles, rowId, useKeptInSight, useListSearch } from "../lists/list";
import { useSession } from "../people/SessionGate";
import { Overtaken } from "../records/Overtaken";
import { useTyped } from "../records/useTyped";
import { useTitle } from "../useTitle";

/** What is to be done, one's own or everybody's, overdue first; j, k and the arrows move, Enter closes one. */
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
  useTitle("To-dos");

  const move = (to: number) => {
    if (asked) {
      set("at", "");
    }
    setAt(Math.min(Math.max(to, 0), rows.length - 1));
  };

  return (
    <div className="beside">
      <section className="list" aria-label="To-dos">
        <div className="list-head">
          <div className="line">
            <h2>To-dos</h2>
            <Button size="small" onClick={() => setAdding(true)}>
              New <kbd>N</kbd>
            </Button>
            <ListFiles path="/api/to-dos" search={search} />
          </div>
          <div className="list-tools">
            <Input
              placeholder="Filter"
              aria-label="Filter the list"
              value={filter}
              allowClear
              onChange={(event) => set("filter", event.target.value)}
            />
            <Select
              aria-label="Whose"
              value={whose}
              onChange={(value) => set("whose", value === "mine" ? "" : value)}
              options={[
                { value: "mine", label: "mine" },
                { value: "all", label: "everybody's" },
              ]}
            />
            <Select
              aria-label="Open or closed"
              value={state}
              onChange={(value) => set("state", value === "open" ? "" : value)}
              options={["open", "closed"].map((value) => ({ value, label: value }))}
            />
          </div>
        </div>
        <div className="rows">
          <KeyedList
            label="To-dos"
            role={rows.length > 0 ? "listbox" : "group"}
            on={chosen && String(chosen.id)}
            move={(by) => move(index + by)}
            keys={{
              n: () => setAdding(true),
              Enter: () => document.querySelector<HTMLInputElement>("[data-outcome]")?.focus(),
            }}
          >
            {rows.map((row, position) => (
              <Row key={row.id} row={row} on={position === index} choose={() => move(position)} />
            ))}
          </KeyedList>
          <ListEnd
            list={list}
            none={
              list.data && rows.length === 0
                ? filter
                  ? "Nothing matches. Clear the filter to see all."
                  : state === "open"
                    ? "Nothing is to be done. Press N to note something."
                    : "Nothing was closed yet."
                : undefined
            }
          />
        </div>
      </section>
      <div className="sheet">
        {adding ? (
          <ToDoForm close={() => setAdding(false)} />
        ) : (
          chosen && <Chosen key={`${chosen.id} ${chosen.state}`} toDo={chosen} />
        )}
      </div>
    </div>
  );
}

function Row({ row, on, choose }: { row: ToDo; on: boolean; choose: () => void }) {
  const element = useKeptInSight<HTMLDivElement>(on);
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list moves with j, k and the arrows for all rows at once
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as the listbox pattern has it
    <div
      ref={element}
      id={rowId(String(row.id))}
      className={on ? "row to-do on" : "row to-do"}
      role="option"
      aria-selected={on}
      onClick={choose}
      data-row={`to-do-${row.id}`}
    >
      <span style={{ minWidth: 0 }}>
        <div className="who">{row.what}</div>
        <div className="what">{[row.customer, row.forPerson].filter(Boolean).join(" · ")}</div>
      </span>
      <span className="figure">
        <div className={row.daysLate > 0 ? "when needs" : "when"}>
          {row.state === "open"
            ? row.daysLate > 0
              ? `${row.daysLate} d late`
              : weekday(row.due)
            : row.state}
        </div>
      </span>
    </div>
  );
}

function Chosen({ toDo }: { toDo: ToDo }) {
  const [changing, setChanging] = useState(false);
  const [outcome, setOutcome] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const close = useAct(
    (done: boolean) =>
      answer(
        client.POST("/api/to-dos/{id}/close", {
          params: { path: { id: toDo.id } },
          body: { version: toDo.version, done, outcome },
        }),
      ),
    { refused: setProblem },
  );
  const reopen = useAct(() =>
    answer(
      client.POST("/api/to-dos/{id}/reopen", {
        params: { path: { id: toDo.id } },
        body: { version: toDo.version },
      }),
    ),
  );
  if (changing) {
    return <ToDoForm toDo={toDo} close={() => setChanging(false)} />;
  }
  return (
    <article aria-label={toDo.what}>
      <header className="section head">
        <div className="margin soft">To do</div>
        <div className="titled">
          <div>
            <h1>{toDo.what}</h1>
            <div className="small soft">
              for {toDo.forPerson} ·{" "}
              <span className={toDo.daysLate > 0 ? "needs" : undefined}>by {weekday(toDo.due)}</span>
            </div>
          </div>
          {toDo.state === "open" ? (
            <Button onClick={() => setChanging(true)}>Change</Button>
          ) : (
            <Button loading={reopen.running} onClick={() => reopen.run()}>
              Open again
            </Button>
          )}
        </div>
      </header>
      <section className="section" aria-label="About">
        <div className="margin">
          <h2>About</h2>
        </div>
        <div>
          {toDo.customerId && <Link to={`/customers/${toDo.customerId}`}>{toDo.customer}</Link>}
          {toDo.jobId && (
            <>
              , <Link to={`/jobs/${toDo.jobNumber}`}>Job {toDo.jobNumber}</Link>
            </>
          )}
          {toDo.quoteId && (
            <>
              , <Link to={`/quotes/${toDo.quoteNumber}`}>Quote {toDo.quoteNumber}</Link>
            </>
          )}
          {!toDo.customerId && <span className="soft">no record in particular</span>}
        </div>
      </section>
      <section className="section" aria-label="Outcome">
        <div className="margin">
          <h2>Outcome</h2>
        </div>
        {toDo.state === "open" ? (
          <form
            className="slip-form"
            onSubmit={(event) => {
              event.preventDefault();
              close.run(true);
            }}
          >
            <label className="field">
              What came of it?
              <Input
                data-outcome
                value={outcome}
                maxLength={500}
                onChange={(event) => setOutcome(event.target.value)}
              />
            </label>
            {problem?.at("/outcome") && (
              <p className="fault" role="alert">
                {problem.at("/outcome")}
              </p>
            )}
            <div className="actions">
              <Button type="primary" htmlType="submit" loading={close.running}>
                Done <span aria-hidden="true">⏎</span>
              </Button>
              <Button onClick={() => close.run(false)}>Drop it</Button>
            </div>
          </form>
        ) : (
          <div>
            {toDo.outcome}{" "}
            <span className="soft small">
              {toDo.state}
              {toDo.closedAt && `, ${moment(toDo.closedAt)}`} by {toDo.closedBy}
            </span>
          </div>
        )}
      </section>
    </article>
  );
}

/** What, for whom and by when. */
export function ToDoForm({
  toDo,
  about,
  close,
}: {
  toDo?: ToDo;
  about?: { jobId?: number; quoteId?: number; customerId?: number };
  close: () => void;
}) {
  const { person } = useSession();
  const { data: choices } = useQuery(queries.choices);
  const typed = useTyped({
    version: toDo?.version ?? 0,
    draft: {
      what: toDo?.what ?? "",
      forPersonId: toDo?.forPersonId ?? person.id,
      due: toDo ? day(toDo.due) : "",
    },
  });
  const { what, forPersonId, due } = typed.draft;
  const change = (changed: Partial<typeof typed.draft>) => typed.change({ ...typed.draft, ...changed });
  const [problem, setProblem] = useState<Problem>();
  const body = { version: typed.version, ...typed.draft, ...about };
  const save = useAct(
    (_: undefined, key) =>
      toDo
        ? answer(client.PUT("/api/to-dos/{id}", { params: { path: { id: toDo.id } }, body }))
        : answer(client.POST("/api/to-dos", { params: withKey(key), body })),
    { done: close, refused: setProblem },
  );
  const fault = (pointer: string) =>
    problem?.at(pointer) && (
      <p className="fault" role="alert">
        {problem.at(pointer)}
      </p>
    );
  return (
    <form
      className="slip-form pad"
      aria-label={toDo ? "Change the to-do" : "New to-do"}
      onKeyDown={(event) => event.key === "Escape" && close()}
      onSubmit={(event) => {
        event.preventDefault();
        save.run(undefined);
      }}
    >
      {!save.running && (
        <Overtaken
          what="this to-do"
          typed={typed}
          names={{ forPersonId: "For", due: "By" }}
          show={(value, field) =>
            field === "forPersonId"
              ? choices?.officePeople.find((one) => one.id === value)?.name
              : `“${value}”`
          }
        />
      )}
      <label className="field">
        What is to be done?
        <Input
          autoFocus
          value={what}
          maxLength={300}
          onChange={(event) => change({ what: event.target.value })}
        />
      </label>
      {fault("/what")}
      <div className="field">
        <span>For</span>
        <Select
          aria-label="For whom"
          value={forPersonId}
          onChange={(chosen) => change({ forPersonId: chosen })}
          options={(choices?.officePeople ?? []).map((one) => ({ value: one.id, label: one.name }))}
        />
      </div>
      {fault("/forPersonId")}
      <label className="field">
        By
        <Input
          value={due}
          placeholder="today, fri, 3 dec"
          onChange={(event) => change({ due: event.target.value })}
        />
      </label>
      {fault("/due")}
      <div className="actions">
        <Button type="primary" htmlType="submit" loading={save.running}>
          Save <span aria-hidden="true">⏎</span>
        </Button>
        <Button onClick={close}>Leave</Button>
      </div>
      {toDo && <History kind="to_do" id={toDo.id} />}
    </form>
  );
}
