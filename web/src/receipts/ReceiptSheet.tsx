import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../api/queries";
import { money } from "../format";
import { Section } from "../records/Section";
import { ReceiptLine } from "./ReceiptLine";

/** Money that is for no job and no quote. */
export function ReceiptSheet({ id }: { id: number }) {
  const { data: receipt } = useQuery(queries.receipt(id));
  if (!receipt) {
    return <div className="sheet" />;
  }
  return (
    <div className="sheet">
      <h1>
        Receipt {receipt.number}, {money(receipt.amountMinor)}
      </h1>
      <p>
        <Link to={`/customers/${receipt.customerId}`}>{receipt.customer}</Link>{" "}
        <span className="soft">on account, for no job</span>
      </p>
      <Section name="Money">
        <ReceiptLine receipt={receipt} />
      </Section>
    </div>
  );
}
