import type { Computed, Totals as TotalFigures, TypedLine } from "../api/generated/schema";
import { money, percent } from "../format";
import { Lines, TotalLine } from "../kit/Lines";
import { counts, PER } from "./draft";
import styles from "./QuoteLines.module.css";

const amount = (minor: number | null | undefined) => (minor == null ? "" : money(minor));

/** The lines of a quote that can no longer change. */
export function QuoteLinesRead({ lines, computed }: { lines: TypedLine[]; computed: Computed }) {
  return (
    <Lines
      caption="Lines of the quote"
      columns={[
        { name: "Kind", silent: true, width: 64 },
        { name: "What", silent: true },
        { name: "quantity", figure: true },
        { name: "price", figure: true },
        { name: "cost", figure: true },
        { name: "net", figure: true },
      ]}
    >
      {lines.map((line, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a sent quote's lines never change places
        <tr key={index} className={counts(line) ? undefined : styles.notTaken}>
          <td className="soft small">{line.category}</td>
          <td className={line.category === "heading" ? styles.heading : undefined}>
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
    </Lines>
  );
}

/** What the customer pays beside what is left for us. */
export function Totals({ totals }: { totals: TotalFigures }) {
  return (
    <div className={styles.totals} data-section="totals">
      <Lines
        caption="What the customer pays"
        columns={[
          { name: "Of the price", silent: true },
          { name: "Amount", silent: true, figure: true },
        ]}
      >
        <tr>
          <td>Net</td>
          <td className="figure">{money(totals.netMinor)}</td>
        </tr>
        {totals.vat.map((rate) => (
          <tr key={rate.words} className="soft">
            <td>{rate.words}</td>
            <td className="figure">{money(rate.vatMinor)}</td>
          </tr>
        ))}
        <TotalLine>
          <td>To pay</td>
          <td className="figure">{money(totals.grossMinor)}</td>
        </TotalLine>
      </Lines>
      <Lines
        caption="What is left for us"
        columns={[
          { name: "Of the price", silent: true },
          { name: "Amount", silent: true, figure: true },
        ]}
      >
        <tr>
          <td>Net</td>
          <td className="figure">{money(totals.netMinor)}</td>
        </tr>
        <tr className="soft">
          <td>Cost</td>
          <td className="figure">{money(totals.costMinor)}</td>
        </tr>
        <TotalLine>
          <td className={totals.belowFloor ? "needs" : undefined}>
            Margin {percent(totals.marginPercent)}
            {totals.belowFloor && ", below our floor"}
          </td>
          <td className={totals.belowFloor ? "figure needs" : "figure"}>{money(totals.marginMinor)}</td>
        </TotalLine>
      </Lines>
    </div>
  );
}
