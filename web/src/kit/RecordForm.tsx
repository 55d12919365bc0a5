import { Button, Modal } from "antd";
import type { ReactNode } from "react";
import { AreaField, ChoiceField, TextField, TickField } from "./fields";
import { OtherFaults, useFormFocus } from "./InlineForm";
import { Overtaken } from "./Overtaken";
import styles from "./RecordForm.module.css";
import { useAct } from "./useAct";
import { type Form, useForm } from "./useForm";

/** What a form holds while it is typed; a choice that was not made is undefined. */
export type Values = Record<string, string | number | boolean | undefined>;

export type RecordField = {
  name: string;
  label: string;
  kind?: "text" | "area" | "choice" | "tick";
  options?: { value: number | string; label: string }[];
  hint?: string;
  half?: boolean;
  needed?: boolean;
};

type Props = {
  title: string;
  confirm: string;
  fields: RecordField[];
  /** The record as it is stored now, or as a new one begins. */
  initial: Values;
  /** Its version; 0 for a new one. */
  version: number;
  save: (values: Values, key: string, version: number) => Promise<unknown>;
  done?: (result: unknown) => void;
  close: () => void;
  aside?: ReactNode;
  /** What is read below the form. */
  below?: ReactNode;
};

/** A record's form in a window of its own: what was typed stays when it is refused, each fault at its field. */
export function RecordForm({
  title,
  confirm,
  fields,
  initial,
  version,
  save,
  done,
  close,
  aside,
  below,
}: Props) {
  const form = useForm<Values>({ version, draft: initial });
  const act = useAct((_: undefined, key) => save(form.draft, key, form.version), {
    done: (result) => {
      done?.(result);
      close();
    },
    refused: form.refused,
    said: `Saved: ${title}.`,
  });
  const element = useFormFocus<HTMLFormElement>(form.problem);
  return (
    <Modal
      open
      title={title}
      onCancel={close}
      // A press beside the form, such as the second of a double click, takes nothing away that was typed.
      mask={{ closable: false }}
      footer={null}
      width={560}
      className={styles.modal}
      destroyOnHidden
    >
      <form
        ref={element}
        className={styles.form}
        aria-label={title}
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          act.run(undefined);
        }}
      >
        {!act.running && (
          <div className={styles.whole}>
            <Overtaken what="this" typed={form} names={form.labels} />
          </div>
        )}
        {fields.map((field, index) => (
          <div key={field.name} className={field.half ? styles.half : styles.whole}>
            <Entry field={field} form={form} first={index === 0} />
          </div>
        ))}
        <OtherFaults faults={form.otherFaults} />
        <div className={`${styles.whole} actions`}>
          <Button type="primary" htmlType="submit" loading={act.running}>
            {confirm}
          </Button>
          <Button onClick={close}>Leave</Button>
          {aside}
        </div>
      </form>
      {below}
    </Modal>
  );
}

function Entry({ field, form, first }: { field: RecordField; form: Form<Values>; first: boolean }) {
  const { name, label, needed, hint } = field;
  // Which kind of value a field holds its kind says, and not its type.
  const texts = form as unknown as Form<Record<string, string>>;
  const bound = { form: texts, name, label, needed, placeholder: hint };
  switch (field.kind) {
    case "tick":
      return <TickField form={form as unknown as Form<Record<string, boolean>>} name={name} label={label} />;
    case "choice":
      return (
        <ChoiceField
          {...bound}
          form={form as unknown as Form<Record<string, string | number>>}
          clearable
          options={field.options ?? []}
        />
      );
    case "area":
      return <AreaField {...bound} />;
    default:
      return <TextField {...bound} autoFocus={first} />;
  }
}
