import type { Cost, JobForecast, Reason, Rung } from "../api/generated/schema";
import { headline, hours, money, percent } from "../format";
import { Money } from "../kit/figures";
import styles from "./CostLadder.module.css";

/**
 * Quoted against actual for each rung, ending in the margin. Outlined is what was quoted, solid what it took, copper
 * what went over. While work is still going on, what is not spent yet is no saving: what it comes to at its end is told
 * beside, and only what goes over.
 */
export function CostLadder({
  cost,
  forecast,
  goingOn,
  notCharged,
  promised,
}: {
  cost: Cost;
  /** What it comes to at its end; nothing once it is closed. */
  forecast?: JobForecast;
  goingOn: boolean;
  notCharged: boolean;
  promised: boolean;
}) {
  const ahead = forecast && forecast.ahead.length > 0 ? forecast : undefined;
  const atTheEnd = (rung: Rung) => ahead?.rungs.find(({ category }) => category === rung.category);
  const over = (rung: Rung) => atTheEnd(rung)?.overMinor ?? rung.varianceMinor;
  const tells = (rung: Rung) =>
    promised && (ahead ? over(rung) > 0 : cost.begun && (!goingOn || rung.varianceMinor > 0));
  const telling = cost.rungs.some(tells);
  const longest = Math.max(...cost.rungs.flatMap((rung) => [rung.quotedMinor, rung.actualMinor]), 1);
  return (
    <div className={styles.scroll}>
      <table className={styles.ladder} data-section="ladder">
        <caption className="visually-hidden">Cost, quoted and actual</caption>
        <thead>
          <tr>
            <Head name="Cost" look={styles.category} />
            <Head name="Bar" />
            <Head name="quoted" shown={promised} look={`figure ${styles.amount}`} />
            <Head name="actual" shown={cost.begun} look={`figure ${styles.amount}`} />
            {ahead && <Head name="at its end" shown look={`figure ${styles.amount}`} />}
            <Head name="over" shown={telling} look={`figure ${styles.amount}`} />
            <Head name="because" shown={telling} look={styles.why} />
          </tr>
        </thead>
        <tbody>
          {cost.rungs.map((rung) => (
            <tr key={rung.category} data-rung={rung.category}>
              <th scope="row">{headline(rung.category)}</th>
              <td>
                <Bars rung={rung} longest={longest} promised={promised} />
              </td>
              <td className="figure">{promised && <Money minor={rung.quotedMinor} nil="dash" />}</td>
              <td className="figure">{cost.begun && <Money minor={rung.actualMinor} nil="dash" />}</td>
              {ahead && (
                <td className="figure">
                  <Money minor={atTheEnd(rung)?.costMinor ?? 0} nil="dash" />
                </td>
              )}
              <td className={promised && over(rung) > 0 ? `figure ${styles.over}` : "figure"}>
                {tells(rung) && <Money minor={over(rung)} nil="dash" />}
              </td>
              <td className={styles.because}>
                {tells(rung) && (atTheEnd(rung) ?? rung).because.map(told).join("")}
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          {goingOn || ahead ? (
            <Promised cost={cost} forecast={ahead} promised={promised} />
          ) : (
            <Reached cost={cost} notCharged={notCharged} promised={promised} />
          )}
          {cost.overheadMinor > 0 && (
            <tr className="soft small">
              <th scope="row">Overhead</th>
              <td>by labour hours, not in the margin</td>
              <td />
              <td className="figure">
                <Money minor={cost.overheadMinor} />
              </td>
              {ahead && (
                <td className="figure">
                  <Money minor={ahead.overheadMinor} />
                </td>
              )}
              <td />
              <td />
            </tr>
          )}
        </tfoot>
      </table>
    </div>
  );
}

function Head({ name, shown = false, look }: { name: string; shown?: boolean; look?: string }) {
  return (
    <th scope="col" className={look}>
      {shown ? name : <span className="visually-hidden">{name}</span>}
    </th>
  );
}

function Bars({ rung, longest, promised }: { rung: Rung; longest: number; promised: boolean }) {
  const width = (minor: number) => `${(100 * minor) / longest}%`;
  return (
    <span className={styles.bar} aria-hidden="true">
      <i className={styles.quoted} style={{ width: width(rung.quotedMinor) }} />
      <i
        className={styles.actual}
        style={{
          width: width(promised ? Math.min(rung.actualMinor, rung.quotedMinor) : rung.actualMinor),
        }}
      />
      {promised && rung.varianceMinor > 0 && (
        <i
          className={styles.beyond}
          style={{ left: width(rung.quotedMinor), width: width(rung.varianceMinor) }}
        />
      )}
    </span>
  );
}

const sign = (value: number) => (value < 0 ? "−" : "+");
const signedHours = (minutes: number) => sign(minutes) + hours(Math.abs(minutes));
const signedMoney = (minor: number) => sign(minor) + money(Math.abs(minor));
const signedQuantity = (quantity: number) => sign(quantity) + Math.abs(quantity);

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
function Promised({ cost, forecast, promised }: { cost: Cost; forecast?: JobForecast; promised: boolean }) {
  const low = forecast?.belowFloor ? styles.over : "";
  return (
    <tr className={styles.margin}>
      <th scope="row">Margin</th>
      <td className="soft small">
        {promised && `promised ${percent(cost.quotedMarginPercent)}; `}
        {cost.begun ? `${money(cost.actualMinor)} spent so far` : "nothing is recorded yet"}
      </td>
      <td className="figure">{promised && <Money strong minor={cost.quotedMarginMinor} />}</td>
      <td />
      {forecast && (
        <td className={`figure ${low}`}>
          <Money strong minor={forecast.marginMinor} />
        </td>
      )}
      <td />
      <td className={styles.because}>
        {forecast?.marginPercent != null && (
          <b className={`together ${low}`}>{percent(forecast.marginPercent)} at its end</b>
        )}
      </td>
    </tr>
  );
}

function Reached({ cost, notCharged, promised }: { cost: Cost; notCharged: boolean; promised: boolean }) {
  return (
    <tr className={styles.margin}>
      <th scope="row">Margin</th>
      <td className="soft small">
        net {money(cost.netMinor)} less cost {money(cost.actualMinor)}
      </td>
      <td className="figure">{promised && <Money strong minor={cost.quotedMarginMinor} />}</td>
      <td className={cost.marginMinor < 0 ? `figure ${styles.over}` : "figure"}>
        <Money strong minor={cost.marginMinor} />
      </td>
      <td className={promised && cost.marginDifferenceMinor < 0 ? `figure ${styles.over}` : "figure"}>
        {promised && <Money minor={cost.marginDifferenceMinor} />}
      </td>
      <td className={styles.because}>
        <b className="together">{notCharged ? "not charged" : `${percent(cost.marginPercent)} of net`}</b>
        {promised && (
          <>
            , <span className="together">promised {percent(cost.quotedMarginPercent)}</span>
          </>
        )}
      </td>
    </tr>
  );
}
