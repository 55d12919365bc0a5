import { useQuery } from "@tanstack/react-query";
import { Button, Select } from "antd";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, client, type Problem, withKey } from "../api/client";
import type { QuoteSheet } from "../api/generated/schema";
import { queries } from "../api/queries";
import { useAct } from "../api/useAct";
import { OwesOf } from "../customers/Owes";
import { day, money } from "../format";
import { History } from "../history/History";
import { useMay } from "../people/useMay";
import { Asking } from "../records/Asking";
import { Overtaken } from "../records/Overtaken";
import { Section } from "../records/Section";
import { useTyped } from "../records/useTyped";
import { useTitle } from "../useTitle";
import { blank, type Draft, draftOf, PROMISES } from "./draft";
import { OfferSections } from "./OfferSections";
import { QuoteEditor } from "./QuoteEditor";
import { QuoteLinesRead, Totals } from "./QuoteLines";
import { useOpenQuote } from "./useOpenQuote";

/** A quote from draft to job: an editor while it is a draft, frozen afterwards. */
export function QuoteSheetView({ id, done, alone }: { id: number; done?: () => void; alone?: boolean }) {
  const { data: quote, error } = useQuery(queries.quote(id));
  const maySell = useMay("sell");
  if (error && !quote) {
    return (
      <div className="sheet">
        <p className="pad fault">{error.message}</p>
      </div>
    );
  }
  if (!quote) {
    return <div className="sheet" aria-busy="true" />;
  }
  if (quote.state === "draft" && maySell) {
    return <DraftSheet quote={quote} alone={alone} />;
  }
  return (
    <article className={alone ? "sheet alone" : "sheet"} aria-label={`Quote ${quote.number}`}>
      <header className="section head">
        <div className="margin soft">Q {quote.number}</div>
        <div className="titled">
          <Title quote={quote} />
          {maySell && <Answers quote={quote} done={done} />}
        </div>
      </header>
      <Section name="Lines" aside={quote.kindOfJob}>
        <QuoteLinesRead lines={quote.lines} computed={quote.computed} />
      </Section>
      <Section name="Total">
        <Totals totals={quote.computed.totals} />
        <TermsRead quote={quote} />
      </Section>
      {quote.notes && (
        <Section name="Notes">
          <div style={{ whiteSpace: "pre-wrap" }}>{quote.notes}</div>
        </Section>
      )}
      {quote.ownNotes && (
        <Section name="For us">
          <div style={{ whiteSpace: "pre-wrap" }}>{quote.ownNotes}</div>
        </Section>
      )}
      <OfferSections quote={quote} />
      <Section name="History">
        <History kind="quote" id={quote.id} />
      </Section>
    </article>
  );
}

/** What is agreed for the whole, once it can no longer change. */
function TermsRead({ quote }: { quote: QuoteSheet }) {
  const { computed } = quote;
  return (
    <div className="small soft">
      <div>{PROMISES[quote.promise]}</div>
      {quote.discount && <div>{quote.discount} off all, taken off already</div>}
      {computed.depositMinor > 0 && (
        <div>
          a deposit of {money(computed.depositMinor)}
          {quote.deposit.endsWith("%") && ` (${quote.deposit})`} within {quote.depositDueDays} days
        </div>
      )}
      {quote.stages.map((stage, index) => (
        <div key={stage.name}>
          {stage.name}, {stage.part}: {money(computed.stageMinors[index] ?? 0)} net
        </div>
      ))}
    </div>
  );
}

function Title({ quote }: { quote: QuoteSheet }) {
  useTitle(`Q ${quote.number} ${quote.title}`);
  return (
    <div>
      <h1>{quote.title}</h1>
      <div className="small soft">
        <Link to={`/customers/${quote.customerId}`}>{quote.customer}</Link>, {quote.site}
        <OwesOf customerId={quote.customerId} />
      </div>
      <div className="small soft">
        <b>{quote.state}</b>
        {quote.edition > 1 && `, edition ${quote.edition}`}
        {quote.acceptedBy && ` by ${quote.acceptedBy}`}
        {quote.declineReason && `: ${quote.declineReason}`}
        {["sent", "lapsed"].includes(quote.state) && `, valid until ${day(quote.validUntil)}`}
        {quote.equipment && ` · ${quote.equipment}`}
      </div>
    </div>
  );
}

