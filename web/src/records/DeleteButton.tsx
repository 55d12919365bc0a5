import { App, Button } from "antd";
import { answer, client } from "../api/client";
import { useAct } from "../api/useAct";

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
    | "/api/settings/price-lists/{id}";
  record: { id: number; version: number };
  close: () => void;
}) {
  const { modal } = App.useApp();
  const remove = useAct(
    () =>
      answer(
        client.DELETE(path, { params: { path: { id: record.id }, query: { version: record.version } } }),
      ),
    { done: close },
  );
  return (
    <Button
      loading={remove.running}
      onClick={() =>
        modal.confirm({
          title: `Delete ${what}?`,
          content: "This cannot be undone.",
          okText: "Delete",
          cancelText: "Leave it",
          onOk: () => remove.run(),
        })
      }
    >
      Delete…
    </Button>
  );
}
