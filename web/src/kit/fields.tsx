import { Checkbox, Input } from "antd";
import type { ReactNode } from "react";
import { Field, type FieldFrame } from "./Field";
import { Select } from "./Select";
import type { Form } from "./useForm";

/** The names of the fields that hold such a value. */
type NameOf<T, Value> = {
  [Name in keyof T & string]: T[Name] extends Value ? Name : never;
}[keyof T & string];

type Bound<T extends object, Name> = FieldFrame & { form: Form<T>; name: Name; autoFocus?: boolean };

type Option<Value> = { value: Value; label: string };

/** A line of text; with `figure`, a number that a phone's number keys type; with `secret`, one that nobody else reads. */
export function TextField<T extends object>({
  form,
  name,
  autoFocus,
  placeholder,
  figure,
  secret,
  ...frame
}: Bound<T, NameOf<T, string>> & { placeholder?: string; figure?: boolean; secret?: boolean }) {
  form.labels[name] = frame.label;
  return (
    <Field {...frame} fault={form.fault(name)}>
      {(tied) => (
        <Input
          {...tied}
          type={secret ? "password" : "text"}
          autoComplete={secret ? "new-password" : undefined}
          autoFocus={autoFocus}
          placeholder={placeholder}
          inputMode={figure ? "decimal" : undefined}
          value={form.draft[name] as string}
          onChange={(event) => form.change({ [name]: event.target.value } as Partial<T>)}
        />
      )}
    </Field>
  );
}

/** An amount of money as people type it: "450", "1,284.00". */
export const MoneyField = <T extends object>(
  bound: Bound<T, NameOf<T, string>> & { placeholder?: string },
) => <TextField {...bound} figure />;

/** How much of something: "2", "1.5". */
export const QuantityField = <T extends object>(
  bound: Bound<T, NameOf<T, string>> & { placeholder?: string },
) => <TextField {...bound} figure />;

/** Text of several lines, that grows with what is typed. */
export function AreaField<T extends object>({
  form,
  name,
  autoFocus,
  placeholder,
  rows = 2,
  ...frame
}: Bound<T, NameOf<T, string>> & { placeholder?: string; rows?: number }) {
  form.labels[name] = frame.label;
  return (
    <Field {...frame} fault={form.fault(name)}>
      {({ status, ...tied }) => (
        <Input.TextArea
          {...tied}
          status={status}
          autoFocus={autoFocus}
          placeholder={placeholder}
          autoSize={{ minRows: rows, maxRows: 12 }}
          value={form.draft[name] as string}
          onChange={(event) => form.change({ [name]: event.target.value } as Partial<T>)}
        />
      )}
    </Field>
  );
}

/** One of a few choices, found by typing a part of it. */
export function ChoiceField<T extends object, Name extends keyof T & string>({
  form,
  name,
  options,
  clearable,
  placeholder,
  autoFocus,
  chosen,
  ...frame
}: Bound<T, Name> & {
  options: Option<NonNullable<T[Name]>>[];
  clearable?: boolean;
  placeholder?: string;
  /** What else changes with it. */
  chosen?: (value: T[Name]) => Partial<T>;
}) {
  form.labels[name] = frame.label;
  return (
    <Field {...frame} fault={form.fault(name)}>
      {(tied) => (
        <Select<T[Name], Option<NonNullable<T[Name]>>>
          {...tied}
          autoFocus={autoFocus}
          allowClear={clearable}
          placeholder={placeholder}
          showSearch={{ optionFilterProp: "label" }}
          popupMatchSelectWidth={false}
          value={form.draft[name]}
          onChange={(value) => form.change({ [name]: value, ...chosen?.(value) } as Partial<T>)}
          options={options}
        />
      )}
    </Field>
  );
}

/** Several of a few choices. */
export function ChoicesField<T extends object, Name extends NameOf<T, number[]>>({
  form,
  name,
  options,
  placeholder,
  ...frame
}: Bound<T, Name> & { options: Option<number>[]; placeholder?: string }) {
  form.labels[name] = frame.label;
  return (
    <Field {...frame} fault={form.fault(name)}>
      {(tied) => (
        <Select<number[]>
          {...tied}
          mode="multiple"
          maxTagCount={1}
          placeholder={placeholder}
          showSearch={{ optionFilterProp: "label" }}
          value={form.draft[name] as number[]}
          onChange={(value) => form.change({ [name]: value } as unknown as Partial<T>)}
          options={options}
        />
      )}
    </Field>
  );
}

/** Yes or no. */
export function TickField<T extends object>({
  form,
  name,
  label,
}: Pick<Bound<T, NameOf<T, boolean>>, "form" | "name" | "label">): ReactNode {
  form.labels[name] = label;
  return (
    <Checkbox
      checked={form.draft[name] as boolean}
      onChange={(event) => form.change({ [name]: event.target.checked } as Partial<T>)}
    >
      {label}
    </Checkbox>
  );
}
