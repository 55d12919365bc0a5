import { Button } from "antd";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { answer, client } from "../api/client";
import type { ToDo } from "../api/generated/schema";
import { moment, weekday } from "../format";
import { useOffer } from "../kit/Act";
import { TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { Section } from "../kit/Section";
import { Sheet, SheetHead } from "../kit/Sheet";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { ToDoForm } from "./ToDoForm";

/** One to-do: what it is about, and what came of it. */
export function ToDoSheet({ toDo, done }: { toDo: ToDo; done: () => void }) {
  const [changing, setChanging] = useState(false);
  const reopen = useAct(
    () =>
      answer(
        client.POST("/api/to-dos/{id}/reopen", {
          params: { path: { id: toDo.id } },
          body: { version: toDo.version },
        }),
      ),
    { said: `Open again: ${toDo.what}.` },
  );
  return (
    <Sheet
      label={toDo.what}
      record={`to-do-${toDo.id}`}
      head={
        <SheetHead
          number="To do"
          title={toDo.what}
          titled="To-dos"
          about={
            <>
              for {toDo.forPerson} ·{" "}
              <span className={toDo.daysLate > 0 ? "needs" : undefined}>by {weekday(toDo.due)}</span>
            </>
          }
          actions={
            toDo.state === "open" ? (
              <Button onClick={() => setChanging(!changing)} aria-expanded={changing}>
                Change
              </Button>
            ) : (
              <Button loading={reopen.running} onClick={() => reopen.run()}>
                Open again
              </Button>
            )
          }
        />
      }
    >
      {changing && (
        <Section name="Change">
          <ToDoForm toDo={toDo} close={() => setChanging(false)} />
        </Section>
      )}
      <Section name="About">
        <About toDo={toDo} />
      </Section>
      <Section name="Outcome">
        {toDo.state === "open" ? (
          <Outcome toDo={toDo} done={done} />
        ) : (
          <>
            {toDo.outcome}{" "}
            <span className="soft small">
              {toDo.state}
              {toDo.closedAt && `, ${moment(toDo.closedAt)}`} by {toDo.closedBy}
            </span>
          </>
        )}
      </Section>
    </Sheet>
  );
}

function About({ toDo }: { toDo: ToDo }) {
  if (!toDo.customerId) {
    return <span className="soft">no record in particular</span>;
  }
  return (
    <>
      <Link to={`/customers/${toDo.customerId}`}>{toDo.customer}</Link>
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
    </>
  );
}

function Outcome({ toDo, done }: { toDo: ToDo; done: () => void }) {
  const form = useForm({ version: toDo.version, draft: { outcome: "" } });
  const place = useRef<HTMLDivElement>(null);
  const reopen = useAct(
    ({ id, version }: { id: number; version: number }) =>
      answer(client.POST("/api/to-dos/{id}/reopen", { params: { path: { id } }, body: { version } })),
    { said: `Open again: ${toDo.what}.` },
  );
  const close = useAct(
    (finished: boolean) =>
      answer(
        client.POST("/api/to-dos/{id}/close", {
          params: { path: { id: toDo.id } },
          body: { version: toDo.version, done: finished, outcome: form.draft.outcome },
        }),
      ),
    {
      refused: form.refused,
      done,
      said: (closed, finished) => ({
        text: `${finished ? "Done" : "Dropped"}: ${toDo.what}.`,
        undo: { label: "Open it again", run: () => reopen.run(closed) },
      }),
    },
  );
  useOffer("Enter", () => place.current?.querySelector("input")?.focus());
  return (
    <div ref={place}>
      <InlineForm
        form={form}
        label="What came of it"
        confirm="Done"
        running={close.running}
        submit={() => close.run(true)}
        extra={<Button onClick={() => close.run(false)}>Drop it</Button>}
      >
        <TextField form={form} name="outcome" label="What came of it?" needed />
      </InlineForm>
    </div>
  );
}
