import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input, Modal, Select } from "antd";
import { useState } from "react";
import type { Problem } from "../api/client";
import { answer, client, withKey } from "../api/client";
import type { Computed, ComputedLine, TypedLine, TypedStage } from "../api/generated/schema";
import { queries } from "../api/queries";
import { useAct } from "../api/useAct";
import { money, unitPrice } from "../format";
import { type Draft, PROMISES, type Promised } from "./draft";

const DRIVE_CHARGES = [
  { value: "per_call_out", label: "a call-out" },
  { value: "per_hour", label: "by the hour" },
  { value: "per_mile", label: "by the mile" },
  { value: "none", label: "not charged" },
];

/** What is agreed for one line: its discount, its VAT, its warranty, how a drive is charged, and whether the customer chooses it. */
export function LineTerms({
  line,
  figures,
  at,
  wrong,
  put,
}: {
  line: TypedLine;
  figures: ComputedLine | undefined;
  at: number;
  wrong: (field: string) => "error" | undefined;
  put: (line: TypedLine) => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  const choice = line.choice ?? "included";
  return (
    <span className="line-terms">
      <Input
        aria-label={`Discount of line ${at}`}
        size="small"
        prefix="less"
        placeholder="10% or 25"
        value={line.discount ?? ""}
        status={wrong("discount")}
        onChange={(event) => put({ ...line, discount: event.target.value })}
      />
      {line.category === "drive" && (
        <Select
          aria-label={`How the drive of line ${at} is charged`}
          size="small"
          value={line.charge ?? choices?.driveCharge}
          onChange={(charge) => put({ ...line, charge, price: undefined })}
          options={DRIVE_CHARGES}
        />
      )}
      <Select
        aria-label={`VAT of line ${at}`}
        size="small"
        value={line.vat ?? figures?.vatCode ?? choices?.vatTreatments.find(({ usual }) => usual)?.code}
        onChange={(vat) => put({ ...line, vat })}
        options={(choices?.vatTreatments ?? []).map(({ code, words }) => ({
          value: code,
          label: words,
        }))}
      />
      <Select
        aria-label={`Choice of line ${at}`}
        size="small"
        value={choice}
        onChange={(next) =>
          put({
            ...line,
            choice: next,
            taken: next === "included" ? undefined : (line.taken ?? false),
            group: next === "alternative" ? line.group || "Choose one" : undefined,
          })
        }
        options={[
          { value: "included", label: "included" },
          { value: "option", label: "if wanted" },
          { value: "alternative", label: "one of…" },
        ]}
      />
      {choice === "alternative" && (
        <Input
          aria-label={`Group of line ${at}`}
          size="small"
          value={line.group ?? ""}
          status={wrong("group")}
          onChange={(event) => put({ ...line, group: event.target.value })}
        />
      )}
      {choice !== "included" && (
        <Checkbox
          checked={line.taken === true}
          onChange={(event) => put({ ...line, taken: event.target.checked })}
        >
          in the total
        </Checkbox>
      )}
      {figures && figures.warrantyPercent !== "0" && (
        <>
          <span className="soft small">
            {figures.warrantyReductionMinor > 0
              ? `warranty ${figures.warrantyPercent} %, less ${money(figures.warrantyReductionMinor)}`
              : `warranty ${figures.warrantyPercent} %, not taken off`}
          </span>
          <Input
            aria-label={`Why line ${at} is not under warranty`}
            size="small"
            placeholder="not, because"
            value={line.warrantyExclusion ?? ""}
            status={wrong("warrantyExclusion")}
            onChange={(event) => put({ ...line, warrantyExclusion: event.target.value })}
          />
        </>
      )}
    </span>
  );
}

/** What is agreed for the whole: what the price promises, discount, deposit and stages. */
export function OfferTerms({
  draft,
  change,
  computed,
  problem,
}: {
  draft: Draft;
  change: (draft: Draft) => void;
  computed: Computed | undefined;
  problem: Problem | undefined;
}) {
  const { data: settings } = useQuery(queries.quotingSettings);
  const { data: choices } = useQuery(queries.choices);
  const usual = choices?.kindsOfJob.find((kind) => kind.id === draft.kindOfJobId)?.promise;
  const told = (field: string) =>
    computed?.faults.find((fault) => fault.field === field)?.message ?? problem?.at(`/${field}`);
  const put = (index: number, stage: TypedStage) =>
    change({ ...draft, stages: draft.stages.map((old, at) => (at === index ? stage : old)) });
  return (
    <div className="offer-terms">
      <div className="field">
        <span>Promise</span>
        <Select
          aria-label="Promise"
          value={draft.promise ?? usual}
          options={Object.entries(PROMISES).map(([value, label]) => ({ value: value as Promised, label }))}
          onChange={(promise) => change({ ...draft, promise })}
        />
        <Told text={told("promise")} />
      </div>
      <div className="field">
        <span>Discount on all</span>
        <Input
          aria-label="Discount on all"
          placeholder="10% or 50"
          value={draft.discount}
          onChange={(event) => change({ ...draft, discount: event.target.value })}
        />
        <Told text={told("discount")} />
      </div>
      <div className="field">
        <span>Deposit{computed && computed.depositMinor > 0 ? `, ${money(computed.depositMinor)}` : ""}</span>
        <Input
          aria-label="Deposit"
          placeholder="30% or 200"
          value={draft.deposit}
          onChange={(event) => change({ ...draft, deposit: event.target.value })}
        />
        <Told text={told("deposit")} />
      </div>
      <div className="field">
        <span>due within days</span>
        <Input
          aria-label="Deposit due within days"
          placeholder={settings ? String(settings.depositDueDays) : ""}
          value={draft.depositDueDays}
          onChange={(event) => change({ ...draft, depositDueDays: event.target.value })}
        />
        <Told text={told("depositDueDays")} />
      </div>
      <div className="stages">
        {draft.stages.map((stage, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a stage has no other name while it is typed
          <div className="stage" key={index}>
            <Input
              aria-label={`When stage ${index + 1} is due`}
              placeholder="when: on delivery"
              value={stage.name ?? ""}
              onChange={(event) => put(index, { ...stage, name: event.target.value })}
            />
            <Input
              aria-label={`Share of stage ${index + 1}`}
              placeholder="50% or 400"
              value={stage.part ?? ""}
              onChange={(event) => put(index, { ...stage, part: event.target.value })}
            />
            <span className="figure soft">
              {computed?.stageMinors[index] == null ? "" : money(computed.stageMinors[index] ?? 0)}
            </span>
            <button
              type="button"
              className="icon-button"
              aria-label={`Remove stage ${index + 1}`}
              onClick={() => change({ ...draft, stages: draft.stages.filter((_, at) => at !== index) })}
            >
              ×
            </button>
          </div>
        ))}
        {(draft.promise ?? usual) === "fixed_price" && (
          <button
            type="button"
            className="plain small"
            onClick={() => change({ ...draft, stages: [...draft.stages, { name: "", part: "" }] })}
          >
            add a stage
          </button>
        )}
        <Told text={told("stages")} />
        <Told text={told("lines")} />
      </div>
    </div>
  );
}

function Told({ text }: { text: string | undefined }) {
  return text ? (
    <p className="fault" role="alert">
      {text}
    </p>
  ) : null;
}

/** Several parts at once: search, tick, quantities, in. */
export function PartsPicker({ add }: { add: (lines: TypedLine[]) => void }) {
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState("");
  const [picked, setPicked] = useState<{ id: number; name: string; quantity: string }[]>([]);
  const { data } = useQuery(queries.parts(wanted));
  const toggle = (id: number, name: string) =>
    setPicked(
      picked.some((part) => part.id === id)
        ? picked.filter((part) => part.id !== id)
        : [...picked, { id, name, quantity: "1" }],
    );
  const close = () => {
    setOpen(false);
    setPicked([]);
    setWanted("");
  };
  const take = () => {
    add(
      picked.map((part) => ({
        category: "parts",
        partId: part.id,
        description: part.name,
        quantity: part.quantity,
      })),
    );
    close();
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>Add parts</Button>
      <Modal open={open} title="Parts from the price list" onCancel={close} footer={null} destroyOnHidden>
        <form
          className="parts-picker"
          onSubmit={(event) => {
            event.preventDefault();
            take();
          }}
        >
          <Input
            autoFocus
            aria-label="Find parts"
            placeholder="any word of a part"
            value={wanted}
            onChange={(event) => setWanted(event.target.value)}
          />
          <div className="found">
            {(data ?? []).slice(0, 30).map((part) => (
              <Checkbox
                key={part.id}
                checked={picked.some((one) => one.id === part.id)}
                onChange={() => toggle(part.id, part.name)}
              >
                {part.name} <span className="soft small">{part.number}</span>
                <span className="figure">{unitPrice(part.price)}</span>
              </Checkbox>
            ))}
          </div>
          {picked.map((part) => (
            <div key={part.id} className="picked">
              <Input
                aria-label={`Quantity of ${part.name}`}
                value={part.quantity}
                onChange={(event) =>
                  setPicked(
                    picked.map((one) =>
                      one.id === part.id ? { ...one, quantity: event.target.value } : one,
                    ),
                  )
                }
              />
              <span>{part.name}</span>
            </div>
          ))}
          <Button type="primary" htmlType="submit" disabled={picked.length === 0}>
            {picked.length === 1 ? "Add 1 part" : `Add ${picked.length} parts`}
          </Button>
        </form>
      </Modal>
    </>
  );
}

/** Lines that are always quoted together: put in at once, or kept for later. */
export function KitPicker({ lines, add }: { lines: TypedLine[]; add: (lines: TypedLine[]) => void }) {
  const { data: kits } = useQuery(queries.kits);
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState("");
  const keep = useAct(
    (_: undefined, key) => answer(client.POST("/api/kits", { params: withKey(key), body: { name, lines } })),
    {
      done: () => {
        setNaming(false);
        setName("");
      },
    },
  );
  return (
    <>
      <Select
        aria-label="Add a kit"
        placeholder="Add a kit"
        style={{ width: 190 }}
        value={null}
        popupMatchSelectWidth={false}
        onChange={(id: number | null) => add(kits?.find((kit) => kit.id === id)?.lines ?? [])}
        options={(kits ?? []).map((kit) => ({
          value: kit.id,
          label: `${kit.name}, ${kit.lines.length} lines`,
        }))}
      />
      <button type="button" className="plain small" onClick={() => setNaming(true)}>
        keep these lines as a kit
      </button>
      <Modal open={naming} title="Keep these lines as a kit" footer={null} onCancel={() => setNaming(false)}>
        <form
          className="actions"
          onSubmit={(event) => {
            event.preventDefault();
            keep.run(undefined);
          }}
        >
          <Input
            autoFocus
            aria-label="Name of the kit"
            placeholder="Photocells renewed"
            style={{ width: 280 }}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <Button type="primary" htmlType="submit" loading={keep.running}>
            Keep it
          </Button>
        </form>
      </Modal>
    </>
  );
}
