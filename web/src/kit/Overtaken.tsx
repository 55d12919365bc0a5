import { Button } from "antd";
import { headline } from "../format";
import styles from "./Notice.module.css";
import type { Difference } from "./useTyped";

/** Says what somebody else stored while one was typing, and asks whose shall stand; nothing when nobody did. */
export function Overtaken<T extends object>({
  what,
  typed,
  names = {},
  show = plainly,
}: {
  /** Such as "this quote". */
  what: string;
  typed: { overtaken: Difference<T>[]; keepMine: () => void; forget: () => void };
  /** How the fields are called on screen, where that is not their own name. */
  names?: Partial<Record<string, string>>;
  /** A field's value in words; nothing where it is too long to say. */
  show?: (value: T[keyof T], field: keyof T & string) => string | undefined;
}) {
  if (typed.overtaken.length === 0) {
    return null;
  }
  return (
    <div className={styles.overtaken} role="alert">
      <div>
        Somebody saved {what} while you were typing. What you typed is still here. Theirs differs:
        <ul>
          {typed.overtaken.map(({ field, mine, theirs }) => (
            <li key={field}>
              {names[field] ?? headline(field.replaceAll(/([A-Z])/g, "_$1").toLowerCase())}
              {told(show(theirs, field), show(mine, field))}
            </li>
          ))}
        </ul>
      </div>
      <Button onClick={typed.keepMine}>Keep mine</Button>
      <Button onClick={typed.forget}>Take theirs</Button>
    </div>
  );
}

function told(theirs: string | undefined, mine: string | undefined): string {
  if (theirs === undefined || mine === undefined) {
    return "";
  }
  return theirs === mine ? `: both ${theirs}` : `: ${theirs}, here ${mine}`;
}

function plainly(value: unknown): string | undefined {
  switch (typeof value) {
    case "string":
      return value === "" ? "empty" : `“${value}”`;
    case "number":
      return String(value);
    case "boolean":
      return value ? "yes" : "no";
    default:
      return value == null ? "empty" : undefined;
  }
}
