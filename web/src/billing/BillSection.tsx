import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox } from "antd";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type {
  ChargedLine,
  Deducted,
  Invoice,
  JobSheet,
  ReceiptView,
  TaxedGroup,
  ToldOnSite,
} from "../api/generated/schema";
import { queries } from "../api/queries";
import { AccountLines } from "../books/EntryLines";
import { currencyMark, day, money, percent, words } from "../format";
import { Asking } from "../kit/Asking";
import { Lines, TotalLine } from "../kit/Lines";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";
import { useMay } from "../people/useMay";
import { MoneyForm } from "../receipts/MoneyForm";
import { ReceiptActions } from "../receipts/ReceiptLine";
import { AgreedPrice } from "../rounds/OfRound";

import styles from "./BillSection.module.css";
import { Charges } from "./Charges";

type Basis = JobSheet["billing"]["basis"];

const BASES: Record<Basis, string> = {
  fixed_price: "Fixed price",
  time_and_parts: "Time and parts",
  promised_on_site: "As the customer was told",
  not_charged: "Not charged",
};

const KINDS: Record<Invoice["kind"], string> = {
  stage: "Bill of a stage",
  part: "Bill of some work",
  final: "Bill",
};

/** What the customer pays: each posted invoice with its money, then what is still to be billed. */
export function BillSection({ job }: { job: JobSheet }) {
  return (
    <>
      {job.billing.invoices.map((invoice) => (
        <PostedInvoice key={invoice.id} job={job} invoice={invoice} />
      ))}
      <StillToBill job={job} />
    </>
  );
}

/** What a running job comes to by what was said, and by what was worked on it. */
function soFar({ promises, billing, cost }: JobSheet): string {
  const told = billing.promisedOnSite;
  const said = told
    ? [`${priceTold(told)}, as the customer was told`]
    : promises.length > 0
      ? [`${money(billing.fixedPrice.netMinor)} at the fixed price`]
      : [];
  const worked = cost.begun ? [`${money(billing.timeAndParts.netMinor)} by time and parts so far`] : [];
  const all = [...said, ...worked];
  return all.length > 0 ? `${all.join(", ")}.` : "";
}

const priceTold = ({ toldMinor, withVat }: Pick<ToldOnSite, "toldMinor" | "withVat">): string =>
  `${money(toldMinor)} ${withVat ? "with" : "without"} VAT`;

/** The basis, and the final invoice as it will read beside the entry as it will post. */
function StillToBill({ job }: { job: JobSheet }) {
  const { billing } = job;
  if (!billing.draft && billing.invoices.some((invoice) => invoice.kind === "final")) {
    return null;
  }
  if (!billing.draft || job.state === "called_off") {
    return (
      <Section name="Bill">
        <span className="soft">
          {billing.state === "settled"
            ? `Not charged: ${billing.notChargedReason}`
            : billing.state === "billed"
              ? `The rest is not charged: ${billing.notChargedReason}`
              : "This job was called off; nothing is billed."}
        </span>
      </Section>
    );
  }
  if (job.state === "open") {
    return (
      <Section name="Bill">
        <span className="soft">
          {soFar(job)} What will be billed and posted stands here once the work is finished.
        </span>
        <Charges job={job} />
      </Section>
    );
  }
  const { draft } = billing;
  return (
    <Section name="Bill">
      <Charges job={job} />
      <BasisChoice job={job} />
      <div className={styles.two}>
        <InvoiceLines
          head="Invoice, as it will read"
          lines={draft.lines}
          billedBefore={draft.billedBefore}
          vat={draft.vat}
          net={draft.netMinor}
          gross={draft.grossMinor}
        />
        <div data-section="draft-entry">
          <AccountLines
            caption="The entry as it will post"
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
      {billing.promisedOnSite && <Difference told={billing.promisedOnSite} />}
      {billing.promised && <AbovePromise job={job} promised={billing.promised} />}
      {draft.awaited.map((bill) => (
        <p key={`${bill.supplier} ${bill.description}`} className="small" data-section="awaited-bill">
          <span className="needs">Still to come:</span> the bill of {bill.supplier} for {bill.description}
          {bill.expectedMinor != null && `, some ${money(bill.expectedMinor)}`}. What it costs then comes off
          the margin, and is charged no more.
        </p>
      ))}
      {draft.notYet && <p className="small soft">{draft.notYet}</p>}
    </Section>
  );
}

