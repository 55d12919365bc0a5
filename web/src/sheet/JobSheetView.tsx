import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { Link } from "react-router";
import { answer, client, withKey } from "../api/client";
import type { Code, JobSheet, Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { BillSection } from "../billing/BillSection";
import { EntryLines } from "../books/EntryLines";
import { Claims } from "../claims/Claims";
import { Owes } from "../customers/Owes";
import { useReopen } from "../field/useReopen";
import { WorkSection } from "../field/WorkSection";
import { day, fullDay, moment, money, timeLeft, weekday, words } from "../format";
import { History } from "../history/History";
import { Act } from "../kit/Act";
import { Asking } from "../kit/Asking";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { Select } from "../kit/Select";
import { Sheet, SheetHead, WaitingSheet } from "../kit/Sheet";
import { useAct } from "../kit/useAct";
import { useSession } from "../people/SessionGate";
import { useMay } from "../people/useMay";
import { PROMISES } from "../quoting/draft";
import { useOpenQuote } from "../quoting/useOpenQuote";
import { OfRound } from "../rounds/OfRound";
import { WorkOrders } from "../workorders/WorkOrders";
import { AtItsEnd } from "./AtItsEnd";
import { CostLadder } from "./CostLadder";
import styles from "./JobSheetView.module.css";

const SECTIONS = ["Promise", "Work", "Cost", "Bill", "Books", "History"];

/** One job from top to bottom: promise, work, cost, bill, books. */
export function JobSheetView({
  id,
  visitId,
  done,
  alone,
}: {
  id: number;
  /** The finished visit that is to be checked; without it the first one. */
  visitId?: number;
  done?: () => void;
  alone?: boolean;
}) {
  const { data: job, error } = useQuery(queries.job(id));
  if (!job) {
    return <WaitingSheet alone={alone} sections={SECTIONS} fault={error?.message} />;
  }
  return (
    <Sheet
      label={`Job ${job.number}`}
      alone={alone}
      record={`job-${job.id}`}
      head={<Head job={job} visitId={visitId} done={done} />}
    >
      <Section name="Promise">
        <PromiseLines job={job} />
      </Section>
      <WorkSection job={job} />
      <Section name="Cost">
        <CostLadder
          cost={job.cost}
          forecast={job.forecast ?? undefined}
          goingOn={job.state === "open"}
          notCharged={job.billing.basis === "not_charged"}
          promised={job.promises.length > 0}
        />
        {job.forecast && <AtItsEnd forecast={job.forecast} />}
        <WorkOrders jobId={job.id} open={job.billing.state === "unbilled" && job.state !== "called_off"} />
        <Claims jobId={job.id} />
      </Section>
      <BillSection job={job} />
      <Section name="Books" aside={entries(job.journal.length)}>
        {job.journal.length === 0 && <span className="soft">Nothing is posted for this job yet.</span>}
        {job.journal.map((entry) => (
          <EntryLines key={entry.id} entry={entry} />
        ))}
      </Section>
      <Section name="History">
        <History kind="job" id={job.id} />
      </Section>
    </Sheet>
  );
}

type OfJob = { job: JobSheet; visitId?: number; done?: () => void };

function Head({ job, visitId, done }: OfJob) {
  const { now } = useSession();
  const mayRecord = useMay("record_work");
  return (
    <SheetHead
      number={`J ${job.number}`}
      title={job.title}
      titled={`J ${job.number} ${job.title}`}
      about={
        <>
          <div>
            <Link to={`/customers/${job.customerId}`}>{job.customer}</Link>, {job.site}, {job.address} ·{" "}
            {job.kindOfJob}
            <Owes debt={job.debt} />
          </div>
          <OfRound jobId={job.id} />
          {job.equipment && (
            <div>
              {job.equipment.name}
              {warranty(job.equipment, now.slice(0, 10))}
            </div>
          )}
        </>
      }
      actions={mayRecord && <HeadActions job={job} visitId={visitId} done={done} />}
    />
  );
}

/** Until when the equipment's warranty bears how much of its parts, or when it ended. */
function warranty(equipment: NonNullable<JobSheet["equipment"]>, today: string): string {
  const { partsWarrantyUntil: until, partsWarrantyPercent: percent } = equipment;
  if (!until || percent === "0") {
    return "";
  }
  return until < today
    ? `, warranty ended ${fullDay(until)}`
    : `, warranty bears ${percent} % of parts until ${fullDay(until)}`;
}

function HeadActions({ job, visitId, done }: OfJob) {
  const finished = job.visits.find(
    ({ id, state }) => state === "finished" && (visitId === undefined || id === visitId),
  );
  const waits = job.visits.filter((visit) => visit.state === "finished").length;
  const reopen = useReopen();
  const check = useAct(
    (visit: Visit) =>
      answer(
        client.POST("/api/visits/{id}/check", {
          params: { path: { id: visit.id } },
          body: { version: visit.version },
        }),
      ),
    {
      done: () => (waits === 1 || visitId !== undefined) && done?.(),
      said: (checked, visit) => ({
        text: `Checked: visit of ${weekday(visit.day ?? "")}, job ${job.number}, ${job.customer}.`,
        undo: { label: "Take the check back", run: () => reopen.run(checked) },
      }),
    },
  );
  const post = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/jobs/{id}/invoice", {
          params: { path: { id: job.id }, ...withKey(key) },
          body: { version: job.version },
        }),
      ),
    {
      done,
      said: job.billing.draft?.expectedNumber
        ? `Posted: invoice ${job.billing.draft.expectedNumber}, job ${job.number}.`
        : `Closed without charge: job ${job.number}.`,
    },
  );
  const openQuote = useOpenQuote();
  const quoteAgain = useAct(
    (_: undefined, key) =>
      answer(client.POST("/api/jobs/{id}/quote", { params: { path: { id: job.id }, ...withKey(key) } })),
    { done: (made) => openQuote(made.id), said: "A new quote, filled in from this job." },
  );
  const callOff = useAct(
    (reason: string) =>
      answer(
        client.POST("/api/jobs/{id}/call-off", {
          params: { path: { id: job.id } },
          body: { version: job.version, reason },
        }),
      ),
    { said: `Called off: job ${job.number}.` },
  );
  const number = job.billing.draft?.expectedNumber;
  const toBill = job.state === "checked" && job.billing.state === "unbilled";
  return (
    <>
      {job.billing.state !== "unbilled" && (
        <Button loading={quoteAgain.running} onClick={() => quoteAgain.run(undefined)}>
          Quote another like it
        </Button>
      )}
      {job.state === "open" &&
        job.visits.every((visit) => ["unplanned", "planned"].includes(visit.state)) && (
          <Asking
            label="Call off…"
            title={`Call off job ${job.number}?`}
            question="Why? The reason stays on the sheet."
            confirm="Call off"
            run={callOff.run}
            running={callOff.running}
          />
        )}
      {finished && (
        <Act by="Enter" running={check.running} run={() => check.run(finished)}>
          {waits > 1 ? `Check visit of ${day(finished.day ?? "")}` : done ? "Check, next" : "Check"}
        </Act>
      )}
      {toBill && (
        <Act
          by="Control+Enter"
          running={post.running}
          disabled={job.billing.draft?.notYet != null}
          run={() => post.run(undefined)}
        >
          {number ? `Post invoice ${number}` : "Close without charge"}
        </Act>
      )}
      {finished && <span className="soft small">can be taken back until it is billed</span>}
      {toBill && <span className="soft small">goes into the books for good</span>}
    </>
  );
}

