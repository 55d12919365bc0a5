import type { Computed, Totals as TotalFigures, TypedLine } from "../api/generated/schema";
import { money, percent } from "../format";
import { counts, PER } from "./draft";

const amount = (minor: number | null | undefined) => (minor == null ? "" : money(minor));

/** The lines of a quote that can no longer change. */
export function QuoteLinesRead({ lines, computed }: { lines: TypedLine[]; computed: Computed }) {
  return (
    <table className="lines">
      <thead>
        <tr>
          <th style={{ width: 64 }} />
          <th />
          <th className="figure">quantity</th>
          <th className="figure">price</th>
          <th className="figure">cost</th>
          <th className="figure">net</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a sent quote's lines never change places
          <tr key={index} className={counts(line) ? undefined : "not-taken"}>
            <td className="soft small">{line.category}</td>
            <td className={line.category === "heading" ? "heading" : undefined}>
              {line.description}
              {line.discount && <span className="soft small"> less {line.discount}</span>}
              {(computed.lines[index]?.warrantyReductionMinor ?? 0) > 0 && (
                <span className="soft small">
                  {" "}
                  less warranty {computed.lines[index]?.warrantyPercent} %,{" "}
                  {amount(computed.lines[index]?.warrantyReductionMinor)}
                </span>
              )}
              {line.warrantyExclusion && (
                <span className="soft small"> not under warranty: {line.warrantyExclusion}</span>
              )}
              {(line.choice ?? "included") !== "included" && (
                <span className="soft small">
                  {" "}
                  {line.choice === "alternative" ? line.group : "if wanted"},{" "}
                  {line.taken ? "chosen" : "not chosen"}
                </span>
              )}
            </td>
            <td className="figure">
              {line.time ?? line.quantity}
              {line.miles && `, ${line.miles} mi`}
            </td>
            <td className="figure">
              {line.price}
              {PER[line.charge ?? ""]}
            </td>
            <td className="figure soft">{amount(computed.lines[index]?.costMinor)}</td>
            <td className="figure">{amount(computed.lines[index]?.netMinor)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What the customer pays beside what is left for us. */
export function Totals({ totals }: { totals: TotalFigures }) {
  return (
    <div className="totals" data-section="totals">
      <table className="lines">
        <tbody>
          <tr>
            <td>Net</td>
            <td className="figure">{money(totals.netMinor)}</td>
          </tr>
          {totals.vat.map((rate) => (
            <tr key={rate.words}>
              <td className="soft">{rate.words}</td>
              <td className="figure soft">{money(rate.vatMinor)}</td>
            </tr>
          ))}
          <tr className="total">
            <td>To pay</td>
            <td className="figure">{money(totals.grossMinor)}</td>
          </tr>
        </tbody>
      </table>
      <table className="lines">
        <tbody>
          <tr>
            <td>Net</td>
            <td className="figure">{money(totals.netMinor)}</td>
          </tr>
          <tr>
            <td className="soft">Cost</td>
            <td className="figure soft">{money(totals.costMinor)}</td>
          </tr>
          <tr className="total">
            <td className={totals.belowFloor ? "needs" : undefined}>
              Margin {percent(totals.marginPercent)}
              {totals.belowFloor && ", below our floor"}
            </td>
            <td className={totals.belowFloor ? "figure needs" : "figure"}>{money(totals.marginMinor)}</td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}
