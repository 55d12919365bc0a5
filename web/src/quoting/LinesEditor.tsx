import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { memo, useCallback, useLayoutEffect, useRef, useState } from "react";
import type { Computed, ComputedLine, FieldFault, TypedLine } from "../api/generated/schema";
import { queries } from "../api/queries";
import { heldFocus } from "../kit/focus";
import { say } from "../kit/useSaid";
import { counts, DRIVE, type Draft, LABOUR } from "./draft";
import { LineCells, WordsCell } from "./LineCells";
import { KitPicker, PartsPicker } from "./LinePickers";
import styles from "./LinesEditor.module.css";
import type { TiedCell } from "./LineTerms";
import { LineTerms } from "./LineTerms";

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
      <div className={`${styles.line} ${styles.labels}`} aria-hidden="true">
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
      <div className={styles.adding}>
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
  const faultId = (field: string) => `line-${index + 1}-${field}`;
  const tied = (field: string): TiedCell => {
    const wrong = faults.some((fault) => fault.field.endsWith(`/${field}`)) || undefined;
    return {
      "aria-invalid": wrong,
      "aria-describedby": wrong && faultId(field),
      status: wrong && "error",
    };
  };
  const at = index + 1;
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
      move={(by) => {
        edit((lines) => {
          const moved = [...lines];
          moved.splice(index + by, 0, ...moved.splice(index, 1));
          return moved;
        });
        follow(index + by, by);
      }}
      copy={() => edit((lines) => lines.toSpliced(index + 1, 0, line))}
      remove={() => {
        const focus = heldFocus();
        edit((lines) => lines.toSpliced(index, 1));
        focus();
        say({
          text: `Line ${at} is removed.`,
          undo: { label: "Put it back", run: () => edit((lines) => lines.toSpliced(index, 0, line)) },
        });
      }}
    />
  );
  const told = faults.map((fault) => (
    <p key={fault.field} id={faultId(fault.field.split("/").at(-1) ?? "")} className={styles.fault}>
      <span className="visually-hidden">Line {at}: </span>
      {fault.message}
    </p>
  ));
  if (words) {
    return (
      <div className={`${styles.line} ${styles.words}`} data-line={index}>
        <span className={styles.kind}>{line.category}</span>
        <WordsCell line={line} at={at} tied={tied} put={put} />
        {tools}
        {told}
      </div>
    );
  }
  return (
    <div className={counts(line) ? styles.line : `${styles.line} ${styles.notTaken}`} data-line={index}>
      <span className={styles.kind}>{line.category}</span>
      <LineCells line={line} at={at} tied={tied} put={put} figures={figures} />
      {tools}
      {(special || opened) && <LineTerms line={line} figures={figures} at={at} tied={tied} put={put} />}
      {told}
    </div>
  );
}, looksTheSame);

/** The focus goes with the line that is moved, so that it can be moved on. */
function follow(index: number, by: number) {
  requestAnimationFrame(() => {
    const wanted = document.getElementById(`line-${index + 1}-${by < 0 ? "up" : "down"}`);
    const other = document.getElementById(`line-${index + 1}-${by < 0 ? "down" : "up"}`);
    (wanted?.matches(":disabled") ? other : wanted)?.focus();
  });
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
    <span className={styles.tools}>
      {terms && (
        <button
          type="button"
          className={styles.tool}
          aria-label={`Discount, VAT and choice of line ${at}`}
          title="discount, VAT, choice, how a drive is charged"
          onClick={terms}
        >
          %
        </button>
      )}
      <button
        type="button"
        className={styles.tool}
        id={`line-${at}-up`}
        aria-label={`Move line ${at} up`}
        disabled={at === 1}
        onClick={() => move(-1)}
      >
        ↑
      </button>
      <button
        type="button"
        className={styles.tool}
        id={`line-${at}-down`}
        aria-label={`Move line ${at} down`}
        disabled={last}
        onClick={() => move(1)}
      >
        ↓
      </button>
      <button type="button" className={styles.tool} aria-label={`Copy line ${at}`} onClick={copy}>
        +
      </button>
      <button type="button" className={styles.tool} aria-label={`Remove line ${at}`} onClick={remove}>
        ×
      </button>
    </span>
  );
}
