import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { JobSheet, OwnCharge } from "../api/generated/schema";
import { money } from "../format";
import { MoneyField, QuantityField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { Lines } from "../kit/Lines";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { Word } from "../kit/Word";
import { useMay } from "../people/useMay";

/** What the customer pays by time and parts besides the work: a diagnosis, a certificate. */
export function Charges({ job }: { job: JobSheet }) {
  const mayBill = useMay("bill");
  const [adding, setAdding] = useState(false);
  return (
    <div data-section="charges">
      {job.charges.length > 0 && (
        <Lines
          caption="Charged besides the work, by time and parts"
          columns={[{ name: "Charged besides the work" }, { name: "Net", silent: true, figure: true }]}
        >
          {job.charges.map((charge) => (
            <tr key={charge.id}>
              <td>
                {charge.description}
                {charge.quantity !== 1 && `, ${charge.quantity}`} {mayBill && <Remove charge={charge} />}
              </td>
              <td className="figure">{money(charge.netMinor)}</td>
            </tr>
          ))}
        </Lines>
      )}
      {mayBill && !adding && (
        <Word id={`charge-${job.id}`} run={() => setAdding(true)}>
          Another charge
        </Word>
      )}
      {adding && <ChargeForm jobId={job.id} close={() => setAdding(false)} />}
    </div>
  );
}

function Remove({ charge }: { charge: OwnCharge }) {
  const params = { path: { id: charge.id } };
  const putBack = useAct(
    (version: number) => answer(client.POST("/api/job-charges/{id}/put-back", { params, body: { version } })),
    { said: `Charged again: ${charge.description}.` },
  );
  const remove = useAct(
    () => answer(client.POST("/api/job-charges/{id}/remove", { params, body: { version: charge.version } })),
    {
      said: ({ version }) => ({
        text: `No longer charged: ${charge.description}.`,
        undo: { label: "Put it back", run: () => putBack.run(version) },
      }),
    },
  );
  return (
    <Word of={`, ${charge.description}`} run={() => remove.run()}>
      remove
    </Word>
  );
}

function ChargeForm({ jobId, close }: { jobId: number; close: () => void }) {
  const form = useForm({ version: 0, draft: { description: "", quantity: "1", price: "" } });
  const save = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/jobs/{id}/charges", {
          params: { path: { id: jobId }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    { done: close, refused: form.refused, said: "The charge is on the job." },
  );
  return (
    <InlineForm
      form={form}
      label="Another charge"
      confirm="Charge it"
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
    >
      <TextField form={form} name="description" label="For what" needed autoFocus />
      <QuantityField form={form} name="quantity" label="Quantity" width={80} needed />
      <MoneyField form={form} name="price" label="Price of one, without VAT" width={150} needed />
    </InlineForm>
  );
}
