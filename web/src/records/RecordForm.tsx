import { Button, Checkbox, Input, Modal, Select } from "antd";
import { type ReactNode, useState } from "react";
import type { Problem } from "../api/client";
import { useAct } from "../api/useAct";
import { Overtaken } from "./Overtaken";
import { useTyped } from "./useTyped";

/** What a form holds while it is typed; a choice that was not made is undefined. */
export type Values = Record<string, string | number | boolean | undefined>;

export type Field = {
  name: string;
  label: string;
  kind?: "text" | "area" | "choice" | "tick";
  options?: { value: number | string; label: string }[];
  hint?: string;
  half?: boolean;
};

type Props = {
  title: string;
  confirm: string;
  fields: Field[];
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
  const typed = useTyped({ version, draft: initial });
  const values = typed.draft;
  const [problem, setProblem] = useState<Problem>();
  const act = useAct((_: undefined, key) => save(values, key, typed.version), {
    done: (result) => {
      done?.(result);
      close();
    },
    refused: setProblem,
  });
  const names = Object.fromEntries(fields.map((field) => [field.name, field.label]));
  const set = (name: string, value: string | number | boolean | undefined) =>
    typed.change({ ...values, [name]: value });
  return (
    <Modal
      open
      title={title}
      onCancel={close}
      // A press beside the form, such as the second of a double click, takes nothing away that was typed.
      mask={{ closable: false }}
      footer={null}
      width={560}
      destroyOnHidden
    >
      <form
        className="record-form"
        aria-label={title}
        onSubmit={(event) => {
          event.preventDefault();
          act.run(undefined);
        }}
      >
        {!act.running && (
          <div className="whole">
            <Overtaken what="this" typed={typed} names={names} />
          </div>
        )}
        {fields.map((field, index) => (
          <div key={field.name} className={field.half ? "half" : "whole"}>
            <Entry field={field} value={values[field.name]} set={set} first={index === 0} />
            {problem?.at(`/${field.name}`) && (
              <p className="fault" role="alert">
                {problem.at(`/${field.name}`)}
              </p>
            )}
          </div>
        ))}
        <div className="whole actions">
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

function Entry({
  field,
  value,
  set,
  first,
}: {
  field: Field;
  value: Values[string];
  set: (name: string, value: Values[string]) => void;
  first: boolean;
}) {
  if (field.kind === "tick") {
    return (
      <Checkbox checked={value === true} onChange={(event) => set(field.name, event.target.checked)}>
        {field.label}
      </Checkbox>
    );
  }
  if (field.kind === "choice") {
    return (
      <div className="field">
        <span>{field.label}</span>
        <Select
          aria-label={field.label}
          allowClear
          showSearch={{ optionFilterProp: "label" }}
          value={value as number | string | undefined}
          placeholder={field.hint}
          onChange={(chosen) => set(field.name, chosen)}
          options={field.options ?? []}
        />
      </div>
    );
  }
  const text = typeof value === "string" ? value : "";
  const change = (event: { target: { value: string } }) => set(field.name, event.target.value);
  return (
    <div className="field">
      <span>{field.label}</span>
      {field.kind === "area" ? (
        <Input.TextArea
          aria-label={field.label}
          autoSize={{ minRows: 2, maxRows: 6 }}
          value={text}
          placeholder={field.hint}
          onChange={change}
        />
      ) : (
        <Input
          aria-label={field.label}
          autoFocus={first}
          value={text}
          placeholder={field.hint}
          onChange={change}
        />
      )}
    </div>
  );
}
