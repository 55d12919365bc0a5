import { Checkbox, Modal } from "antd";
import { Lines } from "./Lines";
import { useBareKeys } from "./useKeys";

/** A key, what it does, and whether it is a bare letter or sign that can be switched off. */
type Key = { keys: string; does: string; bare?: boolean };

const KEYS: Key[] = [
  { keys: "/", does: "find anyone or anything, or say what to do", bare: true },
  { keys: "Ctrl K", does: "the same, from anywhere" },
  { keys: "↓ ↑", does: "the next and the row before, in a list or on its heading" },
  { keys: "j k", does: "the same", bare: true },
  { keys: "Page ↓ ↑", does: "ten rows on or back" },
  { keys: "Home End", does: "the first and the last row" },
  { keys: "Enter", does: "in a list, what can be taken back: check the visit, make the job" },
  { keys: "Ctrl Enter", does: "in a list or its sheet, what goes into the books for good" },
  { keys: "1 2 3", does: "in the Planner, the best times for the visit that is chosen", bare: true },
  { keys: "Space", does: "on a visit in the Planner, pick it up and put it down; the arrows move it" },
  { keys: "Esc", does: "leave a form, a question or the one field" },
  { keys: "?", does: "this list", bare: true },
];

/** The keys that act, and whether bare letters and signs do. */
export function KeysHelp({ open, close }: { open: boolean; close: () => void }) {
  const [bare, setBare] = useBareKeys();
  return (
    <Modal open={open} title="Keys" onCancel={close} footer={null} width={520} destroyOnHidden>
      <Lines
        caption="Keys and what they do"
        columns={[{ name: "key", width: 110 }, { name: "what it does" }]}
      >
        {KEYS.map(({ keys, does, bare: letter }) => (
          <tr key={keys} className={letter && !bare ? "gone" : undefined}>
            <td>
              <kbd>{keys}</kbd>
            </td>
            <td>{does}</td>
          </tr>
        ))}
      </Lines>
      <p>
        <Checkbox checked={bare} onChange={(event) => setBare(event.target.checked)}>
          Letters and signs act by themselves, as / j k ? and 1 2 3 do
        </Checkbox>
      </p>
      <p className="soft">They never act where something is typed, on a button or on a link.</p>
    </Modal>
  );
}
