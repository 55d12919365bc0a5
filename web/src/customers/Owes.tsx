import { useQuery } from "@tanstack/react-query";
import type { Debt } from "../api/generated/schema";
import { queries } from "../api/queries";
import { money } from "../format";

/** What the customer owes, with the late part marked; nothing for one who owes nothing. */
export function Owes({ debt }: { debt: Debt }) {
  if (debt.owedMinor === 0) {
    return null;
  }
  return (
    <>
      {" · "}owes {money(debt.owedMinor)}
      {debt.lateMinor > 0 && (
        <span className="needs">
          , {debt.lateMinor === debt.owedMinor ? "all" : money(debt.lateMinor)} late by {debt.lateDays}{" "}
          {debt.lateDays === 1 ? "day" : "days"}
        </span>
      )}
    </>
  );
}

/** The same of a customer whose debt the page does not know yet. */
export function OwesOf({ customerId }: { customerId: number }) {
  const { data } = useQuery(queries.debt(customerId));
  return data ? <Owes debt={data} /> : null;
}
