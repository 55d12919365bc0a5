import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { answer, client, withKey } from "../api/client";
import type { Part, Time, Visit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { timeOf } from "../format";
import { Field } from "../kit/Field";
import { ChoiceField, MoneyField, QuantityField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { PartSelect } from "../stores/PartSelect";

type Entry = Omit<Time, "personId" | "person" | "minutes" | "costMinor" | "costed" | "corrected"> &
  // Whose it is can be put right on a visit.
  Partial<Pick<Time, "personId" | "person">>;

const BY_THE_CLOCK = "by_the_clock";

/**
 * Corrects a time entry, or adds one that nobody clocked: to a visit, also a helper's, or to somebody's day and no
 * visit. The reason is kept.
 */
export function TimeForm({
  entry,
  visit,
  ofDay,
  close,
}: {
  entry?: Entry;
  visit?: Visit;
  ofDay?: { personId: number; day: string };
  close: () => void;
}) {
  const { data: choices } = useQuery(queries.choices);
  const form = useForm({
    version: entry?.version ?? 0,
    draft: {
      personId: entry?.personId ?? visit?.technicianId ?? undefined,
      kind: entry?.kind ?? ("labour" as Time["kind"]),
      from: entry ? timeOf(entry.from, entry.fromDaysLater) : "",
      to: entry?.to ? timeOf(entry.to, entry.toDaysLater) : "",
      rateClass: (entry && !entry.byTheClock ? entry.rateClass : BY_THE_CLOCK) as
        | Time["rateClass"]
        | typeof BY_THE_CLOCK,
      miles: entry && entry.miles > 0 ? String(entry.miles) : "",
      description: entry?.description ?? "",
      reason: "",
    },
  });
  const { personId, rateClass, ...typed } = form.draft;
  const body = {
    ...typed,
    personId,
    version: form.version,
    rateClass: rateClass === BY_THE_CLOCK ? undefined : rateClass,
  };
  const whose = (choices?.technicians ?? []).map((person) => ({ value: person.id, label: person.name }));
  if (entry?.personId && entry.person && !whose.some(({ value }) => value === entry.personId)) {
    whose.unshift({ value: entry.personId, label: entry.person });
  }
  const save = useAct(
    (_: undefined, key) =>
      entry
        ? answer(client.PUT("/api/time-entries/{id}", { params: { path: { id: entry.id } }, body }))
        : ofDay
          ? answer(
              client.POST("/api/people/{id}/days/{day}/time-entries", {
                params: { path: { id: ofDay.personId, day: ofDay.day }, ...withKey(key) },
                body,
              }),
            )
          : answer(
              client.POST("/api/visits/{id}/time-entries", {
                params: { path: { id: visit?.id ?? 0 }, ...withKey(key) },
                body,
              }),
            ),
    { done: close, refused: form.refused, said: entry ? "The time is corrected." : "The time is added." },
  );
  const remove = useAct(
    () =>
      answer(
        client.POST("/api/time-entries/{id}/remove", {
          params: { path: { id: entry?.id ?? 0 } },
          body: { version: form.version, reason: form.draft.reason },
        }),
      ),
    { done: close, refused: form.refused, said: "The time is taken off; its history keeps it." },
  );
  return (
    <InlineForm
      form={form}
      label={entry ? "Correct time" : "Add time"}
      confirm={entry ? "Correct" : "Add"}
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
      overtaken="this entry"
      extra={
        entry && (
          <Button aria-label="Remove this time" onClick={() => remove.run()}>
            Remove
          </Button>
        )
      }
    >
      {(visit || entry?.personId) && (
        <ChoiceField form={form} name="personId" label="Whose" width={150} options={whose} />
      )}
      {!entry && (
        <ChoiceField
          form={form}
          name="kind"
          label="What"
          width={92}
          options={[
            { value: "labour", label: "Labour" },
            { value: "drive", label: "Drive" },
            ...(visit ? [] : [{ value: "break" as const, label: "Break" }]),
          ]}
        />
      )}
      <TextField form={form} name="from" label="From" width={72} needed autoFocus />
      <TextField form={form} name="to" label="To" width={72} needed />
      <ChoiceField
        form={form}
        name="rateClass"
        label="Hours"
        width={122}
        options={([BY_THE_CLOCK, "normal", "overtime", "night"] as const).map((value) => ({
          value,
          label: value === BY_THE_CLOCK ? "by the clock" : value,
        }))}
      />
      {form.draft.kind === "drive" && <QuantityField form={form} name="miles" label="Miles" width={64} />}
      <TextField form={form} name="description" label="What was done" />
      <TextField form={form} name="reason" label="Reason" needed placeholder="kept with the change" />
    </InlineForm>
  );
}

/** Corrects the quantity of a part, or takes it off; the reason is kept and stock and books follow. */
export function QuantityForm({ part, close }: { part: Part; close: () => void }) {
  const form = useForm({ version: part.version, draft: { quantity: String(part.quantity), reason: "" } });
  const path = { params: { path: { id: part.id } } };
  const { quantity, reason } = form.draft;
  const save = useAct(
    () =>
      answer(
        client.PUT("/api/visit-parts/{id}", { ...path, body: { version: form.version, quantity, reason } }),
      ),
    { done: close, refused: form.refused, said: `Corrected: ${part.name}, now ${quantity}.` },
  );
  const remove = useAct(
    () =>
      answer(
        client.POST("/api/visit-parts/{id}/remove", { ...path, body: { version: form.version, reason } }),
      ),
    { done: close, refused: form.refused, said: `Taken off: ${part.name}; the history keeps it.` },
  );
  return (
    <InlineForm
      form={form}
      label="Correct quantity"
      confirm="Correct"
      running={save.running}
      submit={() => save.run()}
      close={close}
      overtaken="this part"
      extra={
        <Button aria-label={`Remove ${part.name}`} onClick={() => remove.run()}>
          Remove
        </Button>
      }
    >
      <QuantityField form={form} name="quantity" label={part.name} width={150} needed autoFocus />
      <TextField form={form} name="reason" label="Reason" needed placeholder="kept with the change" />
    </InlineForm>
  );
}

/** A part that nobody wrote down. */
export function AddPartForm({ visitId, close }: { visitId: number; close: () => void }) {
  const form = useForm({ version: 0, draft: { partId: undefined as number | undefined, quantity: "1" } });
  form.labels.partId = "Part";
  const save = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/visits/{id}/parts", {
          params: { path: { id: visitId }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    { done: close, refused: form.refused, said: "The part is added." },
  );
  return (
    <InlineForm
      form={form}
      label="Add part"
      confirm="Add"
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
    >
      <Field label="Part" needed fault={form.fault("partId")}>
        {(tied) => (
          <PartSelect tied={tied} value={form.draft.partId} onChange={(partId) => form.change({ partId })} />
        )}
      </Field>
      <QuantityField form={form} name="quantity" label="Quantity" width={80} needed />
    </InlineForm>
  );
}

const PASSED_ON = [
  { value: "with_markup", label: "with our markup" },
  { value: "at_cost", label: "at cost" },
  { value: "not_charged", label: "not charged" },
] as const;

const OTHER_COST = {
  supplier: "",
  description: "",
  cost: "",
  passedOn: "with_markup" as (typeof PASSED_ON)[number]["value"],
};

/** A supplier's bill for the job, without VAT. */
export function OtherCostForm({ jobId, close }: { jobId: number; close: () => void }) {
  const form = useForm({ version: 0, draft: OTHER_COST });
  const save = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/jobs/{id}/other-costs", {
          params: { path: { id: jobId }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    { done: close, refused: form.refused, said: "The supplier's bill is on the job." },
  );
  return (
    <InlineForm
      form={form}
      label="Supplier's bill"
      confirm="Add to the cost"
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
    >
      <TextField form={form} name="supplier" label="Supplier" needed autoFocus />
      <TextField form={form} name="description" label="For what" needed />
      <MoneyField form={form} name="cost" label="Net, without VAT" width={110} needed />
      <ChoiceField form={form} name="passedOn" label="By time and parts" options={[...PASSED_ON]} />
    </InlineForm>
  );
}
