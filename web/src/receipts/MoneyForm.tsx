import { answer, client, withKey } from "../api/client";
import type { ReceiptForm } from "../api/generated/schema";
import { words } from "../format";
import { ChoiceField, MoneyField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";

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
  const form = useForm({
    version: 0,
    draft: {
      amount: (expectedMinor / 100).toFixed(2),
      receivedOn: "today",
      method: "bank_transfer" as PaymentMethod,
    },
  });
  const receive = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/receipts", {
          params: withKey(key),
          body: { ...purpose, ...form.draft },
        }),
      ),
    {
      refused: form.refused,
      done: form.saved,
      said: `Recorded: ${form.draft.amount} received.`,
    },
  );
  return (
    <InlineForm
      form={form}
      label="Record money received"
      confirm="Record receipt"
      running={receive.running}
      submit={() => receive.run(undefined)}
    >
      <MoneyField form={form} name="amount" label="Amount" width={96} needed />
      <TextField form={form} name="receivedOn" label="On" width={92} needed />
      <ChoiceField
        form={form}
        name="method"
        label="By"
        width={140}
        options={METHODS.map((value) => ({ value, label: words(value) }))}
      />
    </InlineForm>
  );
}
