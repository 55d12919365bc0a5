import type { WantedPart } from "../api/generated/schema";
import { weekday } from "../format";

/** What is wanted, such as "2 Limit switch". */
export const partName = ({
  quantity,
  part,
  words,
}: Pick<WantedPart, "quantity" | "part" | "words">): string =>
  `${quantity} ${part ?? (words || "of nobody knows what")}`;

const on = (moment: string | null | undefined) => (moment ? weekday(moment.slice(0, 10)) : "");

/** How far it is, such as "ordered from Harrow & Lyle by Hester, expected Wed 2 Dec". */
export function standing(part: WantedPart): string {
  switch (part.state) {
    case "wanted":
      return `wanted since ${on(part.wantedAt)}, asked for by ${part.wantedBy}`;
    case "ordered":
      return [
        `ordered ${on(part.orderedAt)}${part.supplier && ` from ${part.supplier}`} by ${part.orderedBy}`,
        part.expectedOn ? `expected ${weekday(part.expectedOn)}` : "nobody knows when it comes",
      ].join(", ");
    case "arrived":
      return `there since ${on(part.arrivedAt)}, to be fitted`;
    case "fitted":
      return `fitted ${on(part.closedAt)}, noted by ${part.closedBy}`;
    case "no_longer_wanted":
      return `no longer wanted since ${on(part.closedAt)}: ${part.reason}`;
  }
}
