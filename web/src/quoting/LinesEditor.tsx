import { useQuery } from "@tanstack/react-query";
import { Button, Input, Select } from "antd";
import { memo, useCallback, useLayoutEffect, useRef, useState } from "react";
import type { Computed, ComputedLine, FieldFault, TypedLine } from "../api/generated/schema";
import { queries } from "../api/queries";
import { money, unitPrice } from "../format";
import { PartSelect } from "../stores/PartSelect";
import { counts, DRIVE, type Draft, LABOUR, PER } from "./draft";
import { KitPicker, LineTerms, PartsPicker } from "./OfferParts";

/** The lines as they are typed. Whoever types in one of four hundred redraws that one only. */
export function LinesEditor({
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
  const latest = useRef({ draft, change });
  useLayoutEffect(() => {
    latest.current = { draft, change };
  });
  const edit = useCallback((make: (lines: TypedLine[]) => TypedLine[]) => {
    const { draft, change } = latest.current;
    change({ ...draft, lines: make(draft.lines) });
  }, []);
  const add = (...added: TypedLine[]) => edit((lines) => [...lines, ...added]);
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
          figures={computed?.lines[index]}
          faults={faultsOf(computed, index, insisted)}
          edit={edit}
        />
      ))}
      <div className="actions" style={{ marginTop: 8 }}>
        <Button onClick={() => add(LABOUR)}>Add labour</Button>
        <Button onClick={() => add(DRIVE)}>Add drive</Button>
        <PartsPicker add={(lines) => add(...lines)} />
        <Button onClick={() => add({ category: "other", quantity: "1", cost: "", price: "" })}>
          Add other
        </Button>
        <Button onClick={() => add({ category: "heading", description: "" })}>Add heading</Button>
        <Button onClick={() => add({ category: "text", description: "" })}>Add text</Button>
        <KitPicker lines={draft.lines} add={(lines) => add(...lines)} />
      </div>
    </div>
  );
}

/** What is only missing is no fault while it is being typed; it becomes one when somebody wants to save. */
const faultsOf = (computed: Computed | undefined, index: number, insisted: boolean): FieldFault[] =>
  computed?.faults.filter(
    (fault) => fault.field.startsWith(`lines/${index}/`) && (insisted || fault.rule !== "MISSING"),
  ) ?? [];

type LineProps = {
  line: TypedLine;
  index: number;
  last: boolean;
  figures: ComputedLine | undefined;
  faults: FieldFault[];
  edit: (make: (lines: TypedLine[]) => TypedLine[]) => void;
};

/** Figures and faults are read anew with every answer; only what they say decides about drawing. */
const looksTheSame = (before: LineProps, after: LineProps) =>
  before.line === after.line &&
  before.index === after.index &&
  before.last === after.last &&
  before.edit === after.edit &&
  JSON.stringify([before.figures, before.faults]) === JSON.stringify([after.figures, after.faults]);

const Line = memo(function Line({ line, index, last, figures, faults, edit }: LineProps) {
  const put = (changed: TypedLine) => edit((lines) => lines.with(index, changed));
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
    (figures?.warrantyPercent ?? "0") !== "0" ||
    choices?.vatTreatments.find(({ code }) => code === (line.vat ?? figures?.vatCode))?.usual === false;
  const tools = (
    <LineTools
      at={at}
      last={last}
      terms={words || special ? undefined : () => setOpened(!opened)}
      move={(by) =>
        edit((lines) => {
          const moved = [...lines];
          moved.splice(index + by, 0, ...moved.splice(index, 1));
          return moved;
        })
      }
      copy={() => edit((lines) => lines.toSpliced(index + 1, 0, line))}
      remove={() => edit((lines) => lines.toSpliced(index, 1))}
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
        placeholder={figures?.unitPrice == null ? "" : unitPrice(figures.unitPrice)}
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
      {(special || opened) && <LineTerms line={line} figures={figures} at={at} wrong={wrong} put={put} />}
      {told}
    </div>
  );
}, looksTheSame);

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
