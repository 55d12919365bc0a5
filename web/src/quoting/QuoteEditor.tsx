import { useQuery } from "@tanstack/react-query";
import { Input, Select } from "antd";
import { useState } from "react";
import { answer, client, type Problem } from "../api/client";
import type { Computed } from "../api/generated/schema";
import { queries } from "../api/queries";
import { usePreview } from "../api/usePreview";
import { Section } from "../records/Section";
import type { Draft } from "./draft";
import { LinesEditor } from "./LinesEditor";
import { OfferTerms } from "./OfferParts";
import { PastJobs } from "./PastJobs";
import { Totals } from "./QuoteLines";

type Props = {
  quoteId?: number;
  draft: Draft;
  change: (draft: Draft) => void;
  computed?: Computed;
  problem: Problem | undefined;
};

/** Cost and margin stand beside the price while it is typed; the server computes every figure. */
export function QuoteEditor({ quoteId, draft, change, computed, problem }: Props) {
  const { siteId, equipmentId, kindOfJobId, discount, deposit, stages, lines } = draft;
  // What is refused says saving, at its field.
  const { figures = computed } = usePreview(
    { quoteId, siteId, equipmentId, kindOfJobId, discount, deposit, stages, lines },
    (body, signal) => answer(client.POST("/api/quotes/preview", { body, signal })),
  );
  return (
    <>
      <Section name="For">
        <Head draft={draft} change={change} problem={problem} />
      </Section>
      <Section name="Lines">
        <PastJobs kindOfJobId={draft.kindOfJobId} equipmentId={draft.equipmentId} />
        <LinesEditor draft={draft} change={change} computed={figures} insisted={problem !== undefined} />
      </Section>
      <Section name="Total">
        <OfferTerms draft={draft} change={change} computed={figures} problem={problem} />
        {figures && <Totals totals={figures.totals} />}
      </Section>
      <Section name="Notes" aside="to the customer">
        <Input.TextArea
          aria-label="Notes to the customer"
          value={draft.notes}
          autoSize={{ minRows: 2, maxRows: 12 }}
          onChange={(event) => change({ ...draft, notes: event.target.value })}
        />
        {problem?.at("/notes") && <p className="fault">{problem.at("/notes")}</p>}
      </Section>
      <Section name="For us" aside="never shown to the customer">
        <Input.TextArea
          aria-label="Notes for us only"
          value={draft.ownNotes}
          autoSize={{ minRows: 1, maxRows: 8 }}
          onChange={(event) => change({ ...draft, ownNotes: event.target.value })}
        />
      </Section>
    </>
  );
}

function Head({ draft, change, problem }: Omit<Props, "computed" | "quoteId">) {
  const [wanted, setWanted] = useState("");
  const { data: sites } = useQuery(queries.sites(wanted));
  const { data: choices } = useQuery(queries.choices);
  const { data: settings } = useQuery(queries.quotingSettings);
  const site = sites?.find((candidate) => candidate.id === draft.siteId);
  const equipment = site?.equipment.map((piece) => ({ value: piece.id, label: piece.name }));
  const own = draft.equipmentId ? [{ value: draft.equipmentId, label: draft.equipment ?? "" }] : [];
  const siteOptions = (sites ?? []).map((candidate) => ({
    value: candidate.id,
    label: `${candidate.customer}, ${candidate.site}`,
  }));
  const chosen = draft.siteId && !site ? [{ value: draft.siteId, label: draft.site ?? "" }] : [];
  return (
    <div className="quote-head">
      <div className="field">
        <span>Customer and site</span>
        <Select
          aria-label="Customer and site"
          showSearch={{ filterOption: false, onSearch: setWanted }}
          value={draft.siteId}
          placeholder="Any part of the name or street"
          onChange={(siteId, option) => {
            const label = Array.isArray(option) ? "" : String(option?.label ?? "");
            const only = sites?.find((candidate) => candidate.id === siteId)?.equipment;
            const piece = only?.length === 1 ? only[0] : undefined;
            change({ ...draft, siteId, site: label, equipmentId: piece?.id, equipment: piece?.name });
          }}
          options={[...chosen, ...siteOptions]}
        />
        <FaultAt problem={problem} pointer="/siteId" />
      </div>
      <div className="field">
        <span>What is to be done</span>
        <Input
          aria-label="What is to be done"
          value={draft.title}
          onChange={(event) => change({ ...draft, title: event.target.value })}
        />
        <FaultAt problem={problem} pointer="/title" />
      </div>
      <div className="field">
        <span>Kind of job</span>
        <Select
          aria-label="Kind of job"
          value={draft.kindOfJobId}
          onChange={(kindOfJobId) => change({ ...draft, kindOfJobId })}
          options={(choices?.kindsOfJob ?? []).map((kind) => ({ value: kind.id, label: kind.name }))}
        />
        <FaultAt problem={problem} pointer="/kindOfJobId" />
      </div>
      <div className="field">
        <span>Equipment</span>
        <Select
          aria-label="Equipment"
          allowClear
          value={draft.equipmentId}
          onChange={(equipmentId, option) =>
            change({
              ...draft,
              equipmentId,
              equipment: Array.isArray(option) ? undefined : String(option?.label ?? ""),
            })
          }
          options={equipment ?? own}
        />
        <FaultAt problem={problem} pointer="/equipmentId" />
      </div>
      <div className="field">
        <span>Valid until</span>
        <Input
          aria-label="Valid until"
          value={draft.validUntil}
          placeholder={`${settings?.quoteValidDays ?? 30} days, or 24 dec`}
          onChange={(event) => change({ ...draft, validUntil: event.target.value })}
        />
        <FaultAt problem={problem} pointer="/validUntil" />
      </div>
    </div>
  );
}

function FaultAt({ problem, pointer }: { problem: Problem | undefined; pointer: string }) {
  const text = problem?.at(pointer);
  return text ? (
    <p className="fault" role="alert">
      {text}
    </p>
  ) : null;
}
