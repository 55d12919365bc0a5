import { answer, client } from "../api/client";
import { Asking } from "./Asking";
import { useAct } from "./useAct";

/** Deletes a record after asking once; what is in use says so and stays. */
export function DeleteButton({
  what,
  path,
  record,
  close,
}: {
  what: string;
  path:
    | "/api/sites/{id}"
    | "/api/contacts/{id}"
    | "/api/equipment/{id}"
    | "/api/settings/response-terms/{id}"
    | "/api/settings/price-lists/{id}"
    | "/api/settings/kinds-of-job/{id}"
    | "/api/settings/skills/{id}";
  record: { id: number; version: number };
  close: () => void;
}) {
  const remove = useAct(
    () =>
      answer(
        client.DELETE(path, { params: { path: { id: record.id }, query: { version: record.version } } }),
      ),
    { done: close, said: `Deleted: ${what}.` },
  );
  return (
    <Asking
      label="Delete…"
      title={`Delete ${what}? This cannot be undone.`}
      confirm="Delete"
      run={() => remove.run()}
      running={remove.running}
    />
  );
}
