import { Button, Input, Select } from "antd";
import { useState } from "react";
import { answer, client, type Problem, withKey } from "../api/client";
import type {
  ChargedLine,
  ChargedVat,
  Invoice,
  JobSheet,
  ReceiptForm as Received,
} from "../api/generated/schema";
import { useAct } from "../api/useAct";
import { AccountLines } from "../books/EntryLines";
import { day, money, percent, words } from "../format";
import { useSession } from "../people/SessionGate";
import { Asking } from "../records/Asking";
import { Section } from "../records/Section";

type Basis = JobSheet["billing"]["basis"];

const BASES: Record<Basis, string> = {
  fixed_price: "Fixed price",
  time_and_parts: "Time and parts",
  not_charged: "Not charged",
};

/** What the customer pays: the basis, the invoice as it will read beside the entry as it will post, then the money. */
export function BillSection({ job }: { job: JobSheet }) {
  const { billing } = job;
  if (billing.invoice) {
    return <PostedInvoice job={job} invoice={billing.invoice} />;
  }
  if (!billing.draft) {
    return (
      <Section name="Bill">
        <span className="soft">
          {billing.state === "settled"
            ? `Not charged: ${billing.notChargedReason}`
            : "This job was called off; nothing is billed."}
        </span>
      </Section>
    );
  }
  if (job.state === "open") {
    return (
      <Section name="Bill">
        <span className="soft">
          {money(billing.fixedPrice.netMinor)} at the fixed price
          {job.cost.begun && `, ${money(billing.timeAndParts.netMinor)} by time and parts so far`}. What will
          be billed and posted stands here once the work is finished.
        </span>
      </Section>
    );
  }
  const { draft } = billing;
  return (
    <Section name="Bill">
      <BasisChoice job={job} />
      <div className="two">
        <InvoiceLines
          head="Invoice, as it will read"
          lines={draft.lines}
          vat={draft.vat}
          net={draft.netMinor}
          gross={draft.grossMinor}
        />
        <div data-section="draft-entry">
          <AccountLines
            head="Books, as it will post"
            lines={draft.entry}
            debit={draft.entryDebitMinor}
            credit={draft.entryCreditMinor}
          />
        </div>
      </div>
      {draft.depositMinor > 0 && (
        <p className="small">
          The deposit of {money(draft.depositMinor)} comes off at once: {money(draft.toPayMinor)} is left to
          pay.
        </p>
      )}
      {draft.notYet && <p className="small soft">{draft.notYet}</p>}
    </Section>
  );
}

function BasisChoice({ job }: { job: JobSheet }) {
  const { billing } = job;
  const { person } = useSession();
  const choose = useAct((choice: { basis: Basis; reason?: string }) =>
    answer(
      client.PUT("/api/jobs/{id}/basis", {
        params: { path: { id: job.id } },
        body: { version: job.version, ...choice },
      }),
    ),
  );
  const totals = [
    { basis: "fixed_price", total: billing.fixedPrice },
    { basis: "time_and_parts", total: billing.timeAndParts },
  ] as const;
  return (
    <fieldset className="basis" disabled={person.role === "bookkeeper"}>
      <legend className="visually-hidden">How the job is charged, net</legend>
      {totals.map(({ basis, total }) => (
        <label key={basis} className={billing.basis === basis ? "on" : undefined} data-basis={basis}>
          <input
            type="radio"
            name={`basis-${job.id}`}
            checked={billing.basis === basis}
            // Really disabled, the choice would lose the focus, and the next key would go nowhere.
            aria-disabled={choose.running || undefined}
            onChange={() => choose.run({ basis })}
          />
          {BASES[basis]} <span>{money(total.netMinor)}</span>
          <span className={total.marginMinor < 0 ? "small needs" : "small soft"}>
            margin {percent(total.marginPercent)}
          </span>
        </label>
      ))}
      <span className={billing.basis === "not_charged" ? "free on" : "free"}>
        {billing.basis === "not_charged" ? (
          <span title={billing.notChargedReason ?? ""}>Not charged: {billing.notChargedReason}</span>
        ) : (
          <Asking
            plain
            label="Not charged…"
            title="Do not charge this job?"
            question="Why? Its cost goes to warranty and goodwill."
            confirm="Do not charge"
            run={(reason) => choose.run({ basis: "not_charged", reason })}
          />
        )}
      </span>
    </fieldset>
  );
}

