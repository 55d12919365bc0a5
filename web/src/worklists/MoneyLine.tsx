import { useQuery } from "@tanstack/react-query";
import { NavLink } from "react-router";
import type { StageTotal } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, headline, roundMoney } from "../format";
import styles from "./MoneyLine.module.css";

/** Where money can stand, from the quote to the money that came. */
export const STAGES = ["quoted", "won", "booked", "worked", "checked", "billed", "paid"] as const;

export type Stage = (typeof STAGES)[number];

const BAND_HEIGHT = 18;

/** Where all money stands; each stage opens its worklist. The band below is as thick as the money there. */
export function MoneyLine({ currency }: { currency: string }) {
  const { data } = useQuery(queries.moneyLine);
  if (!data) {
    return <nav className={styles.line} aria-label="Money line" aria-busy="true" />;
  }
  return (
    <nav
      className={styles.line}
      aria-label={`Money line, amounts in ${currency}; net until checked, with VAT once billed`}
    >
      {data.map((total) => (
        <NavLink key={total.stage} to={`/${total.stage}`} data-stage={total.stage}>
          <span className={styles.stage}>{headline(total.stage)}</span>{" "}
          <span className={styles.aside}>{counted(total.stage, total.count)}</span>{" "}
          <span className={styles.sum}>{roundMoney(total.amountMinor)}</span>{" "}
          <span className={total.stuck ? `${styles.aside} ${styles.stuck}` : styles.aside}>
            {remark(total)}
            {total.belowFloor > 0 && (
              <span className={styles.stuck} title={`${total.belowFloor} keep less than our floor`}>
                {" "}
                {total.belowFloor} low
              </span>
            )}
          </span>
        </NavLink>
      ))}
      <svg viewBox={`0 0 700 ${BAND_HEIGHT}`} preserveAspectRatio="none" aria-hidden="true">
        <path d={band(data)} />
      </svg>
    </nav>
  );
}

/** How many of what stands at a stage: "21 receipts". */
export const counted = (stage: string, count: number): string => {
  const noun =
    stage === "quoted" ? "quote" : stage === "billed" ? "invoice" : stage === "paid" ? "receipt" : "job";
  return `${count} ${noun}${count === 1 ? "" : "s"}`;
};

/** A flat stretch per stage, with a slope from each to the next. */
function band(totals: StageTotal[]): string {
  const most = Math.max(...totals.map((total) => total.amountMinor), 1);
  const width = 700 / totals.length;
  const points = totals.flatMap((total, index) => {
    const height = BAND_HEIGHT - 2 - (total.amountMinor / most) * (BAND_HEIGHT - 4);
    return [`${index * width + 12},${height.toFixed(1)}`, `${(index + 1) * width - 6},${height.toFixed(1)}`];
  });
  return `M0,${BAND_HEIGHT} L0,${points[0]?.split(",")[1]} L${points.join(" L")} L700,${points.at(-1)?.split(",")[1]} L700,${BAND_HEIGHT} Z`;
}

/** How old the oldest is, how late, or until when work is booked. */
function remark(total: StageTotal): string {
  if (total.stage === "paid") {
    return "this month";
  }
  if (total.until) {
    return `to ${day(total.until)}`;
  }
  if (total.days == null) {
    return "";
  }
  if (total.stage === "billed") {
    return total.days > 0 ? `${total.days} d late` : "none late";
  }
  return `${total.days} d`;
}
