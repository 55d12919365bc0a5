import { useQuery } from "@tanstack/react-query";
import { Checkbox, Input } from "antd";
import type { ComputedLine, TypedLine } from "../api/generated/schema";
import { queries } from "../api/queries";
import { money } from "../format";
import type { Tied } from "../kit/Field";
import { Select } from "../kit/Select";
import styles from "./LineTerms.module.css";

/** What ties a cell of a line to what is wrong with it. */
export type TiedCell = Pick<Tied, "aria-invalid" | "aria-describedby" | "status">;

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
  tied,
  put,
}: {
  line: TypedLine;
  figures: ComputedLine | undefined;
  at: number;
  tied: (field: string) => TiedCell;
  put: (line: TypedLine) => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  const choice = line.choice ?? "included";
  return (
    <span className={styles.terms}>
      <Input
        aria-label={`Discount of line ${at}`}
        size="small"
        prefix="less"
        placeholder="10% or 25"
        value={line.discount ?? ""}
        {...tied("discount")}
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
          {...tied("group")}
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
            {...tied("warrantyExclusion")}
            onChange={(event) => put({ ...line, warrantyExclusion: event.target.value })}
          />
        </>
      )}
    </span>
  );
}
