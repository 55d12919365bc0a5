import type { ReactNode } from "react";
import { Section } from "../records/Section";
import { useSession } from "./SessionGate";

/** Whether whoever is signed in may change the settings, or only reads them. */
export const useMayChangeSettings = (): boolean => useSession().person.role !== "bookkeeper";

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
  const mayChange = useMayChangeSettings();
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