function InvoiceLines({
  head,
  lines,
  vat,
  net,
  gross,
}: {
  head: string;
  lines: ChargedLine[];
  vat: ChargedVat[];
  net: number;
  gross: number;
}) {
  return (
    <table className="lines" data-section="invoice-lines">
      <thead>
        <tr>
          <th>{head}</th>
          <th className="figure">£</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines are shown as they were computed, in order
          <tr key={index}>
            <td>
              {line.description}
              {line.category === "parts" && line.quantity !== 1 && `, ${line.quantity}`}
              {line.warrantyReductionMinor > 0 && (
                <span className="soft small">
                  {" "}
                  {money(line.fullMinor)} less warranty {line.warrantyPercent} %,{" "}
                  {money(line.warrantyReductionMinor)}
                </span>
              )}
            </td>
            <td className="figure">{money(line.netMinor)}</td>
          </tr>
        ))}
        <tr>
          <td className="soft">Net</td>
          <td className="figure soft">{money(net)}</td>
        </tr>
        {vat.map((rate) => (
          <tr key={rate.percent}>
            <td className="soft">VAT {rate.percent} %</td>
            <td className="figure soft">{money(rate.vatMinor)}</td>
          </tr>
        ))}
        <tr className="total">
          <td>To pay</td>
          <td className="figure">{money(gross)}</td>
        </tr>
      </tbody>
    </table>
  );
}

function PostedInvoice({ job, invoice }: { job: JobSheet; invoice: Invoice }) {
  return (
    <Section name="Bill" aside={BASES[job.billing.basis]?.toLowerCase()}>
      <div className="two">
        <InvoiceLines
          head={`Invoice ${invoice.number} of ${day(invoice.invoiceDate)}, due ${day(invoice.dueDate)}`}
          lines={invoice.lines}
          vat={invoice.vat}
          net={invoice.netMinor}
          gross={invoice.grossMinor}
        />
        <div>
          <table className="lines" data-section="receipts">
            <thead>
              <tr>
                <th>Money received</th>
                <th className="figure">£</th>
              </tr>
            </thead>
            <tbody>
              {invoice.receipts.map((receipt) => (
                <tr key={receipt.number}>
                  <td>
                    {day(receipt.receivedOn)}, {words(receipt.method)}, receipt {receipt.number}
                  </td>
                  <td className="figure">{money(receipt.amountMinor)}</td>
                </tr>
              ))}
              {invoice.depositMinor > 0 && (
                <tr>
                  <td>Deposit, taken off at once</td>
                  <td className="figure">{money(invoice.depositMinor)}</td>
                </tr>
              )}
              <tr className="total">
                <td>
                  {invoice.owedMinor === 0 ? (
                    "Settled"
                  ) : invoice.late ? (
                    <span className="needs">Owed, late</span>
                  ) : (
                    "Owed"
                  )}
                </td>
                <td className="figure">{money(invoice.owedMinor)}</td>
              </tr>
            </tbody>
          </table>
          {invoice.owedMinor > 0 && <ReceiptForm invoice={invoice} />}
        </div>
      </div>
    </Section>
  );
}

type PaymentMethod = NonNullable<Received["method"]>;
const METHODS: PaymentMethod[] = ["bank_transfer", "card", "cash", "cheque"];

/** Filled in with what usually comes: all that is owed, by bank, today. */
function ReceiptForm({ invoice }: { invoice: Invoice }) {
  const [typed, setAmount] = useState<string>();
  const amount = typed ?? (invoice.owedMinor / 100).toFixed(2);
  const [receivedOn, setReceivedOn] = useState("today");
  const [method, setMethod] = useState<PaymentMethod>("bank_transfer");
  const [problem, setProblem] = useState<Problem>();
  const receive = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/invoices/{id}/receipts", {
          params: { path: { id: invoice.id }, ...withKey(key) },
          body: { version: invoice.version, amount, receivedOn, method },
        }),
      ),
    {
      refused: setProblem,
      done: () => {
        setProblem(undefined);
        setAmount(undefined);
      },
    },
  );
  return (
    <form
      className="inline-form"
      aria-label="Record money received"
      onSubmit={(event) => {
        event.preventDefault();
        receive.run(undefined);
      }}
    >
      <label style={{ width: 96 }}>
        Amount
        <Input value={amount} onChange={(event) => setAmount(event.target.value)} inputMode="decimal" />
      </label>
      <label style={{ width: 92 }}>
        On
        <Input value={receivedOn} onChange={(event) => setReceivedOn(event.target.value)} />
      </label>
      <label className="wide" style={{ minWidth: 120 }}>
        By
        <Select
          value={method}
          onChange={setMethod}
          options={METHODS.map((value) => ({ value, label: words(value) }))}
        />
      </label>
      <Button type="primary" htmlType="submit" loading={receive.running}>
        Record receipt
      </Button>
      {problem?.faults
        .filter((fault) => fault.pointer !== "")
        .map((fault) => (
          <p key={fault.pointer} className="fault" role="alert">
            {fault.detail}
          </p>
        ))}
    </form>
  );
}
