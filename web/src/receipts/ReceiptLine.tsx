import { answer, client, withKey } from "../api/client";
import type { ReceiptView } from "../api/generated/schema";
import { day, money, words } from "../format";
import { Asking } from "../kit/Asking";
import { useAct } from "../kit/useAct";
import { useMay } from "../people/useMay";
import styles from "./ReceiptLine.module.css";

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
    <div className={styles.receipt} data-receipt={receipt.number}>
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
  const path = { id: receipt.id };
  const { version } = receipt;
  const office = useMay("give_money_back");
  const giveBack = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/receipts/{id}/give-back", {
          params: { path, ...withKey(key) },
          body: { version },
        }),
      ),
    { said: `Given back: ${money(receipt.leftMinor)} of receipt ${receipt.number}.` },
  );
  const takeBack = useAct(
    (reason: string, key) =>
      answer(
        client.POST("/api/receipts/{id}/take-back", {
          params: { path, ...withKey(key) },
          body: { version, reason },
        }),
      ),
    { said: `Taken back: receipt ${receipt.number}. What it paid is owed again.` },
  );
  return (
    <span className={styles.actions}>
      {office && receipt.leftMinor > 0 && (
        // What went back cannot be undone, so a slip of the mouse must not do it.
        <Asking
          label={`Give ${money(receipt.leftMinor)} back…`}
          title={`Give ${money(receipt.leftMinor)} back to the customer?`}
          confirm="It went back"
          run={() => giveBack.run(undefined)}
          running={giveBack.running}
        />
      )}
      {office && !receipt.takenBackOn && receipt.givenBack.length === 0 && (
        <Asking
          plain
          label="Did not come…"
          of={`receipt ${receipt.number}`}
          title={`Take receipt ${receipt.number} back?`}
          question="Why? What it paid is owed again."
          confirm="Take it back"
          run={(reason) => takeBack.run(reason)}
        />
      )}
    </span>
  );
}
