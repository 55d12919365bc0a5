import type { ReactNode } from "react";
import { Section } from "../kit/Section";
import { useMay } from "./useMay";

/** Records that the office keeps among its settings; whoever may change them can add one. */
export function KeptSection({
  name,
  error,
  add,
  children,
}: {
  name: string;
  error: Error | null;
  add: () => void;
  children: ReactNode;
}) {
  const mayChange = useMay("change_settings");
  return (
    <Section
      name={name}
      aside={
        mayChange && (
          <button type="button" className="plain small" onClick={add}>
            add
          </button>
        )
      }
    >
      {error && <p className="fault">{error.message}</p>}
      {children}
    </Section>
  );
}
