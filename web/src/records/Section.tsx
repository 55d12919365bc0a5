import type { ReactNode } from "react";

/** A section of a sheet, its name in the margin as in a ledger. */
export function Section({ name, aside, children }: { name: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <section className="section" aria-label={name}>
      <div className="margin">
        <h2>{name}</h2>
        {aside && <div className="soft">{aside}</div>}
      </div>
      <div>{children}</div>
    </section>
  );
}
