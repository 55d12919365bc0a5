import { useNavigation } from "react-router";
import styles from "./Coming.module.css";
import { useNoticed } from "./useNoticed";

/** That the page of a pressed link is on its way, where a slow line takes longer for it than anybody waits unasked. */
export function Coming() {
  const comes = useNoticed(useNavigation().state === "loading");
  return (
    comes && (
      <div role="status" className={styles.place}>
        The page is on its way
      </div>
    )
  );
}
