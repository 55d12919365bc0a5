import { answer, client, withKey } from "../api/client";
import type { Agreement, Changed } from "../api/generated/schema";
import { TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";

/** What is agreed with a customer: its name, and from when to when. */
export function AgreementForm({
  customerId,
  agreement,
  done,
  close,
}: {
  customerId: number;
  /** Nothing for a new one. */
  agreement?: Agreement;
  done?: (made: Changed) => void;
  close: () => void;
}) {
  const form = useForm({
    version: agreement?.version ?? 0,
    draft: {
      name: agreement?.name ?? "",
      from: agreement?.from ?? "today",
      until: agreement?.until ?? "",
    },
  });
  const save = useAct(
    (_: undefined, key) => {
      const body = { version: form.version, ...form.draft };
      return answer(
        agreement
          ? client.PUT("/api/agreements/{id}", { params: { path: { id: agreement.id } }, body })
          : client.POST("/api/customers/{id}/agreements", {
              params: { path: { id: customerId }, ...withKey(key) },
              body,
            }),
      );
    },
    {
      done: (made) => {
        close();
        done?.(made);
      },
      refused: form.refused,
      said: agreement ? "The agreement is changed." : "The agreement is made. Say what comes again.",
    },
  );
  return (
    <InlineForm
      form={form}
      label={agreement ? "Change the agreement" : "New agreement"}
      confirm={agreement ? "Change it" : "Agree"}
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
      overtaken={agreement && "this agreement"}
    >
      <TextField form={form} name="name" label="What it is called" needed autoFocus />
      <TextField form={form} name="from" label="From" width={120} needed />
      <TextField form={form} name="until" label="Until" width={120} placeholder="without end" />
    </InlineForm>
  );
}
