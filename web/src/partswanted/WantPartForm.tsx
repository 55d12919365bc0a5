import { useQuery } from "@tanstack/react-query";
import { answer, client, withKey } from "../api/client";
import { queries } from "../api/queries";
import { Field } from "../kit/Field";
import { ChoiceField, QuantityField, TextField, TickField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { PartSelect } from "../stores/PartSelect";

/** A part that the office knows to be missing; everything may be left blank. */
export function WantPartForm({ jobId, close }: { jobId: number; close: () => void }) {
  const form = useForm({
    version: 0,
    draft: {
      partId: undefined as number | undefined,
      equipmentId: undefined as number | undefined,
      words: "",
      quantity: "",
      urgent: false,
    },
  });
  const { data: pieces } = useQuery(queries.equipmentOnSite(jobId));
  const want = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/jobs/{id}/parts-wanted", {
          params: { path: { id: jobId }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    { done: close, refused: form.refused, said: "Noted. The job waits for the part." },
  );
  return (
    <InlineForm
      form={form}
      label="Part wanted"
      confirm="It is wanted"
      running={want.running}
      submit={() => want.run(undefined)}
      close={close}
    >
      <Field label="Of the price list" fault={form.fault("partId")}>
        {(tied) => (
          <PartSelect tied={tied} value={form.draft.partId} onChange={(partId) => form.change({ partId })} />
        )}
      </Field>
      <QuantityField form={form} name="quantity" label="How many" width={90} placeholder="1" />
      <TextField form={form} name="words" label="Or in words" width={260} placeholder="what it is" />
      {pieces && pieces.length > 0 && (
        <ChoiceField
          form={form}
          name="equipmentId"
          label="For"
          width={260}
          placeholder={pieces.find(({ ofJob }) => ofJob)?.name ?? "no equipment"}
          options={pieces.map(({ id, name }) => ({ value: id, label: name }))}
        />
      )}
      <TickField form={form} name="urgent" label="urgent" />
    </InlineForm>
  );
}
