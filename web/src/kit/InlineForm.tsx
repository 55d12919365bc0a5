import { Button } from "antd";
import { type ReactNode, useEffect, useRef } from "react";
import type { Problem } from "../api/client";
import { heldFocus } from "./focus";
import styles from "./InlineForm.module.css";
import { Overtaken } from "./Overtaken";
import type { Form } from "./useForm";

/**
 * The frame of every small form on a sheet: fields, and how to go on or leave. What opened it has the focus again when
 * it closes; the first field that is wrong has it when it is refused.
 */
export function InlineForm<T extends object>({
  form,
  label,
  confirm,
  running,
  submit,
  close,
  extra,
  overtaken,
  show,
  children,
}: {
  form: Form<T>;
  label: string;
  confirm: string;
  running: boolean;
  submit: () => void;
  /** Nothing where the form always stands there. */
  close?: () => void;
  extra?: ReactNode;
  /** What is told of when somebody else has stored it meanwhile, such as "this plan"; nothing for a new record. */
  overtaken?: string;
  show?: (value: T[keyof T], field: keyof T & string) => string | undefined;
  children: ReactNode;
}) {
  const element = useFormFocus<HTMLFormElement>(form.problem);
  return (
    <form
      ref={element}
      className={styles.form}
      aria-label={label}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
      onKeyDown={(event) => event.key === "Escape" && close?.()}
    >
      {overtaken && !running && <Overtaken what={overtaken} typed={form} names={form.labels} show={show} />}
      {children}
      <div className={styles.actions}>
        <Button type="primary" htmlType="submit" loading={running}>
          {confirm}
        </Button>
        {extra}
        {close && <Button onClick={close}>Leave</Button>}
      </div>
      <OtherFaults faults={form.otherFaults} />
    </form>
  );
}

/** What is wrong with fields that are not on screen. */
export const OtherFaults = ({ faults }: { faults: Problem["faults"] }) =>
  faults.map((fault) => (
    <p key={`${fault.pointer} ${fault.detail}`} className={`fault ${styles.other}`}>
      {fault.detail}
    </p>
  ));

/** The element that a form is: what opened it has the focus again when it has gone, what is wrong when it is refused. */
export function useFormFocus<Element extends HTMLElement>(problem: Problem | undefined) {
  // Asked while it is drawn, for its first field takes the focus as soon as it is there.
  const opener = useRef<(() => void) | undefined>(undefined);
  opener.current ??= heldFocus();
  useEffect(() => () => opener.current?.(), []);
  return useFaultFocus<Element>(problem);
}

/** The element in which the first field that is wrong takes the focus when what is typed is refused. */
export function useFaultFocus<Element extends HTMLElement>(problem: Problem | undefined) {
  const element = useRef<Element>(null);
  useEffect(() => {
    if (problem) {
      element.current?.querySelector<HTMLElement>("[aria-invalid=true]")?.focus();
    }
  }, [problem]);
  return element;
}
