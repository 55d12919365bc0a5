import { useQuery } from "@tanstack/react-query";
import type { HeldPart, StockMovement } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moment, moneyOrDash } from "../format";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";

const KINDS: Record<StockMovement["kind"], string> = {
  received: "delivered",
  used: "used",
  put_back: "put back",
  moved: "handed over",
  beyond_stock: "used beyond the stock",
  explained: "explained",
  counted: "counted",
};

/** What moved of a part, the latest first. */
export function Movements({ part }: { part: HeldPart }) {
  const { data } = useQuery(queries.stockMovements(part.id));
  if (!data || data.length === 0) {
    return null;
  }
  return (
    <Section name="Moved">
      <Lines
        caption={`Movements of ${part.name}`}
        columns={[
          { name: "When" },
          { name: "What" },
          { name: "Where" },
          { name: "By" },
          { name: "Quantity", figure: true },
          { name: "Cost", figure: true },
        ]}
      >
        {data.map((movement) => (
          <tr key={movement.id}>
            <td>{moment(movement.at)}</td>
            <td>{KINDS[movement.kind]}</td>
            <td>{movement.place ?? ""}</td>
            <td>{movement.by}</td>
            <td className="figure">{String(movement.quantity).replace("-", "−")}</td>
            <td className="figure">{moneyOrDash(movement.costMinor)}</td>
          </tr>
        ))}
      </Lines>
    </Section>
  );
}