/** Where a price that the customer was told, on site or by an agreement, differs from the work. */
function Difference({ told }: { told: ToldOnSite }) {
  const { differenceMinor, differences } = told;
  return (
    <p className="small" data-section="told-on-site">
      {priceTold(told)} is what the customer was told
      {differenceMinor === 0
        ? ", which is what time and parts come to."
        : `: ${money(Math.abs(differenceMinor))} ${differenceMinor > 0 ? "more" : "less"} than time and parts, ${differences
            .map(
              ({ category, netMinor }) =>
                `${money(Math.abs(netMinor))} ${netMinor > 0 ? "more for" : "off"} ${category}`,
            )
            .join(", ")}.`}
    </p>
  );
}

/** More than was accepted is charged only once somebody has said why; the reason stays with the bill. */
function AbovePromise({
  job,
  promised,
}: {
  job: JobSheet;
  promised: NonNullable<JobSheet["billing"]["promised"]>;
}) {
  const mayBill = useMay("bill");
  const explain = useAct(
    (reason: string) =>
      answer(
        client.PUT("/api/jobs/{id}/basis", {
          params: { path: { id: job.id } },
          body: { version: job.version, basis: job.billing.basis, reason },
        }),
      ),
    { said: "The reason is kept with the bill." },
  );
  if (promised.aboveMinor === 0) {
    return null;
  }
  return (
    <div className={styles.abovePromise} data-section="above-promise">
      <span className="needs">{money(promised.aboveMinor)} above the accepted</span>{" "}
      {money(promised.acceptedMinor)}
      {promised.outOfWarrantyMinor > 0 && ` with ${money(promised.outOfWarrantyMinor)} out of warranty`}
      {promised.aboveReason && `: ${promised.aboveReason}`}{" "}
      {mayBill && job.billing.draft && (
        <Asking
          plain
          label={promised.aboveReason ? "Say it otherwise…" : "Say why…"}
          title="Charge more than was accepted?"
          question="Why? The reason stays with the bill."
          confirm="Keep the reason"
          run={explain.run}
          running={explain.running}
        />
      )}
    </div>
  );
}

/** What a technician told the customer last that the job costs: one press charges it. */
function ToldByTechnician({
  job,
  charge,
}: {
  job: JobSheet;
  charge: (told: string, withVat: boolean) => void;
}) {
  const visit = job.visits.findLast(({ toldMinor }) => toldMinor != null);
  const mayBill = useMay("bill");
  if (visit?.toldMinor == null) {
    return null;
  }
  const withVat = visit.toldWithVat === true;
  const chosen = job.billing.promisedOnSite;
  const stands = chosen?.toldMinor === visit.toldMinor && chosen.withVat === withVat;
  const price = money(visit.toldMinor);
  return (
    <p className="small" data-section="told-by-technician">
      {visit.technician} told the customer {price} {withVat ? "with" : "without"} VAT.{" "}
      {mayBill && !stands && <Word run={() => charge(price, withVat)}>Charge that</Word>}
    </p>
  );
}

