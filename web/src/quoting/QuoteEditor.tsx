import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { Computed } from "../api/generated/schema";
import { queries } from "../api/queries";
import { Field } from "../kit/Field";
import { AreaField, ChoiceField, TextField } from "../kit/fields";
import { useFaultFocus } from "../kit/InlineForm";
import { Picker } from "../kit/Picker";
import { Section } from "../kit/Section";
import type { Form } from "../kit/useForm";
import { usePreview } from "../kit/usePreview";
import type { Draft } from "./draft";
import { LinesEditor } from "./LinesEditor";
import { OfferTerms } from "./OfferTerms";
import { PastJobs } from "./PastJobs";
import styles from "./QuoteEditor.module.css";
import { Totals } from "./QuoteLines";

type Props = {
  quoteId?: number;
  form: Form<Draft>;
  computed?: Computed;
};

/** Cost and margin stand beside the price while it is typed; the server computes every figure. */
export function QuoteEditor({ quoteId, form, computed }: Props) {
  const { siteId, equipmentId, kindOfJobId, discount, deposit, stages, lines } = form.draft;
  // What is refused says saving, at its field.
  const { figures = computed } = usePreview(
    { quoteId, siteId, equipmentId, kindOfJobId, discount, deposit, stages, lines },
    (body, signal) => answer(client.POST("/api/quotes/preview", { body, signal })),
  );
  const element = useFaultFocus<HTMLDivElement>(form.problem);
  const whole = {
    ...form,
    fault: (field: string) =>
      figures?.faults.find((fault) => fault.field === field)?.message ?? form.fault(field),
  };
  return (
    <div ref={element}>
      <Section name="For">
        <Head form={form} />
      </Section>
      <Section name="Lines">
        <PastJobs kindOfJobId={kindOfJobId} equipmentId={equipmentId} />
        <LinesEditor
          draft={form.draft}
          change={form.change}
          computed={figures}
          insisted={form.problem !== undefined}
        />
      </Section>
      <Section name="Total">
        <OfferTerms form={whole} computed={figures} />
        {figures && <Totals totals={figures.totals} />}
      </Section>
      <Section name="Notes" aside="to the customer">
        <AreaField form={form} name="notes" label="Notes to the customer" silent />
      </Section>
      <Section name="For us" aside="never shown to the customer">
        <AreaField form={form} name="ownNotes" label="Notes for us only" silent rows={1} />
      </Section>
    </div>
  );
}

function Head({ form }: { form: Form<Draft> }) {
  const [wanted, setWanted] = useState("");
  const { data: sites } = useQuery(queries.sites(wanted));
  const { data: choices } = useQuery(queries.choices);
  const { data: settings } = useQuery(queries.quotingSettings);
  const { draft } = form;
  const site = sites?.find((candidate) => candidate.id === draft.siteId);
  const equipment = site?.equipment.map((piece) => ({ value: piece.id, label: piece.name }));
  const own = draft.equipmentId ? [{ value: draft.equipmentId, label: draft.equipment ?? "" }] : [];
  const siteOptions = (sites ?? []).map((candidate) => ({
    value: candidate.id,
    label: `${candidate.customer}, ${candidate.site}`,
  }));
  const chosen = draft.siteId && !site ? [{ value: draft.siteId, label: draft.site ?? "" }] : [];
  const label = "Customer and site";
  form.labels.siteId = label;
  form.labels.site = label;
  return (
    <div className={styles.head}>
      <Field label={label} needed fault={form.fault("siteId")}>
        {(tied) => (
          <Picker
            tied={tied}
            search={setWanted}
            value={draft.siteId}
            placeholder="Any part of the name or street"
            onChange={(siteId, name) => {
              const only = sites?.find((candidate) => candidate.id === siteId)?.equipment;
              const piece = only?.length === 1 ? only[0] : undefined;
              form.change({ siteId, site: name, equipmentId: piece?.id, equipment: piece?.name });
            }}
            options={[...chosen, ...siteOptions]}
          />
        )}
      </Field>
      <TextField form={form} name="title" label="What is to be done" needed />
      <ChoiceField
        form={form}
        name="kindOfJobId"
        label="Kind of job"
        needed
        options={(choices?.kindsOfJob ?? []).map((kind) => ({ value: kind.id, label: kind.name }))}
      />
      <ChoiceField
        form={form}
        name="equipmentId"
        label="Equipment"
        clearable
        chosen={(id) => ({ equipment: [...(equipment ?? own)].find((piece) => piece.value === id)?.label })}
        options={equipment ?? own}
      />
      <TextField
        form={form}
        name="validUntil"
        label="Valid until"
        placeholder={`${settings?.quoteValidDays ?? 30} days, or 24 dec`}
      />
    </div>
  );
}
