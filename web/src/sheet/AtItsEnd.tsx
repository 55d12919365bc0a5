import type { JobForecast, ToCome } from "../api/generated/schema";
import { day, headline, hours, percent } from "../format";
import { Money } from "../kit/figures";
import { Lines } from "../kit/Lines";
import styles from "./AtItsEnd.module.css";

/** What a job comes to at its end: what is wrong with that and what can be done, and what is still to come of it. */
export function AtItsEnd({ forecast }: { forecast: JobForecast }) {
  const { ahead, belowFloor, reasons, remedy, marginPercent, floorPercent } = forecast;
  return (
    <div className={styles.end} data-section="forecast">
      {belowFloor && (
        <p className={styles.low} role="note">
          <b>
            {ahead.length > 0 ? "At its end it keeps" : "It keeps"} {percent(marginPercent ?? null)}, below
            our floor of {percent(floorPercent)}
          </b>
          {reasons.length > 0 && `: ${reasons.join("; ")}`}. {remedy}
        </p>
      )}
      {ahead.length > 0 && (
        <details>
          <summary>What is still to come, {hours(minutes(ahead))} of labour among it</summary>
          <Lines
            caption="What is still to come"
            columns={[
              { name: "Cost", width: 66 },
              { name: "What" },
              { name: "time", figure: true, width: 70 },
              { name: "", figure: true, width: 80 },
              { name: "cost", figure: true, width: 90 },
            ]}
          >
            {ahead.map((item, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the list is made anew as a whole
              <tr key={place}>
                <td>{headline(item.category)}</td>
                <td>{what(item)}</td>
                <td className="figure">{item.minutes > 0 && hours(item.minutes)}</td>
                <td className="figure">{amount(item)}</td>
                <td className="figure">
                  <Money minor={item.costMinor} nil="dash" />
                </td>
              </tr>
            ))}
          </Lines>
        </details>
      )}
    </div>
  );
}

const minutes = (ahead: ToCome[]) =>
  ahead.filter(({ category }) => category === "labour").reduce((sum, item) => sum + item.minutes, 0);

function what({ kind, person, day: on, description, rateClass }: ToCome): string {
  if (kind === "planned") {
    return [person || "nobody chosen yet", on && day(on), rateClass !== "normal" && rateClass]
      .filter(Boolean)
      .join(", ");
  }
  if (kind === "awaited") {
    return `${description}, bill awaited`;
  }
  return kind === "as_before" ? "as far as before" : `${description}, promised`;
}

const amount = ({ miles, quantity }: ToCome): string =>
  miles > 0 ? `${miles} mi` : quantity > 0 ? String(quantity) : "";
