import { useQuery } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { useEffect, useRef, useState } from "react";
import { answer, client, Problem } from "../api/client";
import type { Computed, TypedLine, TypedStage } from "../api/generated/schema";
import { queries } from "../api/queries";
import { PartSelect } from "../field/CorrectionForms";
import { money } from "../format";
import { Section } from "../sheet/Section";
import { counts, KitPicker, LineTerms, OfferTerms, PartsPicker } from "./OfferParts";
import { PastJobs } from "./PastJobs";
import { PER, Totals } from "./QuoteLines";

/** A quote as it is being typed; nothing of it is lost while the server refuses it. */
export type Draft = {
  siteId: number | undefined;
  site: string | undefined;
  equipmentId: number | undefined;
  equipment: string | undefined;
  kindOfJobId: number | undefined;
  title: string;
  validUntil: string;
  notes: string;
  ownNotes: string;
  discount: string;
  deposit: string;
  depositDueDays: string;
  stages: TypedStage[];
  lines: TypedLine[];
};

const LABOUR: TypedLine = { category: "labour", time: "1:00", rateClass: "normal" };
const DRIVE: TypedLine = {
  category: "drive",
  description: "Call-out",
  time: "0:30",
  miles: "10",
};

export const blank: Draft = {
  siteId: undefined,
  site: undefined,
  equipmentId: undefined,
  equipment: undefined,
  kindOfJobId: undefined,
  title: "",
  validUntil: "",
  notes: "",
  ownNotes: "",
  discount: "",
  deposit: "",
  depositDueDays: "",
  stages: [],
  lines: [LABOUR, DRIVE],
};

type Props = {
  draft: Draft;
  change: (draft: Draft) => void;
  computed?: Computed;
  problem: Problem | undefined;
};

