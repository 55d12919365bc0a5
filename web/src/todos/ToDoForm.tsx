import { useQuery } from "@tanstack/react-query";
import { answer, client, withKey } from "../api/client";
import type { ToDo } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day } from "../format";
import { History } from "../history/History";
import { ChoiceField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { useSession } from "../people/SessionGate";

/** What, for whom and by when. */
export function ToDoForm({
  toDo,
  about,
  close,
}: {
  toDo?: ToDo;
  about?: { jobId?: number; quoteId?: number; customerId?: number };
  close: () => void;
}) {
  const { person } = useSession();
  const { data: choices } = useQuery(queries.choices);
  const form = useForm({
    version: toDo?.version ?? 0,
    draft: {
      what: toDo?.what ?? "",
      forPersonId: toDo?.forPersonId ?? person.id,
      due: toDo ? day(toDo.due) : "",
    },
  });
  const body = { version: form.version, ...form.draft, ...about };
  const save = useAct(
    (_: undefined, key) =>
      toDo
        ? answer(client.PUT("/api/to-dos/{id}", { params: { path: { id: toDo.id } }, body }))
        : answer(client.POST("/api/to-dos", { params: withKey(key), body })),
    { done: close, refused: form.refused, said: `Noted: ${form.draft.what}.` },
  );
  return (
    <>
      <InlineForm
        form={form}
        label={toDo ? "Change the to-do" : "New to-do"}
        confirm="Save"
        running={save.running}
        submit={() => save.run(undefined)}
        close={close}
        overtaken="this to-do"
        show={(value, field) =>
          field === "forPersonId" ? choices?.officePeople.find((one) => one.id === value)?.name : `“${value}”`
        }
      >
        <TextField form={form} name="what" label="What is to be done?" needed autoFocus />
        <ChoiceField
          form={form}
          name="forPersonId"
          label="For whom"
          width={170}
          needed
          options={(choices?.officePeople ?? []).map((one) => ({ value: one.id, label: one.name }))}
        />
        <TextField form={form} name="due" label="By" width={140} needed placeholder="today, fri, 3 dec" />
      </InlineForm>
      {toDo && <History kind="to_do" id={toDo.id} />}
    </>
  );
}
