import { hours, money, moneyOrDash } from "../format";

/** An amount in its column; nothing where there is none, a dash where nil is told. */
export const Money = ({
  minor,
  strong,
  needs,
  soft,
  nil,
}: {
  minor: number | null | undefined;
  strong?: boolean;
  needs?: boolean;
  soft?: boolean;
  nil?: "dash" | "empty";
}) => {
  const text =
    minor == null || (minor === 0 && nil === "empty")
      ? ""
      : nil === "dash"
        ? moneyOrDash(minor)
        : money(minor);
  const look = [needs && "needs", soft && "soft"].filter(Boolean).join(" ") || undefined;
  return strong ? <b className={look}>{text}</b> : <span className={look}>{text}</span>;
};

/** How long, in hours and minutes, or how many of a unit; what was corrected is marked, also in words. */
export const Quantity = ({
  minutes,
  count,
  unit,
  corrected,
}: {
  minutes?: number;
  count?: number;
  unit?: string;
  corrected?: boolean;
}) => (
  <>
    <span className={corrected ? "corrected" : undefined}>
      {minutes === undefined ? count : hours(minutes)}
    </span>
    {unit && ` ${unit}`}
    {corrected && <span className="visually-hidden">, corrected</span>}
  </>
);