function Answers({ quote, done }: { quote: QuoteSheet; done?: () => void }) {
  const navigate = useNavigate();
  const openQuote = useOpenQuote();
  const path = { params: { path: { id: quote.id } } };
  const { version } = quote;
  const accept = useAct((acceptedBy: string) =>
    answer(client.POST("/api/quotes/{id}/accept", { ...path, body: { version, acceptedBy } })),
  );
  const decline = useAct(
    (reason: string) =>
      answer(client.POST("/api/quotes/{id}/decline", { ...path, body: { version, reason } })),
    { done },
  );
  const takeBack = useAct(() =>
    answer(client.POST("/api/quotes/{id}/take-back", { ...path, body: { version } })),
  );
  const copy = useAct(
    (_: undefined, key) =>
      answer(client.POST("/api/quotes/{id}/copy", { params: { path: { id: quote.id }, ...withKey(key) } })),
    { done: (made) => openQuote(made.id) },
  );
  const makeJob = useAct(
    (_: undefined, key) =>
      answer(client.POST("/api/quotes/{id}/job", { params: { path: { id: quote.id }, ...withKey(key) } })),
    { done: (made) => navigate(`/won/job-${made.id}`) },
  );
  const [extraFor, setExtraFor] = useState<QuoteSheet["runningJobs"][number]>();
  const extendJob = useAct(
    (jobId: number, key) =>
      answer(
        client.POST("/api/quotes/{id}/extra-work", {
          params: { path: { id: quote.id }, ...withKey(key) },
          body: { jobId },
        }),
      ),
    { done: () => navigate(`/jobs/${extraFor?.number}`) },
  );
  return (
    <div className="actions">
      {(quote.state === "sent" || quote.state === "lapsed") && (
        <Button onClick={() => takeBack.run()} loading={takeBack.running}>
          Change it
        </Button>
      )}
      {quote.state === "sent" && (
        <>
          <Asking
            label="Declined…"
            title={`Quote ${quote.number} was declined?`}
            question="Why? It shows later where quotes are lost."
            confirm="Declined"
            run={decline.run}
            running={decline.running}
          />
          <Asking
            label="Accepted…"
            title={`Quote ${quote.number} was accepted?`}
            question="By whom?"
            confirm="Accepted"
            run={accept.run}
            running={accept.running}
          />
        </>
      )}
      {quote.state === "accepted" && !quote.jobNumber && (
        <Button type="primary" data-primary loading={makeJob.running} onClick={() => makeJob.run(undefined)}>
          Make the job <span aria-hidden="true">⏎</span>
        </Button>
      )}
      {quote.runningJobs.length > 0 && (
        <Select
          aria-label="Extra work on a running job"
          placeholder="Or extra work on…"
          popupMatchSelectWidth={false}
          allowClear
          value={extraFor?.id}
          options={quote.runningJobs.map((job) => ({
            value: job.id,
            label: `Job ${job.number}, ${job.title}`,
          }))}
          onChange={(jobId) => setExtraFor(quote.runningJobs.find((job) => job.id === jobId))}
        />
      )}
      {extraFor && (
        <Button loading={extendJob.running} onClick={() => extendJob.run(extraFor.id)}>
          Add it to job {extraFor.number}
        </Button>
      )}
      <Button onClick={() => copy.run(undefined)} loading={copy.running}>
        Copy
      </Button>
      {quote.jobNumber && <Link to={`/jobs/${quote.jobNumber}`}>Job {quote.jobNumber}</Link>}
    </div>
  );
}

