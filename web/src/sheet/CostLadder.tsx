import type { Cost, Reason, Rung } from "../api/generated/schema";
import { hours, money, moneyOrDash, percent } from "../format";

/**
 * Quoted against actual for each rung, ending in the margin. Outlined is what was quoted, solid what it took, copper
 * what went over. While work is still going on, what is not spent yet is no saving: only what is over already is told.
 */
export function CostLadder({
  cost,
  goingOn,
  notCharged,
  promised,
}: {
  cost: Cost;
  goingOn: boolean;
  notCharged: boolean;
  promised: boolean;
}) {
  const tells = (rung: Rung) => promised && cost.begun && (!goingOn || rung.varianceMinor > 0);
  const telling = cost.rungs.some(tells);
  const longest = Math.max(...cost.rungs.flatMap((rung) => [rung.quotedMinor, rung.actualMinor]), 1);
  const width = (minor: number) => `${(100 * minor) / longest}%`;
  return (
    <div className="ladder" data-section="ladder">
      <span className="head" />
      <span className="head" />
      <span className="head figure">{promised && "quoted"}</span>
      <span className="head figure">{cost.begun && "actual"}</span>
      <span className="head figure">{telling && "over"}</span>
      <span className="head because">{telling && "because"}</span>
      {cost.rungs.map((rung) => (
        <div key={rung.category} style={{ display: "contents" }} data-rung={rung.category}>
          <span>{rung.category.charAt(0).toUpperCase() + rung.category.slice(1)}</span>
          <span className="bar" aria-hidden="true">
            <i className="quoted" style={{ width: width(rung.quotedMinor) }} />
            <i
              className="actual"
              style={{
                width: width(promised ? Math.min(rung.actualMinor, rung.quotedMinor) : rung.actualMinor),
              }}
            />
            {promised && rung.varianceMinor > 0 && (
              <i
                className="beyond"
                style={{ left: width(rung.quotedMinor), width: width(rung.varianceMinor) }}
              />
            )}
          </span>
          <span className="figure">{promised && moneyOrDash(rung.quotedMinor)}</span>
          <span className="figure">{cost.begun && moneyOrDash(rung.actualMinor)}</span>
          <span className={promised && rung.varianceMinor > 0 ? "figure over" : "figure"}>
            {tells(rung) && moneyOrDash(rung.varianceMinor)}
          </span>
          <span className="because">{tells(rung) && because(rung.because)}</span>
        </div>
      ))}
      <div className="margin-line" />
      <b>Margin</b>
      {goingOn ? (
        <Promised cost={cost} promised={promised} />
      ) : (
        <Reached cost={cost} notCharged={notCharged} promised={promised} />
      )}
      {cost.overheadMinor > 0 && (
        <>
          <span className="soft small">Overhead</span>
          <span className="soft small">by labour hours, not in the margin</span>
          <span />
          <span className="figure soft small">{money(cost.overheadMinor)}</span>
          <span />
          <span />
        </>
      )}
    </div>
  );
}

const sign = (value: number) => (value < 0 ? "−" : "+");
const signedHours = (minutes: number) => sign(minutes) + hours(Math.abs(minutes));
const signedMoney = (minor: number) => sign(minor) + money(Math.abs(minor));
const signedQuantity = (quantity: number) => sign(quantity) + Math.abs(quantity);

const because = (reasons: Reason[]): string => reasons.map(told).join("");

function told(reason: Reason, place: number): string {
  const between = place === 0 ? "" : reason.kind === "rate" ? " · " : ", ";
  switch (reason.kind) {
    case "hours":
      return `hours ${signedHours(reason.minutes)}, ${signedMoney(reason.amountMinor)}`;
    case "rate":
      return `${between}rate ${signedMoney(reason.amountMinor)}`;
    case "drive_minutes":
      return signedHours(reason.minutes);
    case "miles":
      return `${between}${signedQuantity(reason.quantity)} mi`;
    case "part":
      return `${between}${signedQuantity(reason.quantity)} ${reason.part}`;
    case "further_parts":
      return ` and ${reason.quantity} more`;
  }
}

/** What is hoped for while the work is still going on. */
function Promised({ cost, promised }: { cost: Cost; promised: boolean }) {
  return (
    <>
      <span className="soft small">
        {promised && `promised ${percent(cost.quotedMarginPercent)}; `}
        {cost.begun ? `${money(cost.actualMinor)} spent so far` : "nothing is recorded yet"}
      </span>
      <b className="figure">{promised && money(cost.quotedMarginMinor)}</b>
      <span />
      <span />
      <span />
    </>
  );
}

function Reached({ cost, notCharged, promised }: { cost: Cost; notCharged: boolean; promised: boolean }) {
  return (
    <>
      <span className="soft small">
        net {money(cost.netMinor)} less cost {money(cost.actualMinor)}
      </span>
      <b className="figure">{promised && money(cost.quotedMarginMinor)}</b>
      <b className={cost.marginMinor < 0 ? "figure over" : "figure"}>{money(cost.marginMinor)}</b>
      <span className={promised && cost.marginDifferenceMinor < 0 ? "figure over" : "figure"}>
        {promised && money(cost.marginDifferenceMinor)}
      </span>
      <span className="because">
        <b className="together">{notCharged ? "not charged" : `${percent(cost.marginPercent)} of net`}</b>
        {promised && (
          <>
            , <span className="together">promised {percent(cost.quotedMarginPercent)}</span>
          </>
        )}
      </span>
    </>
  );
}
