import { type ReactNode, useState } from "react";
import { day, weekday } from "../format";
import { Lines } from "../kit/Lines";
import { Section } from "../kit/Section";
import { useSession } from "../people/SessionGate";
import { useMay } from "../people/useMay";

/** Terms that hold from a day until the next of their kind. */
export type FromDay = { fromDay: string };

/** Which of them hold on a day: those that are to come after it, the earliest first, and those that are over. */
export function byDay<T extends FromDay>(latestFirst: T[], today: string) {
  const begun = latestFirst.filter((terms) => terms.fromDay <= today);
  return {
    now: begun[0] ?? latestFirst.at(-1),
    coming: latestFirst.filter((terms) => terms.fromDay > today).reverse(),
    over: begun.slice(1),
  };
}

/**
 * Terms of one kind, those in force first, then those that are to come; what held before is folded away. A change is
 * entered with the day from which it holds.
 */
export function Dated<T extends FromDay>({
  name,
  about,
  terms,
  columns,
  cells,
  form,
  withdraw,
  error,
}: {
  name: string;
  about: string;
  terms: T[] | undefined;
  columns: string[];
  /** What stands below the columns. */
  cells: (terms: T) => ReactNode[];
  /** The form that changes them, filled in with the terms in force. */
  form: (now: T, close: () => void) => ReactNode;
  withdraw: (terms: T) => void;
  error: Error | null;
}) {
  const [changing, setChanging] = useState(false);
  const mayChange = useMay("change_settings");
  const today = useSession().now.slice(0, 10);
  const { now, coming, over } = byDay(terms ?? [], today);
  const heads = [
    { name: "Holds" },
    ...columns.map((column) => ({ name: column, figure: true })),
    { name: "What can be done", silent: true },
  ];
  const row = (one: T, when: ReactNode, act?: ReactNode) => (
    <tr key={one.fromDay}>
      <td>{when}</td>
      {cells(one).map((cell, index) => (
        <td key={columns[index]} className="figure">
          {cell}
        </td>
      ))}
      <td className="figure">{act}</td>
    </tr>
  );
  return (
    <Section
      name={name}
      aside={
        mayChange && (
          <button
            type="button"
            className="plain small"
            aria-label={`change ${name.toLowerCase()}`}
            onClick={() => setChanging(true)}
          >
            change
          </button>
        )
      }
    >
      {error && <p className="fault">{error.message}</p>}
      {now && (
        <Lines caption={name} columns={heads}>
          {row(now, now.fromDay > today ? `from ${day(now.fromDay)}` : "now")}
          {coming
            .filter((one) => one !== now)
            .map((one) =>
              row(
                one,
                <b className="needs">from {weekday(one.fromDay)}</b>,
                mayChange && (
                  <button
                    type="button"
                    className="plain small"
                    aria-label={`take back ${name.toLowerCase()} from ${weekday(one.fromDay)}`}
                    onClick={() => withdraw(one)}
                  >
                    take back
                  </button>
                ),
              ),
            )}
        </Lines>
      )}
      <div className="soft small">{about}</div>
      {over.length > 0 && (
        <details className="small">
          <summary>What held before</summary>
          <Lines caption={`${name} before`} columns={heads}>
            {over.map((one) => row(one, `from ${day(one.fromDay)} ${one.fromDay.slice(0, 4)}`))}
          </Lines>
        </details>
      )}
      {changing && now && form(now, () => setChanging(false))}
    </Section>
  );
}
