import { App, Button } from "antd";
import { answer, client, withKey } from "../api/client";
import type { ReceiptView } from "../api/generated/schema";
import { useAct } from "../api/useAct";
import { day, money, words } from "../format";
import { useMay } from "../people/useMay";
import { Asking } from "../records/Asking";

/** Where the money of a receipt went, in words. */
function whereItWent(receipt: ReceiptView): string {
  if (receipt.takenBackOn) {
    return `taken back ${day(receipt.takenBackOn)}: ${receipt.takenBackReason}`;
  }
  return [
    ...receipt.allocations.map((part) => `${money(part.amountMinor)} onto invoice ${part.invoiceNumber}`),
    ...receipt.givenBack.map((part) => `${money(part.amountMinor)} given back ${day(part.givenBackOn)}`),
    ...(receipt.leftMinor > 0 ? [`${money(receipt.leftMinor)} held`] : []),
  ].join(", ");
}

/** One receipt, and what can still be done with it. */
export function ReceiptLine({ receipt }: { receipt: ReceiptView }) {
  return (
    <div className="receipt" data-receipt={receipt.number}>
      <span className={receipt.takenBackOn ? "soft" : undefined}>
        <b>{money(receipt.amountMinor)}</b>{" "}
        <span className="soft">
          receipt {receipt.number}, {day(receipt.receivedOn)} by {words(receipt.method)}
        </span>
      </span>
      <span className={receipt.takenBackOn ? "needs" : "soft"}>{whereItWent(receipt)}</span>
      <ReceiptActions receipt={receipt} />
    </div>
  );
}

/** Giving back what is left of a receipt, and taking back one whose money did not come. */
export function ReceiptActions({ receipt }: { receipt: ReceiptView }) {
  const { modal } = App.useApp();
  const path = { id: receipt.id };
  const { version } = receipt;
  const office = useMay("give_money_back");
  const giveBack = useAct((_: undefined, key) =>
    answer(
      client.POST("/api/receipts/{id}/give-back", {
        params: { path, ...withKey(key) },
        body: { version },
      }),
    ),
  );
  const takeBack = useAct((reason: string, key) =>
    answer(
      client.POST("/api/receipts/{id}/take-back", {
        params: { path, ...withKey(key) },
        body: { version, reason },
      }),
    ),
  );
  // What went back cannot be undone, so a slip of the mouse must not do it.
  const confirm = () =>
    modal.confirm({
      title: `Give ${money(receipt.leftMinor)} back to the customer?`,
      okText: "It went back",
      cancelText: "Leave it",
      onOk: () => giveBack.run(undefined),
    });
  return (
    <span className="actions">
      {office && receipt.leftMinor > 0 && (
        <Button size="small" onClick={confirm} loading={giveBack.running}>
          Give {money(receipt.leftMinor)} back
        </Button>
      )}
      {office && !receipt.takenBackOn && receipt.givenBack.length === 0 && (
        <Asking
          plain
          label="Did not come…"
          title={`Take receipt ${receipt.number} back?`}
          question="Why? What it paid is owed again."
          confirm="Take it back"
          run={(reason) => takeBack.run(reason)}
        />
      )}
    </span>
  );
}
