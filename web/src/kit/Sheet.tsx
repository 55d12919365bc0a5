import type { ReactNode } from "react";
import { ActsOf } from "./Act";
import { Deeper, Heading } from "./Heading";
import { Section } from "./Section";
import styles from "./Sheet.module.css";
import { useTitle } from "./useTitle";

type SheetFrame = {
  label: string;
  /** It is the whole page, and not beside a list. */
  alone?: boolean;
};

/** A record from top to bottom, as on paper: its head, which stays in sight, and its sections. */
export function Sheet({
  label,
  alone,
  record,
  head,
  children,
}: SheetFrame & {
  /** What it is of, such as "job-1407". */
  record?: string;
  head: ReactNode;
  children: ReactNode;
}) {
  const sheet = (
    <ActsOf>
      <article
        className={alone ? `${styles.sheet} ${styles.alone}` : styles.sheet}
        aria-label={label}
        data-sheet={record}
      >
        {head}
        <Deeper>{children}</Deeper>
      </article>
    </ActsOf>
  );
  return alone ? sheet : <Deeper>{sheet}</Deeper>;
}

/** The head of a sheet: its number in the margin, what it is, and what can be done with the whole of it. */
export function SheetHead({
  number,
  title,
  titled = title,
  about,
  actions,
  notice,
}: {
  number?: ReactNode;
  title: string;
  /** What the window is called. */
  titled?: string;
  /** What is read below the title. */
  about?: ReactNode;
  actions?: ReactNode;
  notice?: ReactNode;
}) {
  useTitle(titled);
  return (
    <header className={styles.head}>
      <div className={styles.number}>{number}</div>
      <div className={styles.titled}>
        <div className={styles.title}>
          <Heading>{title}</Heading>
          <div className={styles.about}>{about}</div>
        </div>
        {actions && <div className={styles.actions}>{actions}</div>}
      </div>
      {notice && <div className={styles.notice}>{notice}</div>}
    </header>
  );
}

/** A sheet that is not there yet: its place keeps its shape, or says why it stays empty. */
export function WaitingSheet({
  alone,
  sections = [],
  fault,
}: {
  alone?: boolean;
  /** The names of the sections it will have. */
  sections?: string[];
  fault?: string;
}) {
  const look = alone ? `${styles.sheet} ${styles.alone}` : styles.sheet;
  if (fault) {
    return (
      <div className={look}>
        <p className="pad fault" role="alert">
          {fault}
        </p>
      </div>
    );
  }
  return (
    <div className={look} aria-busy="true">
      <div className={styles.head}>
        <div className={styles.number} />
        <div className={styles.waitingTitle} />
      </div>
      <Deeper>
        {sections.map((name) => (
          <Section key={name} name={name}>
            <div className={styles.waiting} />
          </Section>
        ))}
      </Deeper>
    </div>
  );
}
