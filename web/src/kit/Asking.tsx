import { Button, Input } from "antd";
import { type ReactNode, useId, useState } from "react";
import styles from "./Asking.module.css";
import { Field } from "./Field";
import { useFormFocus } from "./InlineForm";

/**
 * A question in its place before something happens that needs a reason or a name, or that cannot be undone. What was
 * typed stays when it is closed, for what it was asked for may be refused and asked for again.
 */
export function Asking({
  label,
  of,
  title,
  question,
  confirm,
  optional,
  run,
  running,
  plain,
  further,
}: {
  label: string;
  /** What it is about, for whoever does not see where it stands: "visit of Tue 24 Nov". */
  of?: string;
  title: string;
  /** What is to be typed; nothing where a yes is enough. */
  question?: string;
  confirm: string;
  optional?: boolean;
  run: (text: string) => void;
  running?: boolean;
  /** As a word in a line instead of a button. */
  plain?: boolean;
  /** What else is to be chosen with it. */
  further?: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const id = useId();
  const opener = {
    id,
    "aria-label": of && `${label} ${of}`,
    "aria-expanded": open,
    onClick: () => setOpen(!open),
  };
  return (
    <>
      {plain ? (
        <button type="button" className="plain" {...opener}>
          {label}
        </button>
      ) : (
        <Button loading={running} {...opener}>
          {label}
        </Button>
      )}
      {open && (
        <Question
          title={title}
          question={question}
          confirm={confirm}
          further={further}
          optional={optional === true}
          text={text}
          type={setText}
          submit={() => {
            setOpen(false);
            run(text);
          }}
          close={() => setOpen(false)}
        />
      )}
    </>
  );
}

function Question({
  title,
  question,
  confirm,
  further,
  optional,
  text,
  type,
  submit,
  close,
}: {
  title: string;
  question: string | undefined;
  confirm: string;
  further: ReactNode;
  optional: boolean;
  text: string;
  type: (text: string) => void;
  submit: () => void;
  close: () => void;
}) {
  const element = useFormFocus<HTMLDivElement>(undefined);
  const ready = !question || optional || text.trim() !== "";
  const go = () => ready && submit();
  return (
    // Not a form, for it may stand in one.
    // biome-ignore lint/a11y/useSemanticElements: a fieldset cannot be laid out as one of a row
    <div
      ref={element}
      role="group"
      className={styles.question}
      aria-label={title}
      onKeyDown={(event) => {
        // What is asked here is answered here: no key of it acts on the form, the sheet or the list around it.
        event.stopPropagation();
        if (event.key === "Escape") {
          close();
        }
      }}
    >
      <b>{title}</b>
      {question && (
        <Field label={question} needed={!optional}>
          {(tied) => (
            <Input
              {...tied}
              autoFocus
              value={text}
              maxLength={300}
              onPressEnter={(event) => {
                event.preventDefault();
                go();
              }}
              onChange={(event) => type(event.target.value)}
            />
          )}
        </Field>
      )}
      {further}
      <div className={styles.answers}>
        <Button type="primary" onClick={go} disabled={!ready}>
          {confirm}
        </Button>
        <Button onClick={close} autoFocus={!question}>
          Leave it
        </Button>
      </div>
    </div>
  );
}
