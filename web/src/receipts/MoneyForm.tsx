import { Button, Input, Select } from "antd";
import { useState } from "react";
import { answer, client, type Problem, withKey } from "../api/client";
import type { ReceiptForm } from "../api/generated/schema";
import { useAct } from "../api/useAct";
import { words } from "../format";

type PaymentMethod = NonNullable<ReceiptForm["method"]>;
const METHODS: PaymentMethod[] = ["bank_transfer", "card", "cash", "cheque"];

/** Money that came in, filled in with what usually comes: the amount asked for, by bank, today. */
export function MoneyForm({
  expectedMinor,
  purpose,
}: {
  expectedMinor: number;
  /** Whose it is, what it is meant for, and which invoices it pays. */
  purpose: Pick<ReceiptForm, "customerId" | "quoteId" | "jobId" | "allocations">;
}) {
  const [typed, setAmount] = useState<string>();
  const amount = typed ?? (expectedMinor / 100).toFixed(2);
  const [receivedOn, setReceivedOn] = useState("today");
  const [method, setMethod] = useState<PaymentMethod>("bank_transfer");
  const [problem, setProblem] = useState<Problem>();
  const receive = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/receipts", {
          params: withKey(key),
          body: { ...purpose, amount, receivedOn, method },
        }),
      ),
    {
      refused: setProblem,
      done: () => {
        setProblem(undefined);
        setAmount(undefined);
      },
    },
  );
  return (
    <form
      className="inline-form"
      aria-label="Record money received"
      onSubmit={(event) => {
        event.preventDefault();
        receive.run(undefined);
      }}
    >
      <label style={{ width: 96 }}>
        Amount
        <Input value={amount} onChange={(event) => setAmount(event.target.value)} inputMode="decimal" />
      </label>
      <label style={{ width: 92 }}>
        On
        <Input value={receivedOn} onChange={(event) => setReceivedOn(event.target.value)} />
      </label>
      <label className="wide" style={{ minWidth: 120 }}>
        By
        <Select
          value={method}
          onChange={setMethod}
          options={METHODS.map((value) => ({ value, label: words(value) }))}
        />
      </label>
      <Button type="primary" htmlType="submit" loading={receive.running}>
        Record receipt
      </Button>
      {problem?.faults
        .filter((fault) => fault.pointer !== "")
        .map((fault) => (
          <p key={fault.pointer} className="fault" role="alert">
            {fault.detail}
          </p>
        ))}
    </form>
  );
}