function PromiseLines({ job }: { job: JobSheet }) {
  return (
    <>
      <Lines
        caption="What was promised"
        columns={[
          { name: "Agreed", silent: true },
          { name: "What", silent: true },
          { name: "Net", silent: true, figure: true },
        ]}
      >
        {job.promises.length === 0 && (
          <tr>
            <td className="together">Without a quote</td>
            <td className="soft">
              charged{" "}
              {job.billing.basis === "promised_on_site" ? "as the customer was told" : "by time and parts"}
            </td>
            <td />
          </tr>
        )}
        {job.promises.map((promise, place) => (
          <PromiseOf
            key={promise.quoteId}
            promise={promise}
            extra={place > 0}
            came={job.receipts.filter(
              (receipt) => receipt.quoteId === promise.quoteId && !receipt.takenBackOn,
            )}
          />
        ))}
      </Lines>
      {job.response && <Responding job={job} />}
      {job.notes && <p className={styles.said}>{job.notes}</p>}
      <JobCodes job={job} />
    </>
  );
}

/** One accepted quote, with its stages and its deposit; a further one is extra work. */
function PromiseOf({
  promise,
  extra,
  came,
}: {
  promise: JobSheet["promises"][number];
  extra: boolean;
  came: JobSheet["receipts"];
}) {
  return (
    <>
      <tr>
        <td className="together">
          {extra && "Extra work, "}
          <Link to={`/quotes/${promise.quoteNumber}`}>
            {extra ? "quote" : "Quote"} {promise.quoteNumber}
          </Link>
          {`, accepted ${weekday(promise.acceptedOn)} by ${promise.acceptedBy}`}
        </td>
        <td className="soft">{promise.summary}</td>
        <td className="figure">
          <span className="soft small">{PROMISES[promise.promise].toLowerCase()}</span>{" "}
          <b>{money(promise.netMinor)}</b>
        </td>
      </tr>
      {promise.lines
        .filter((line) => line.warrantyReductionMinor > 0 || line.warrantyForgoneMinor > 0)
        .map((line) => (
          <tr key={line.position}>
            <td className="soft">{line.description}</td>
            <td className="soft">
              {line.warrantyForgoneMinor > 0
                ? "taken out of warranty, charged as well"
                : `warranty ${line.warrantyPercent} %, taken off already`}
            </td>
            <td className="figure soft">
              {money(line.warrantyForgoneMinor || -line.warrantyReductionMinor)}
            </td>
          </tr>
        ))}
      {promise.stages.map((stage) => (
        <tr key={stage.name}>
          <td className="soft">
            {stage.name}, {stage.part}
          </td>
          <td className="soft">without VAT</td>
          <td className="figure soft">{money(stage.amountMinor)}</td>
        </tr>
      ))}
      {promise.depositAskedMinor > 0 && (
        <tr>
          <td className={came.length === 0 ? "needs" : "soft"}>
            Deposit, {came.length === 0 ? "not here yet" : "received"}
          </td>
          <td className="soft">
            {came.map((receipt) => `${day(receipt.receivedOn)} by ${words(receipt.method)}`).join(", ")}
          </td>
          <td className="figure soft">{money(promise.depositAskedMinor)}</td>
        </tr>
      )}
    </>
  );
}

