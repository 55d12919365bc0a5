import { useQuery } from "@tanstack/react-query";
import { Input } from "antd";
import type { Computed, TypedStage } from "../api/generated/schema";
import { queries } from "../api/queries";
import { money } from "../format";
import { ChoiceField, MoneyField, TextField } from "../kit/fields";
import { heldFocus } from "../kit/focus";
import type { Form } from "../kit/useForm";
import { say } from "../kit/useSaid";
import { Word } from "../kit/Word";
import { type Draft, PROMISES, type Promised } from "./draft";
import styles from "./OfferTerms.module.css";

const PROMISE_CHOICES = Object.entries(PROMISES).map(([value, label]) => ({
  value: value as Promised,
  label,
}));

/** What is agreed for the whole: what the price promises, discount, deposit and stages. */
export function OfferTerms({ form, computed }: { form: Form<Draft>; computed: Computed | undefined }) {
  const { data: settings } = useQuery(queries.quotingSettings);
  const { data: choices } = useQuery(queries.choices);
  const usual = choices?.kindsOfJob.find((kind) => kind.id === form.draft.kindOfJobId)?.promise;
  const promise = form.draft.promise ?? usual;
  return (
    <div className={styles.terms}>
      <ChoiceField
        form={{ ...form, draft: { ...form.draft, promise } }}
        name="promise"
        label="Promise"
        width={150}
        options={PROMISE_CHOICES}
      />
      <MoneyField form={form} name="discount" label="Discount on all" width={170} placeholder="10% or 50" />
      <MoneyField
        form={form}
        name="deposit"
        label="Deposit"
        remark={computed && computed.depositMinor > 0 ? `, ${money(computed.depositMinor)}` : undefined}
        width={190}
        placeholder="30% or 200"
      />
      <TextField
        form={form}
        name="depositDueDays"
        label="Deposit due within days"
        width={150}
        figure
        placeholder={settings ? String(settings.depositDueDays) : ""}
      />
      <Stages form={form} computed={computed} open={promise === "fixed_price"} />
    </div>
  );
}

/** In which parts a fixed price is billed, and when each is due. */
function Stages({
  form,
  computed,
  open,
}: {
  form: Form<Draft>;
  computed: Computed | undefined;
  open: boolean;
}) {
  const { stages } = form.draft;
  const put = (index: number, stage: TypedStage) => form.change({ stages: stages.with(index, stage) });
  const remove = (index: number, stage: TypedStage) => {
    const focus = heldFocus();
    form.change({ stages: stages.toSpliced(index, 1) });
    focus();
    say({
      text: `Stage ${index + 1} is removed.`,
      undo: { label: "Put it back", run: () => form.change({ stages: stages.toSpliced(index, 1, stage) }) },
    });
  };
  const wrong = form.fault("stages") !== undefined || undefined;
  form.labels.stages = "Stages";
  form.labels.lines = "Lines";
  return (
    <div className={styles.stages}>
      {stages.map((stage, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a stage has no other name while it is typed
        <div className={styles.stage} key={index}>
          <Input
            aria-label={`When stage ${index + 1} is due`}
            aria-invalid={wrong}
            aria-describedby={wrong && "stages-fault"}
            placeholder="when: on delivery"
            value={stage.name ?? ""}
            onChange={(event) => put(index, { ...stage, name: event.target.value })}
          />
          <Input
            aria-label={`Share of stage ${index + 1}`}
            aria-invalid={wrong}
            aria-describedby={wrong && "stages-fault"}
            placeholder="50% or 400"
            value={stage.part ?? ""}
            onChange={(event) => put(index, { ...stage, part: event.target.value })}
          />
          <span className="figure soft">
            {computed?.stageMinors[index] == null ? "" : money(computed.stageMinors[index] ?? 0)}
          </span>
          <button
            type="button"
            className={styles.remove}
            aria-label={`Remove stage ${index + 1}`}
            onClick={() => remove(index, stage)}
          >
            ×
          </button>
        </div>
      ))}
      {open && (
        <Word run={() => form.change({ stages: [...stages, { name: "", part: "" }] })}>add a stage</Word>
      )}
      {form.fault("stages") && (
        <p id="stages-fault" className="fault">
          {form.fault("stages")}
        </p>
      )}
      {form.fault("lines") && <p className="fault">{form.fault("lines")}</p>}
    </div>
  );
}
