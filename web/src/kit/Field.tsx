import { type ReactNode, useId } from "react";
import styles from "./Field.module.css";

/** What ties a control to its label and to what is wrong with it. */
export type Tied = {
  id: string;
  "aria-describedby": string | undefined;
  "aria-invalid": true | undefined;
  "aria-required": true | undefined;
  status: "error" | undefined;
};

export type FieldFrame = {
  label: string;
  /** What is read after the label, such as the amount that a share comes to. */
  remark?: ReactNode;
  /** It must be filled in. */
  needed?: boolean;
  /** Its label is heard only, for what stands around it says what it is. */
  silent?: boolean;
  /** In pixels; as wide as there is room without it. */
  width?: number;
};

/** A control below its label, and below it what is wrong with it, so that a screen reader hears both with it. */
export function Field({
  label,
  remark,
  needed,
  silent,
  width,
  fault,
  children,
}: FieldFrame & { fault?: string; children: (tied: Tied) => ReactNode }) {
  const id = useId();
  return (
    <div
      className={width ? styles.field : `${styles.field} ${styles.wide}`}
      style={width ? { width } : undefined}
    >
      <span className={silent ? "visually-hidden" : styles.label}>
        <label htmlFor={id}>{label}</label>
        {needed && (
          <span className={styles.needed} aria-hidden="true">
            {" "}
            *
          </span>
        )}
        {remark}
      </span>
      {children({
        id,
        "aria-describedby": fault ? `${id}-fault` : undefined,
        "aria-invalid": fault ? true : undefined,
        "aria-required": needed || undefined,
        status: fault ? "error" : undefined,
      })}
      {fault && (
        <p id={`${id}-fault`} className="fault">
          <span className="visually-hidden">{label}: </span>
          {fault}
        </p>
      )}
    </div>
  );
}
