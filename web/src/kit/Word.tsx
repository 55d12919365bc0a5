import type { ReactNode } from "react";

/** A word in a line that does something. */
export const Word = ({
  id,
  of,
  run,
  children,
}: {
  /** Where it comes and goes with the form that it opens: the focus finds it again by its name. */
  id?: string;
  /** What it is about, for whoever does not see where it stands. */
  of?: string;
  run: () => void;
  children: ReactNode;
}) => (
  <button type="button" id={id} className="plain" onClick={run}>
    {children}
    {of && <span className="visually-hidden"> {of}</span>}
  </button>
);