function BasisChoice({ job }: { job: JobSheet }) {
  const { billing } = job;
  const mayBill = useMay("bill");
  const choose = useAct(
    (choice: { basis: Basis; reason?: string; told?: string; withVat?: boolean }) =>
      answer(
        client.PUT("/api/jobs/{id}/basis", {
          params: { path: { id: job.id } },
          body: { version: job.version, ...choice },
        }),
      ),
    { said: (_, { basis }) => ({ text: `Charged by: ${BASES[basis].toLowerCase()}.` }) },
  );
  const [withVat, setWithVat] = useState(true);
  const told = billing.promisedOnSite;
  const totals = [
    { basis: "fixed_price", total: billing.fixedPrice },
    { basis: "time_and_parts", total: billing.timeAndParts },
    ...(told ? [{ basis: "promised_on_site", total: told.total } as const] : []),
  ] as const;
  return (
    <>
      <ToldByTechnician
        job={job}
        charge={(price, vatToo) => choose.run({ basis: "promised_on_site", told: price, withVat: vatToo })}
      />
      <AgreedPrice
        jobId={job.id}
        chargedMinor={told && !told.withVat ? told.toldMinor : undefined}
        charge={
          mayBill
            ? (price) => choose.run({ basis: "promised_on_site", told: price, withVat: false })
            : undefined
        }
      />
      <fieldset className={styles.basis} disabled={!mayBill}>
        <legend className="visually-hidden">How the job is charged, net</legend>
        {totals.map(({ basis, total }) => (
          <label key={basis} className={billing.basis === basis ? styles.on : undefined} data-basis={basis}>
            <input
              type="radio"
              name={`basis-${job.id}`}
              checked={billing.basis === basis}
              // Really disabled, the choice would lose the focus, and the next key would go nowhere.
              aria-disabled={choose.running || undefined}
              onChange={() => choose.run({ basis })}
            />
            {BASES[basis]}
            {basis === "time_and_parts" &&
              billing.promised?.kind === "not_more_than" &&
              `, not more than ${money(billing.promised.netMinor)}`}{" "}
            <span>{money(total.netMinor)}</span>
            <span className={total.marginMinor < 0 ? "small needs" : "small soft"}>
              margin {money(total.marginMinor)}, {percent(total.marginPercent)}
              {against(total.aboveMinor)}
            </span>
          </label>
        ))}
        <span className={styles.free} data-basis={told ? undefined : "promised_on_site"}>
          <Asking
            plain
            label={told ? "Another price promised…" : "As promised on site…"}
            title="Charge what was promised on site?"
            question="What was the customer told that it costs, in all?"
            confirm="Charge that"
            further={
              <Checkbox checked={withVat} onChange={(event) => setWithVat(event.target.checked)}>
                with VAT
              </Checkbox>
            }
            run={(typed) => choose.run({ basis: "promised_on_site", told: typed, withVat })}
          />
        </span>
        <span className={billing.basis === "not_charged" ? `${styles.free} ${styles.on}` : styles.free}>
          {billing.basis === "not_charged" ? (
            <span title={billing.notChargedReason ?? ""}>Not charged: {billing.notChargedReason}</span>
          ) : (
            <Asking
              plain
              label="Not charged…"
              title="Do not charge this job?"
              question={`Why? Its cost of ${money(job.cost.actualMinor)} goes to warranty and goodwill.`}
              confirm="Do not charge"
              run={(reason) => choose.run({ basis: "not_charged", reason })}
            />
          )}
        </span>
      </fieldset>
    </>
  );
}

/** How it stands against what was promised. */
function against(aboveMinor: number | null | undefined): string {
  if (aboveMinor == null) {
    return "";
  }
  return aboveMinor === 0
    ? ", as promised"
    : `, ${money(Math.abs(aboveMinor))} ${aboveMinor > 0 ? "more" : "less"} than promised`;
}

