import { words } from "../format";
import styles from "./State.module.css";

/** Outlined is planned, half filled is running, solid is finished, copper wants somebody. */
export type Fill = "planned" | "running" | "finished" | "wanting";

/** A state by its word and by its fill. */
export const State = ({ state, fill }: { state: string; fill: Fill }) => (
  <span className={`${styles.state} ${styles[fill]}`}>{words(state)}</span>
);