/** What was wrong and why, for the figures. */
function JobCodes({ job }: { job: JobSheet }) {
  const { data: codes } = useQuery(queries.codes);
  const mayRecord = useMay("record_work");
  const save = useAct(
    (chosen: { faultCode?: string | null; causeCode?: string | null }) =>
      answer(
        client.PUT("/api/jobs/{id}/codes", {
          params: { path: { id: job.id } },
          body: { version: job.version, faultCode: job.faultCode, causeCode: job.causeCode, ...chosen },
        }),
      ),
    { said: `Kept: fault and cause of job ${job.number}.` },
  );
  const options = (list: Code[] | undefined, own: string | null | undefined) =>
    (list ?? [])
      .filter((code) => code.active || code.code === own)
      .map((code) => ({ value: code.code, label: code.name }));
  if (!mayRecord) {
    return null;
  }
  return (
    <div className={styles.codes}>
      <Select
        aria-label="Fault"
        size="small"
        allowClear
        placeholder="fault"
        value={job.faultCode ?? undefined}
        popupMatchSelectWidth={false}
        onChange={(faultCode?: string) => save.run({ faultCode: faultCode ?? null })}
        options={options(codes?.faults, job.faultCode)}
      />
      <Select
        aria-label="Cause"
        size="small"
        allowClear
        placeholder="cause"
        value={job.causeCode ?? undefined}
        popupMatchSelectWidth={false}
        onChange={(causeCode?: string) => save.run({ causeCode: causeCode ?? null })}
        options={options(codes?.causes, job.causeCode)}
      />
    </div>
  );
}

/** By when somebody has to be there, and whether somebody was. */
function Responding({ job }: { job: JobSheet }) {
  const { response } = job;
  if (!response) {
    return null;
  }
  return (
    <div className={response.late ? "needs" : "soft"}>
      {words(response.priority)}: somebody there by {moment(response.by)}
      {response.met
        ? `, was there ${moment(response.met)}${response.late ? `, ${timeLeft(response.minutesLeft)}` : ""}`
        : `, ${timeLeft(response.minutesLeft)}`}
    </div>
  );
}

const entries = (count: number) => (count === 0 ? undefined : count === 1 ? "1 entry" : `${count} entries`);