function InvoiceLines({
  head,
  lines,
  billedBefore,
  otherJobs = [],
  otherJobsNet = 0,
  vat,
  net,
  gross,
}: {
  head: string;
  lines: ChargedLine[];
  billedBefore: Deducted[];
  otherJobs?: number[];
  otherJobsNet?: number;
  vat: TaxedGroup[];
  net: number;
  gross: number;
}) {
  return (
    <Lines
      caption={head}
      section="invoice-lines"
      columns={[{ name: head }, { name: currencyMark(), figure: true }]}
    >
      {lines.map((line) => (
        <tr key={line.position}>
          <td>
            {line.description}
            {line.category === "parts" && line.quantity !== 1 && `, ${line.quantity}`}
            {line.discountMinor > 0 && (
              <span className="soft small">
                {" "}
                {money(line.fullMinor)} less {money(line.discountMinor)}
              </span>
            )}
            {line.discountOfWholeMinor > 0 && (
              <span className="soft small">
                {" "}
                less {money(line.discountOfWholeMinor)} of the whole discount
              </span>
            )}
            {line.warrantyForgoneMinor > 0 && (
              <span className="soft small">
                {" "}
                not under warranty, which would bear {money(line.warrantyForgoneMinor)}
              </span>
            )}
            {line.cutMinor > 0 && (
              <span className="soft small"> less {money(line.cutMinor)} beyond the promise</span>
            )}
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
      {billedBefore.map((before) => (
        <tr key={`${before.invoiceNumber} ${before.vatCategory} ${before.vatPercent}`}>
          <td>
            Billed before, invoice {before.invoiceNumber}
            {billedBefore.some((other) => other.vatPercent !== before.vatPercent) && (
              <span className="soft small"> at {before.vatPercent} %</span>
            )}
          </td>
          <td className="figure">{money(-before.netMinor)}</td>
        </tr>
      ))}
      {otherJobs.length > 0 && (
        <tr>
          <td>
            {otherJobs.length === 1 ? "Job" : "Jobs"} {otherJobs.join(", ")}
          </td>
          <td className="figure">{money(otherJobsNet)}</td>
        </tr>
      )}
      <tr>
        <td className="soft">Net</td>
        <td className="figure soft">{money(net)}</td>
      </tr>
      {vat.map((rate) => (
        <tr key={rate.words}>
          <td className="soft">{rate.words}</td>
          <td className="figure soft">{money(rate.vatMinor)}</td>
        </tr>
      ))}
      <TotalLine>
        <td>To pay</td>
        <td className="figure">{money(gross)}</td>
      </TotalLine>
    </Lines>
  );
}

function PostedInvoice({ job, invoice }: { job: JobSheet; invoice: Invoice }) {
  return (
    <Section name={KINDS[invoice.kind]} aside={BASES[job.billing.basis]?.toLowerCase()}>
      {invoice.kind === "final" && job.billing.promised && (
        <AbovePromise job={job} promised={job.billing.promised} />
      )}
      <div className={styles.two}>
        <InvoiceLines
          head={`Invoice ${invoice.number} of ${day(invoice.invoiceDate)}, due ${day(invoice.dueDate)}`}
          lines={invoice.lines}
          billedBefore={invoice.billedBefore}
          otherJobs={invoice.otherJobs}
          otherJobsNet={invoice.otherJobsNetMinor}
          vat={invoice.vat}
          net={invoice.netMinor}
          gross={invoice.grossMinor}
        />
        <div>
          <Lines
            caption={`What came of invoice ${invoice.number}`}
            section="receipts"
            columns={[
              { name: invoice.credits.length > 0 ? "Credited and received" : "Money received" },
              { name: currencyMark(), figure: true },
            ]}
          >
            {invoice.credits.map((credit) => (
              <tr key={credit.id}>
                <td>
                  {day(credit.creditDate)}, credit note {credit.number}
                  {credit.kind === "work_taken_back" && ", work taken back"}
                  <span className="soft small"> {credit.reason}</span>
                </td>
                <td className="figure">{money(credit.grossMinor)}</td>
              </tr>
            ))}
            {invoice.receipts.map((paid, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a receipt may pay an invoice twice on a day
              <PaidBy key={`${paid.id} ${index}`} paid={paid} receipts={job.receipts} />
            ))}
            <TotalLine>
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
            </TotalLine>
          </Lines>
          {invoice.owedMinor > 0 && (
            <>
              <OnAccount job={job} invoice={invoice} />
              <MoneyForm
                expectedMinor={invoice.owedMinor}
                purpose={{ allocations: [{ invoiceId: invoice.id, version: invoice.version }] }}
              />
            </>
          )}
        </div>
      </div>
    </Section>
  );
}

/** What a receipt paid of the invoice, and what is left of it. */
function PaidBy({ paid, receipts }: { paid: Invoice["receipts"][number]; receipts: ReceiptView[] }) {
  const receipt = receipts.find((each) => each.id === paid.id);
  return (
    <tr>
      <td>
        <div className={styles.receipt}>
          <span>
            {day(paid.receivedOn)}, {words(paid.method)}, receipt {paid.number}
            {paid.allocatedOn !== paid.receivedOn && (
              <span className="soft">, taken off {day(paid.allocatedOn)}</span>
            )}
          </span>
          {receipt && <ReceiptActions receipt={receipt} />}
        </div>
      </td>
      <td className="figure">{money(paid.amountMinor)}</td>
    </tr>
  );
}

/** What is left of the customer's receipts can pay the invoice as well as new money. */
function OnAccount({ job, invoice }: { job: JobSheet; invoice: Invoice }) {
  const { data } = useQuery(queries.receipts({ customerId: job.customerId, state: "left" }));
  const use = useAct(
    (receipt: ReceiptView, key) =>
      answer(
        client.POST("/api/receipts/{id}/allocations", {
          params: { path: { id: receipt.id }, ...withKey(key) },
          body: {
            version: receipt.version,
            allocations: [{ invoiceId: invoice.id, version: invoice.version }],
          },
        }),
      ),
    { said: `Used for invoice ${invoice.number}.` },
  );
  return data?.rows.map((receipt) => (
    <div key={receipt.id} className={styles.receipt} data-section="held">
      <span>
        {money(receipt.leftMinor)} <span className="soft">of receipt {receipt.number} is held</span>
        {receipt.quoteNumber && <span className="needs"> for quote {receipt.quoteNumber}</span>}
        {receipt.jobNumber && <span className="needs"> for job {receipt.jobNumber}</span>}
      </span>
      <Button size="small" onClick={() => use.run(receipt)} loading={use.running}>
        Use it for this invoice
      </Button>
    </div>
  ));
}
