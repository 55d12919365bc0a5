import { Input } from "antd";
import type { ReactNode } from "react";
import type { ComputedLine, TypedLine } from "../api/generated/schema";
import { money, unitPrice } from "../format";
import { Select } from "../kit/Select";
import { Word } from "../kit/Word";
import { PartSelect } from "../stores/PartSelect";
import { PER } from "./draft";
import styles from "./LineCells.module.css";
import type { TiedCell } from "./LineTerms";

type Cells = {
  line: TypedLine;
  /** The place of the line, from 1. */
  at: number;
  tied: (field: string) => TiedCell;
  put: (line: TypedLine) => void;
};

/** A heading or a text between the lines. */
export function WordsCell({ line, at, tied, put }: Cells) {
  return (
    <Input
      aria-label={`${line.category === "heading" ? "Heading" : "Text"} of line ${at}`}
      className={line.category === "heading" ? styles.heading : undefined}
      {...tied("description")}
      value={line.description ?? ""}
      onChange={(event) => put({ ...line, description: event.target.value })}
    />
  );
}

/** What is charged, how much of it and for what price; and what it costs and comes to, as the server says. */
export function LineCells({ line, at, tied, put, figures }: Cells & { figures: ComputedLine | undefined }) {
  const timed = line.category === "labour" || line.category === "drive";
  return (
    <>
      <Cell label={line.category === "parts" ? "part" : "description"}>
        {line.category === "parts" ? (
          <PartChoice line={line} at={at} tied={tied} put={put} />
        ) : (
          <Input
            aria-label={`Description of line ${at}`}
            value={line.description ?? ""}
            {...tied("description")}
            onChange={(event) => put({ ...line, description: event.target.value })}
          />
        )}
      </Cell>
      <Cell label={timed ? "time" : "quantity"}>
        <Input
          aria-label={`${timed ? "Time" : "Quantity"} of line ${at}`}
          value={(timed ? line.time : line.quantity) ?? ""}
          {...tied(timed ? "time" : "quantity")}
          onChange={(event) =>
            put(timed ? { ...line, time: event.target.value } : { ...line, quantity: event.target.value })
          }
        />
      </Cell>
      <FurtherCell line={line} at={at} tied={tied} put={put} />
      <Cell label="price">
        <Input
          aria-label={`Price of line ${at}`}
          className="figure"
          value={line.price ?? ""}
          placeholder={figures?.unitPrice == null ? "" : unitPrice(figures.unitPrice)}
          suffix={PER[line.charge ?? ""]}
          {...tied("price")}
          onChange={(event) => put({ ...line, price: event.target.value })}
        />
      </Cell>
      <Cell label="cost">
        <span className="figure soft">{figures?.costMinor == null ? "" : money(figures.costMinor)}</span>
      </Cell>
      <Cell label="net">
        <span className={figures?.belowFloor ? "figure needs" : "figure"}>
          {figures?.netMinor == null ? "" : money(figures.netMinor)}
          {figures?.belowFloor && <span className="visually-hidden"> below our floor margin</span>}
        </span>
      </Cell>
    </>
  );
}

/** What only some lines have: labour its class of hours, a drive its miles, something else our cost. */
function FurtherCell({ line, at, tied, put }: Cells) {
  switch (line.category) {
    case "labour":
      return (
        <Cell label="hours">
          <Select
            aria-label={`Hours of line ${at}`}
            value={line.rateClass ?? "normal"}
            onChange={(rateClass) => put({ ...line, rateClass, price: undefined })}
            options={(["normal", "overtime", "night"] as const).map((value) => ({ value, label: value }))}
          />
        </Cell>
      );
    case "drive":
      return (
        <Cell label="miles">
          <Input
            aria-label={`Miles of line ${at}`}
            value={line.miles ?? ""}
            suffix="mi"
            {...tied("miles")}
            onChange={(event) => put({ ...line, miles: event.target.value })}
          />
        </Cell>
      );
    case "other":
      return (
        <Cell label="our cost">
          <Input
            aria-label={`Cost of line ${at}`}
            value={line.cost ?? ""}
            placeholder="our cost"
            {...tied("cost")}
            onChange={(event) => put({ ...line, cost: event.target.value })}
          />
        </Cell>
      );
    default:
      return <span className={styles.none} />;
  }
}

/** A cell below its column's name; where there is no room for columns it bears the name itself. */
const Cell = ({ label, children }: { label: string; children: ReactNode }) => (
  <span className={styles.cell} data-label={label}>
    {children}
  </span>
);

function PartChoice({ line, at, tied, put }: Cells) {
  if (line.partId) {
    return (
      <span>
        {line.description ?? "part"}{" "}
        <Word
          of={`for line ${at}`}
          run={() => put({ ...line, partId: undefined, description: undefined, price: undefined })}
        >
          other part
        </Word>
      </span>
    );
  }
  return (
    <PartSelect
      label={`Part of line ${at}`}
      tied={{ id: `part-of-line-${at}`, "aria-required": true, ...tied("partId") }}
      value={undefined}
      onChange={(partId, description) => put({ ...line, partId, description, price: undefined })}
    />
  );
}
