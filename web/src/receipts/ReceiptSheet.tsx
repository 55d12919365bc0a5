import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../api/queries";
import { money } from "../format";
import { Section } from "../kit/Section";
import { Sheet, SheetHead, WaitingSheet } from "../kit/Sheet";
import { ReceiptLine } from "./ReceiptLine";

/** Money that is for no job and no quote. */
export function ReceiptSheet({ id }: { id: number }) {
  const { data: receipt, error } = useQuery(queries.receipt(id));
  if (!receipt) {
    return <WaitingSheet sections={["Money"]} fault={error?.message} />;
  }
  return (
    <Sheet
      label={`Receipt ${receipt.number}`}
      head={
        <SheetHead
          number={`R ${receipt.number}`}
          title={`Receipt ${receipt.number}, ${money(receipt.amountMinor)}`}
          about={
            <>
              <Link to={`/customers/${receipt.customerId}`}>{receipt.customer}</Link>, on account, for no job
            </>
          }
        />
      }
    >
      <Section name="Money">
        <ReceiptLine receipt={receipt} />
      </Section>
    </Sheet>
  );
}
