import type { ReactNode } from "react";
import { ActsOf, type useActs } from "./Act";
import styles from "./Beside.module.css";

/** A list and the sheet of the row that is on; where there is no room for both, one after the other. */
export const Beside = ({ acts, children }: { acts: ReturnType<typeof useActs>; children: ReactNode }) => (
  <ActsOf acts={acts} className={styles.beside}>
    {children}
  </ActsOf>
);

/** The classes of a list beside a sheet, for its head and its rows. */
export const besideStyles = styles;