function DraftSheet({ quote, alone }: { quote: QuoteSheet; alone?: boolean }) {
  const typed = useTyped<Draft>({ version: quote.version, draft: draftOf(quote) }, `quote ${quote.id}`);
  const [problem, setProblem] = useState<Problem>();
  const path = { params: { path: { id: quote.id } } };
  const body = { ...wire(typed.draft), version: typed.version };
  const saved = () => {
    typed.forget();
    setProblem(undefined);
  };
  const save = useAct(() => answer(client.PUT("/api/quotes/{id}", { ...path, body })), {
    refused: setProblem,
    done: saved,
  });
  const send = useAct(
    () =>
      answer(
        client.POST("/api/quotes/{id}/send", {
          ...path,
          body: { version: typed.version, quote: typed.dirty ? body : null },
        }),
      ),
    { refused: setProblem, done: saved },
  );
  const running = save.running || send.running;
  return (
    <article className={alone ? "sheet alone" : "sheet"} aria-label={`Quote ${quote.number}`}>
      <header className="section head">
        <div className="margin soft">Q {quote.number}</div>
        <div className="titled">
          <Title quote={quote} />
          <div className="actions">
            <a href={`/api/quotes/${quote.id}/pdf`} target="_blank" rel="noreferrer">
              {typed.dirty ? "As last saved, for the customer" : "As the customer reads it"}
            </a>
            <Button onClick={() => save.run()} loading={save.running} disabled={!typed.dirty}>
              Save draft
            </Button>
            <Button type="primary" onClick={() => send.run()} loading={send.running}>
              Send
            </Button>
          </div>
        </div>
        {!running && <Overtaken what="this quote" typed={typed} names={NAMES} show={shown} />}
      </header>
      {quote.costChanges.length > 0 && (
        <div className="notice" role="status">
          <span>
            Since this draft was saved, our cost changed:{" "}
            {quote.costChanges
              .map((change) => `${change.description} ${money(change.before)}, now ${money(change.now)}`)
              .join("; ")}
            . The figures below are today's.
          </span>
          <Button onClick={() => save.run()} loading={save.running}>
            Save at today's cost
          </Button>
        </div>
      )}
      <QuoteEditor
        quoteId={quote.id}
        draft={typed.draft}
        change={typed.change}
        computed={quote.computed}
        problem={problem}
      />
      <OfferSections quote={quote} />
      <Section name="History">
        <History kind="quote" id={quote.id} />
      </Section>
    </article>
  );
}

const NAMES = {
  siteId: "Customer and site",
  site: "Customer and site",
  equipmentId: "Equipment",
  kindOfJobId: "Kind of job",
  title: "What is to be done",
  notes: "Notes",
  ownNotes: "For us",
  depositDueDays: "Deposit due",
};

/** What somebody else typed of a quote, where a word or two say it. */
function shown(value: Draft[keyof Draft], field: keyof Draft): string | undefined {
  return typeof value === "string" && field !== "notes" && field !== "ownNotes"
    ? value === ""
      ? "none"
      : `“${value}”`
    : undefined;
}

/** A quote that has no number yet. */
export function NewQuote({ made }: { made: (id: number) => void }) {
  useTitle("New quote");
  const typed = useTyped<Draft>({ version: 0, draft: blank }, "new quote");
  const [takenUp, setTakenUp] = useState(typed.dirty);
  const [problem, setProblem] = useState<Problem>();
  const create = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/quotes", { params: withKey(key), body: { ...wire(typed.draft), version: 0 } }),
      ),
    {
      refused: setProblem,
      done: (created) => {
        typed.forget();
        made(created.id);
      },
    },
  );
  return (
    <article className="sheet alone" aria-label="New quote">
      <header className="section head">
        <div className="margin soft">new</div>
        <div className="titled">
          <div>
            <h1>New quote</h1>
            {takenUp && typed.dirty && <div className="small soft">taken up where you left it</div>}
          </div>
          <div className="actions">
            {takenUp && typed.dirty && (
              <Button
                onClick={() => {
                  typed.forget();
                  setTakenUp(false);
                }}
              >
                Start afresh
              </Button>
            )}
            <Button type="primary" onClick={() => create.run(undefined)} loading={create.running}>
              Save draft
            </Button>
          </div>
        </div>
      </header>
      <QuoteEditor draft={typed.draft} change={typed.change} problem={problem} />
    </article>
  );
}

const wire = ({ site: _site, equipment: _equipment, ...form }: Draft) => form;
