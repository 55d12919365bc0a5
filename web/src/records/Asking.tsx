import { Button, Input, Modal } from "antd";
import { useState } from "react";

/**
 * Asks for one line of text before something happens that needs a reason or a name. The text stays when it is closed,
 * for what it was asked for may be refused and asked for again.
 */
export function Asking({
  label,
  title,
  question,
  confirm,
  optional,
  run,
  running,
  plain,
}: {
  label: string;
  title: string;
  question: string;
  confirm: string;
  optional?: boolean;
  run: (text: string) => void;
  running?: boolean;
  plain?: boolean;
}) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const submit = () => {
    if (text.trim() || optional) {
      run(text);
      setOpen(false);
    }
  };
  return (
    <>
      {plain ? (
        <button type="button" className="plain small" onClick={() => setOpen(true)}>
          {label}
        </button>
      ) : (
        <Button onClick={() => setOpen(true)} loading={running}>
          {label}
        </Button>
      )}
      <Modal
        open={open}
        title={title}
        onCancel={() => setOpen(false)}
        onOk={submit}
        okText={confirm}
        okButtonProps={{ disabled: !optional && !text.trim() }}
        cancelText="Leave it"
        width={420}
      >
        <label className="field">
          {question}
          <Input
            autoFocus
            value={text}
            maxLength={300}
            onChange={(event) => setText(event.target.value)}
            onPressEnter={submit}
          />
        </label>
      </Modal>
    </>
  );
}
