import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { FirstStep } from "../api/generated/schema";
import { queries } from "../api/queries";
import { Section } from "../kit/Section";
import styles from "./FirstSteps.module.css";

/** How each step is done. */
const STEPS: Record<FirstStep["step"], ReactNode> = {
  people: "Add the people who work here, below; each gets a link to set a password.",
  price_list: (
    <>
      <Link to="/imports">Take your price list in</Link>, so that quotes and technicians find their parts.
    </>
  ),
  customers: (
    <>
      <Link to="/imports">Take your customers in</Link> from another program, or write each down when they
      ring.
    </>
  ),
  mail: "Name your mail server where the program is started, so that quotes go out (docs/running.md).",
  backup: "Keep everything in one file, on another disk: ./pragmata backup FILE.",
};

/** What a company that was just founded does next; nothing once all of it was done. */
export function FirstSteps() {
  const { data } = useQuery(queries.firstSteps);
  if (!data || data.length === 0) {
    return null;
  }
  return (
    <Section name="First steps">
      <ol className={styles.steps}>
        {data.map(({ step, done }) => (
          <li key={step} className={done ? "soft" : undefined}>
            <span className={styles.mark} aria-hidden="true">
              {done ? "✓" : "○"}
            </span>
            <span>
              <span className="visually-hidden">{done ? "Done: " : "To do: "}</span>
              {STEPS[step]}
            </span>
          </li>
        ))}
      </ol>
    </Section>
  );
}
