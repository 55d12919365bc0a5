import type { ReactNode } from "react";
import { Deeper, Heading } from "./Heading";
import styles from "./Sheet.module.css";

/** A section of a sheet, its name in the margin as in a ledger. */
export function Section({ name, aside, children }: { name: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <section className={styles.section} aria-label={name}>
      <div className={styles.margin}>
        <Heading part>{name}</Heading>
        {aside && <div className={styles.aside}>{aside}</div>}
      </div>
      <div className={styles.content}>
        <Deeper>{children}</Deeper>
      </div>
    </section>
  );
}
