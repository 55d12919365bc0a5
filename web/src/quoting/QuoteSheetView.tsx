import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { Link, useNavigate } from "react-router";
import { answer, client, withKey } from "../api/client";
import type { QuoteSheet } from "../api/generated/schema";
import { queries } from "../api/queries";
import { OwesOf } from "../customers/Owes";
import { day, money } from "../format";
import { History } from "../history/History";
import { Act } from "../kit/Act";
import { Asking } from "../kit/Asking";
import { Notice } from "../kit/Notice";
import { Overtaken } from "../kit/Overtaken";
import { Section } from "../kit/Section";
import { Select } from "../kit/Select";
import { Sheet, SheetHead, WaitingSheet } from "../kit/Sheet";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { useMay } from "../people/useMay";
import { blank, type Draft, draftOf, PROMISES } from "./draft";
import { OfferSections } from "./OfferSections";
import { QuoteEditor } from "./QuoteEditor";
import { QuoteLinesRead, Totals } from "./QuoteLines";
import styles from "./QuoteSheetView.module.css";
import { useOpenQuote } from "./useOpenQuote";

const SECTIONS = ["Lines", "Total", "Notes", "Customer", "History"];

/** A quote from draft to job: an editor while it is a draft, frozen afterwards. */
export function QuoteSheetView({ id, done, alone }: { id: number; done?: () => void; alone?: boolean }) {
  const { data: quote, error } = useQuery(queries.quote(id));
  const maySell = useMay("sell");
  if (!quote) {
    return <WaitingSheet alone={alone} sections={SECTIONS} fault={error?.message} />;
  }
  if (quote.state === "draft" && maySell) {
    return <DraftSheet quote={quote} alone={alone} />;
  }
  return (
    <Sheet
      label={`Quote ${quote.number}`}
      alone={alone}
      record={`quote-${quote.id}`}
      head={<Head quote={quote} actions={maySell && <Answers quote={quote} done={done} />} />}
    >
      <Section name="Lines" aside={quote.kindOfJob}>
        <QuoteLinesRead lines={quote.lines} computed={quote.computed} />
      </Section>
      <Section name="Total">
        <Totals totals={quote.computed.totals} />
        <TermsRead quote={quote} />
      </Section>
      {quote.notes && (
        <Section name="Notes">
          <div className={styles.notes}>{quote.notes}</div>
        </Section>
      )}
      {quote.ownNotes && (
        <Section name="For us">
          <div className={styles.notes}>{quote.ownNotes}</div>
        </Section>
      )}
      <OfferSections quote={quote} />
      <Section name="History">
        <History kind="quote" id={quote.id} />
      </Section>
    </Sheet>
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

function Head({ quote, actions, notice }: { quote: QuoteSheet; actions: ReactNode; notice?: ReactNode }) {
  return (
    <SheetHead
      number={`Q ${quote.number}`}
      title={quote.title}
      titled={`Q ${quote.number} ${quote.title}`}
      actions={actions}
      notice={notice}
      about={
        <>
          <div>
            <Link to={`/customers/${quote.customerId}`}>{quote.customer}</Link>, {quote.site}
            <OwesOf customerId={quote.customerId} />
          </div>
          <div>
            <b>{quote.state}</b>
            {quote.edition > 1 && `, edition ${quote.edition}`}
            {quote.acceptedBy && ` by ${quote.acceptedBy}`}
            {quote.declineReason && `: ${quote.declineReason}`}
            {["sent", "lapsed"].includes(quote.state) && `, valid until ${day(quote.validUntil)}`}
            {quote.equipment && ` · ${quote.equipment}`}
          </div>
        </>
      }
    />
  );
}

function Answers({ quote, done }: { quote: QuoteSheet; done?: () => void }) {
  const navigate = useNavigate();
  const openQuote = useOpenQuote();
  const path = { params: { path: { id: quote.id } } };
  const { version } = quote;
  const accept = useAct(
    (acceptedBy: string) =>
      answer(client.POST("/api/quotes/{id}/accept", { ...path, body: { version, acceptedBy } })),
    { said: `Accepted: quote ${quote.number}.` },
  );
  const decline = useAct(
    (reason: string) =>
      answer(client.POST("/api/quotes/{id}/decline", { ...path, body: { version, reason } })),
    { done, said: `Declined: quote ${quote.number}.` },
  );
  const takeBack = useAct(
    () => answer(client.POST("/api/quotes/{id}/take-back", { ...path, body: { version } })),
    { said: `Quote ${quote.number} is a draft again.` },
  );
  const copy = useAct(
    (_: undefined, key) =>
      answer(client.POST("/api/quotes/{id}/copy", { params: { path: { id: quote.id }, ...withKey(key) } })),
    { done: (made) => openQuote(made.id), said: `A new quote, copied from ${quote.number}.` },
  );
  const makeJob = useAct(
    (_: undefined, key) =>
      answer(client.POST("/api/quotes/{id}/job", { params: { path: { id: quote.id }, ...withKey(key) } })),
    { done: (made) => navigate(`/won/job-${made.id}`), said: `Quote ${quote.number} is a job now.` },
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
    {
      done: () => navigate(`/jobs/${extraFor?.number}`),
      said: `Quote ${quote.number} is extra work on job ${extraFor?.number}.`,
    },
  );
  return (
    <>
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
        <Act by="Enter" running={makeJob.running} run={() => makeJob.run(undefined)}>
          Make the job
        </Act>
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
    </>
  );
}

function DraftSheet({ quote, alone }: { quote: QuoteSheet; alone?: boolean }) {
  const form = useForm<Draft>({ version: quote.version, draft: draftOf(quote) }, `quote ${quote.id}`);
  const path = { params: { path: { id: quote.id } } };
  const body = { ...wire(form.draft), version: form.version };
  const save = useAct(() => answer(client.PUT("/api/quotes/{id}", { ...path, body })), {
    refused: form.refused,
    done: form.saved,
    said: `Saved: quote ${quote.number}.`,
  });
  const send = useAct(
    () =>
      answer(
        client.POST("/api/quotes/{id}/send", {
          ...path,
          body: { version: form.version, quote: form.dirty ? body : null },
        }),
      ),
    { refused: form.refused, done: form.saved, said: `Sent: quote ${quote.number}.` },
  );
  const running = save.running || send.running;
  return (
    <Sheet
      label={`Quote ${quote.number}`}
      alone={alone}
      record={`quote-${quote.id}`}
      head={
        <Head
          quote={quote}
          actions={
            <>
              <a href={`/api/quotes/${quote.id}/pdf`} target="_blank" rel="noreferrer">
                {form.dirty ? "As last saved, for the customer" : "As the customer reads it"}
              </a>
              <Button onClick={() => save.run()} loading={save.running} disabled={!form.dirty}>
                Save draft
              </Button>
              <Button type="primary" onClick={() => send.run()} loading={send.running}>
                Send
              </Button>
            </>
          }
          notice={!running && <Overtaken what="this quote" typed={form} names={form.labels} show={shown} />}
        />
      }
    >
      {quote.costChanges.length > 0 && (
        <Notice
          action={
            <Button onClick={() => save.run()} loading={save.running}>
              Save at today's cost
            </Button>
          }
        >
          Since this draft was saved, our cost changed:{" "}
          {quote.costChanges
            .map((change) => `${change.description} ${money(change.before)}, now ${money(change.now)}`)
            .join("; ")}
          . The figures below are today's.
        </Notice>
      )}
      <QuoteEditor quoteId={quote.id} form={form} computed={quote.computed} />
      <OfferSections quote={quote} />
      <Section name="History">
        <History kind="quote" id={quote.id} />
      </Section>
    </Sheet>
  );
}

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
  const form = useForm<Draft>({ version: 0, draft: blank }, "new quote");
  const [takenUp, setTakenUp] = useState(form.dirty);
  const create = useAct(
    (_: undefined, key) =>
      answer(client.POST("/api/quotes", { params: withKey(key), body: { ...wire(form.draft), version: 0 } })),
    {
      refused: form.refused,
      done: (created) => {
        form.saved();
        made(created.id);
      },
      said: "The quote is kept as a draft.",
    },
  );
  return (
    <Sheet
      label="New quote"
      alone
      head={
        <SheetHead
          number="new"
          title="New quote"
          about={takenUp && form.dirty && "taken up where you left it"}
          actions={
            <>
              {takenUp && form.dirty && (
                <Button
                  onClick={() => {
                    form.saved();
                    setTakenUp(false);
                  }}
                >
                  Start afresh
                </Button>
              )}
              <Button type="primary" onClick={() => create.run(undefined)} loading={create.running}>
                Save draft
              </Button>
            </>
          }
        />
      }
    >
      <QuoteEditor form={form} />
    </Sheet>
  );
}

const wire = ({ site: _site, equipment: _equipment, ...form }: Draft) => form;