/** Cost and margin stand beside the price while it is typed; the server computes every figure. */
export function QuoteEditor({ draft, change, computed, problem }: Props) {
  const live = useLiveFigures(draft, computed);
  return (
    <>
      <Section name="For">
        <Head draft={draft} change={change} problem={problem} />
      </Section>
      <Section name="Lines">
        <PastJobs kindOfJobId={draft.kindOfJobId} equipmentId={draft.equipmentId} />
        <Lines draft={draft} change={change} computed={live} insisted={problem !== undefined} />
      </Section>
      <Section name="Total">
        <OfferTerms draft={draft} change={change} computed={live} problem={problem} />
        {live && <Totals totals={live.totals} />}
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

/** Asks the server for the figures shortly after the last change; an answer that comes too late is dropped. */
function useLiveFigures(
  { siteId, discount, deposit, stages, lines }: Draft,
  stored: Computed | undefined,
): Computed | undefined {
  const [computed, setComputed] = useState(stored);
  const latest = useRef(0);
  useEffect(() => {
    const mine = ++latest.current;
    const timer = setTimeout(async () => {
      try {
        const figures = await answer(
          client.POST("/api/quotes/preview", { body: { siteId, discount, deposit, stages, lines } }),
        );
        if (mine === latest.current) {
          setComputed(figures);
        }
      } catch (refused) {
        if (!(refused instanceof Problem)) {
          throw refused;
        }
        // The figures stay as they were; saving will say what is wrong.
      }
    }, 120);
    return () => clearTimeout(timer);
  }, [siteId, discount, deposit, stages, lines]);
  return computed;
}

function Head({ draft, change, problem }: Omit<Props, "computed">) {
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

function Lines({
  draft,
  change,
  computed,
  insisted,
}: {
  draft: Draft;
  change: (draft: Draft) => void;
  computed: Computed | undefined;
  insisted: boolean;
}) {
  const setLines = (lines: TypedLine[]) => change({ ...draft, lines });
  const put = (index: number, line: TypedLine) =>
    setLines(draft.lines.map((old, at) => (at === index ? line : old)));
  const move = (index: number, by: number) => {
    const lines = [...draft.lines];
    const [line] = lines.splice(index, 1);
    if (line) {
      lines.splice(index + by, 0, line);
    }
    setLines(lines);
  };
  const add = (line: TypedLine) => setLines([...draft.lines, line]);
  return (
    <div>
      <div className="quote-line labels" aria-hidden="true">
        <span />
        <span>description</span>
        <span>time, qty</span>
        <span>hours, miles</span>
        <span className="figure">price</span>
        <span className="figure">cost</span>
        <span className="figure">net</span>
        <span />
      </div>
      {draft.lines.map((line, index) => (
        <Line
          // biome-ignore lint/suspicious/noArrayIndexKey: a line has no other name while it is typed
          key={index}
          line={line}
          index={index}
          last={index === draft.lines.length - 1}
          computed={computed}
          insisted={insisted}
          put={(changed) => put(index, changed)}
          move={(by) => move(index, by)}
          copy={() => setLines(draft.lines.toSpliced(index + 1, 0, line))}
          remove={() => setLines(draft.lines.filter((_, at) => at !== index))}
        />
      ))}
      <div className="actions" style={{ marginTop: 8 }}>
        <Button onClick={() => add(LABOUR)}>Add labour</Button>
        <Button onClick={() => add(DRIVE)}>Add drive</Button>
        <PartsPicker add={(lines) => setLines([...draft.lines, ...lines])} />
        <Button onClick={() => add({ category: "other", quantity: "1", cost: "", price: "" })}>
          Add other
        </Button>
        <Button onClick={() => add({ category: "heading", description: "" })}>Add heading</Button>
        <Button onClick={() => add({ category: "text", description: "" })}>Add text</Button>
        <KitPicker lines={draft.lines} add={(lines) => setLines([...draft.lines, ...lines])} />
      </div>
    </div>
  );
}

function Line({
  line,
  index,
  last,
  computed,
  insisted,
  put,
  move,
  copy,
  remove,
}: {
  line: TypedLine;
  index: number;
  last: boolean;
  computed: Computed | undefined;
  insisted: boolean;
  put: (line: TypedLine) => void;
  move: (by: number) => void;
  copy: () => void;
  remove: () => void;
}) {
  const figures = computed?.lines[index];
  // What is only missing is no fault while it is being typed; it becomes one when somebody wants to save.
  const faults =
    computed?.faults.filter(
      (fault) => fault.field.startsWith(`lines/${index}/`) && (insisted || fault.rule !== "MISSING"),
    ) ?? [];
  const wrong = (field: string) =>
    faults.some((fault) => fault.field.endsWith(`/${field}`)) ? "error" : undefined;
  const at = index + 1;
  const timed = line.category === "labour" || line.category === "drive";
  const words = line.category === "heading" || line.category === "text";
  const [opened, setOpened] = useState(false);
  const { data: choices } = useQuery(queries.choices);
  const special =
    Boolean(line.discount) ||
    (line.charge ?? choices?.driveCharge) !== choices?.driveCharge ||
    (line.choice ?? "included") !== "included" ||
    (line.vat ?? "standard") !== "standard";
  const tools = (
    <LineTools
      at={at}
      last={last}
      terms={words || special ? undefined : () => setOpened(!opened)}
      move={move}
      copy={copy}
      remove={remove}
    />
  );
  const told = faults.map((fault) => (
    <p key={fault.field} className="fault" role="alert">
      {fault.message}
    </p>
  ));
  if (words) {
    return (
      <div className="quote-line words" data-line={index}>
        <span className="kind">{line.category}</span>
        <Input
          aria-label={`${line.category === "heading" ? "Heading" : "Text"} of line ${at}`}
          className={line.category}
          value={line.description ?? ""}
          onChange={(event) => put({ ...line, description: event.target.value })}
        />
        {tools}
        {told}
      </div>
    );
  }
  return (
    <div className={counts(line) ? "quote-line" : "quote-line not-taken"} data-line={index}>
      <span className="kind">{line.category}</span>
      {line.category === "parts" ? (
        <PartChoice line={line} put={put} />
      ) : (
        <Input
          aria-label={`Description of line ${at}`}
          value={line.description ?? ""}
          status={wrong("description")}
          onChange={(event) => put({ ...line, description: event.target.value })}
        />
      )}
      <Input
        aria-label={`${timed ? "Time" : "Quantity"} of line ${at}`}
        value={(timed ? line.time : line.quantity) ?? ""}
        status={wrong(timed ? "time" : "quantity")}
        onChange={(event) =>
          put(timed ? { ...line, time: event.target.value } : { ...line, quantity: event.target.value })
        }
      />
      {line.category === "labour" && (
        <Select
          aria-label={`Hours of line ${at}`}
          value={line.rateClass ?? "normal"}
          onChange={(rateClass) => put({ ...line, rateClass, price: undefined })}
          options={["normal", "overtime", "night"].map((value) => ({ value, label: value }))}
        />
      )}
      {line.category === "drive" && (
        <Input
          aria-label={`Miles of line ${at}`}
          value={line.miles ?? ""}
          suffix="mi"
          status={wrong("miles")}
          onChange={(event) => put({ ...line, miles: event.target.value })}
        />
      )}
      {line.category === "parts" && <span />}
      {line.category === "other" && (
        <Input
          aria-label={`Cost of line ${at}`}
          value={line.cost ?? ""}
          placeholder="our cost"
          status={wrong("cost")}
          onChange={(event) => put({ ...line, cost: event.target.value })}
        />
      )}
      <Input
        aria-label={`Price of line ${at}`}
        className="figure"
        value={line.price ?? ""}
        placeholder={figures?.unitPriceMinor == null ? "" : money(figures.unitPriceMinor)}
        suffix={PER[line.charge ?? ""]}
        status={wrong("price")}
        onChange={(event) => put({ ...line, price: event.target.value })}
      />
      <span className="figure soft">{figures?.costMinor == null ? "" : money(figures.costMinor)}</span>
      <span
        className={figures?.belowFloor ? "figure needs" : "figure"}
        title={figures?.belowFloor ? "below our floor margin" : ""}
      >
        {figures?.netMinor == null ? "" : money(figures.netMinor)}
      </span>
      {tools}
      {(special || opened) && <LineTerms line={line} at={at} wrong={wrong} put={put} />}
      {told}
    </div>
  );
}

function LineTools({
  at,
  last,
  terms,
  move,
  copy,
  remove,
}: {
  at: number;
  last: boolean;
  terms?: () => void;
  move: (by: number) => void;
  copy: () => void;
  remove: () => void;
}) {
  return (
    <span className="tools">
      {terms && (
        <button
          type="button"
          className="icon-button"
          aria-label={`Discount, VAT and choice of line ${at}`}
          title="discount, VAT, choice, how a drive is charged"
          onClick={terms}
        >
          %
        </button>
      )}
      <button
        type="button"
        className="icon-button"
        aria-label={`Move line ${at} up`}
        disabled={at === 1}
        onClick={() => move(-1)}
      >
        ↑
      </button>
      <button
        type="button"
        className="icon-button"
        aria-label={`Move line ${at} down`}
        disabled={last}
        onClick={() => move(1)}
      >
        ↓
      </button>
      <button type="button" className="icon-button" aria-label={`Copy line ${at}`} onClick={copy}>
        +
      </button>
      <button type="button" className="icon-button" aria-label={`Remove line ${at}`} onClick={remove}>
        ×
      </button>
    </span>
  );
}

function PartChoice({ line, put }: { line: TypedLine; put: (line: TypedLine) => void }) {
  if (line.partId) {
    return (
      <span>
        {line.description ?? "part"}{" "}
        <button
          type="button"
          className="plain small"
          onClick={() => put({ ...line, partId: undefined, description: undefined, price: undefined })}
        >
          other part
        </button>
      </span>
    );
  }
  return (
    <PartSelect
      value={undefined}
      onChange={(partId, description) => put({ ...line, partId, description, price: undefined })}
    />
  );
}
