import { answer, client } from "../api/client";
import type { AskedItem } from "../api/generated/schema";
import { headline } from "../format";
import { ChoiceField, TextField, TickField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { limits } from "./words";

/** Puts an answer right, or adds one that nobody gave on site. The reason is kept. */
export function Correction({
  visitId,
  item,
  close,
}: {
  visitId: number;
  item: AskedItem;
  close: () => void;
}) {
  const form = useForm({
    version: item.given?.version ?? 0,
    draft: {
      answer: item.given?.answer ?? "",
      doesNotApply: item.given?.doesNotApply ?? false,
      word: item.given?.word ?? "",
      reason: "",
    },
  });
  const save = useAct(
    () =>
      answer(
        client.POST("/api/visits/{id}/checklist-answers", {
          params: { path: { id: visitId } },
          body: { ...form.draft, checklistItemId: item.id },
        }),
      ),
    { done: close, refused: form.refused, said: "The answer is put right." },
  );
  const choices = item.asks === "yes_no" ? ["yes", "no"] : item.choices;
  return (
    <InlineForm
      form={form}
      label={`Answer to ${item.question}`}
      confirm="Put it right"
      running={save.running}
      submit={() => save.run()}
      close={close}
      overtaken="this answer"
    >
      {choices.length > 0 ? (
        <ChoiceField
          form={form}
          name="answer"
          label="Answer"
          width={130}
          options={choices.map((choice) => ({ value: choice, label: headline(choice) }))}
        />
      ) : (
        <TextField
          form={form}
          name="answer"
          label={["Answer", limits(item)].filter(Boolean).join(", ")}
          width={130}
        />
      )}
      <TickField form={form} name="doesNotApply" label="Does not apply" />
      <TextField form={form} name="word" label="What was done about it" />
      <TextField form={form} name="reason" label="Why" placeholder="why it is put right" />
    </InlineForm>
  );
}
