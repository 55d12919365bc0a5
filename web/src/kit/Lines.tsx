import type { ReactNode } from "react";
import styles from "./Lines.module.css";

type Column = {
  /** What it holds. */
  name: string;
  /** It is not seen, for what stands in it says itself what it is. */
  silent?: boolean;
  /** Figures, set to the right. */
  figure?: boolean;
  /** In pixels. */
  width?: number;
};

/** Lines with figures as in a ledger: a table with a caption and headers, that alone scrolls sideways. */
export function Lines({
  caption,
  columns,
  fixed,
  section,
  children,
}: {
  caption: string;
  columns: Column[];
  /** Columns as wide as they say, so that one table stands below another. */
  fixed?: boolean;
  /** What the table is of, such as "receipts". */
  section?: string;
  children: ReactNode;
}) {
  return (
    <div className={styles.scroll}>
      <table className={fixed ? `${styles.lines} ${styles.fixed}` : styles.lines} data-section={section}>
        <caption className="visually-hidden">{caption}</caption>
        <thead className={columns.every((column) => column.silent) ? "visually-hidden" : undefined}>
          <tr>
            {columns.map(({ name, silent, figure, width }) => (
              <th
                key={name}
                scope="col"
                className={figure ? "figure" : undefined}
                style={width ? { width } : undefined}
              >
                {silent ? <span className="visually-hidden">{name}</span> : name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </table>
    </div>
  );
}

/** The row that sums up the ones above. */
export const TotalLine = ({ children }: { children: ReactNode }) => (
  <tr className={styles.total}>{children}</tr>
);
