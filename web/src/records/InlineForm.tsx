import { Button } from "antd";
import type { ReactNode } from "react";
import type { Problem } from "../api/client";

/** The frame of every small form on a sheet: fields, what is wrong, and how to go on or leave. */
export function InlineForm({
  label,
  confirm,
  running,
  problem,
  submit,
  close,
  extra,
  children,
}: {
  label: string;
  confirm: string;
  running: boolean;
  problem: Problem | undefined;
  submit: () => void;
  close: () => void;
  extra?: ReactNode;
  children: ReactNode;
}) {
  return (
    <form
      className="inline-form"
      aria-label={label}
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
      onKeyDown={(event) => event.key === "Escape" && close()}
    >
      {children}
      <Button type="primary" htmlType="submit" loading={running}>
        {confirm}
      </Button>
      {extra}
      <Button onClick={close}>Leave</Button>
      {problem?.faults
        .filter((fault) => fault.pointer !== "")
        .map((fault) => (
          <p key={fault.pointer} className="fault" role="alert">
            {field(fault.pointer)}: {fault.detail}
          </p>
        ))}
    </form>
  );
}

const NAMES: Record<string, string> = {
  start: "Time",
  expected: "Expected",
  technicianId: "Technician",
  rateClass: "Hours",
  partId: "Part",
  receivedOn: "On",
};

const field = (pointer: string) => {
  const name = pointer.slice(1);
  return NAMES[name] ?? name.charAt(0).toUpperCase() + name.slice(1);
};
