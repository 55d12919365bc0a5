import type { WorkRow } from "../api/generated/schema";
import { day, hours, money, percent, timeLeft, words } from "../format";
import { besideStyles } from "../kit/Beside";
import { rowId, useKeptInSight } from "../kit/KeyedList";
import type { Stage } from "./MoneyLine";
import { SmallLadder } from "./SmallLadder";
import styles from "./WorklistRow.module.css";

/** What a row is called in the address. */
export const address = (row: WorkRow) => `${row.kind}-${row.id}`;

/** One row of a stage's list: who and what, how the cost stands, what is left of it, and since or until when. */
export function Row({ row, on, open, stage }: { row: WorkRow; on: boolean; open: () => void; stage: Stage }) {
  const element = useKeptInSight<HTMLDivElement>(on);
  const late = row.response && stage !== "quoted" ? row.response.late : row.stuck;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the list moves with j, k and the arrows for all rows at once
    // biome-ignore lint/a11y/useFocusableInteractive: focus stays on the list, as the listbox pattern has it
    <div
      ref={element}
      id={rowId(address(row))}
      className={`${besideStyles.row} ${styles.row}`}
      role="option"
      aria-selected={on}
      aria-label={inWords(row, stage)}
      onClick={open}
      data-row={address(row)}
    >
      <span className={styles.number}>{row.number}</span>
      <span>
        <div className={styles.who}>{row.customer}</div>
        <div className={styles.what}>{row.title || words(row.remark)}</div>
      </span>
      <SmallLadder rungs={row.rungs} />
      <span className="figure">
        <div className={loses(row, stage) || row.belowFloor ? `${styles.share} needs` : styles.share}>
          {stage === "paid" ? money(row.valueMinor) : percent(kept(row), 0)}
        </div>
        <div className={late ? `${styles.when} needs` : styles.when}>
          {row.response && stage !== "quoted" ? timeLeft(row.response.minutesLeft) : when(row, stage)}
        </div>
      </span>
    </div>
  );
}

/** What it keeps of its charge: at its end where that can be said. */
const kept = (row: WorkRow) => row.forecastPercent ?? row.marginPercent;

const loses = (row: WorkRow, stage: Stage) => (kept(row) ?? 0) < 0 && stage !== "paid";

function when(row: WorkRow, stage: Stage): string {
  if (stage === "billed") {
    return row.ageDays > 0 ? `${row.ageDays} d late` : `due ${day(row.day)}`;
  }
  if (row.remark === "no_job_yet") {
    return words(row.remark);
  }
  if (stage === "quoted" || stage === "won" || row.remark === "bill_awaited") {
    return row.remark === "sent" || row.remark === "no_time_yet"
      ? day(row.day)
      : `${words(row.remark)}, ${day(row.day)}`;
  }
  return day(row.day);
}

/** The row as it is read out, with what its figures are. */
function inWords(row: WorkRow, stage: Stage): string {
  const share =
    stage === "paid"
      ? `${money(row.valueMinor)} received`
      : kept(row) == null
        ? undefined
        : `margin ${percent(kept(row), 0)}${loses(row, stage) ? ", a loss" : ""}`;
  const low = row.belowFloor ? "below our floor" : undefined;
  const over = row.rungs.some((rung) => rung.quotedMinor > 0 && rung.actualMinor > rung.quotedMinor)
    ? "over its quote"
    : undefined;
  return [row.number, row.customer, row.title, share, low, over, dayInWords(row, stage)]
    .filter((part) => part !== undefined && part !== "")
    .join(", ");
}

function dayInWords(row: WorkRow, stage: Stage): string {
  if (row.response && stage !== "quoted") {
    const { minutesLeft } = row.response;
    return minutesLeft < 0
      ? `somebody was to be there ${hours(-minutesLeft)} hours ago`
      : `somebody has to be there within ${hours(minutesLeft)} hours`;
  }
  if (stage === "billed" && row.ageDays > 0) {
    return row.ageDays === 1 ? "1 day late" : `${row.ageDays} days late`;
  }
  return row.stuck ? `${when(row, stage)}, for too long` : when(row, stage);
}
