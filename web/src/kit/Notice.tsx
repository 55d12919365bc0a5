import type { ReactNode } from "react";
import styles from "./Notice.module.css";

/** Something about the whole sheet that wants to be known now, with what can be done about it. */
export const Notice = ({ children, action }: { children: ReactNode; action?: ReactNode }) => (
  <div className={styles.notice} role="status">
    <span>{children}</span>
    {action}
  </div>
);
