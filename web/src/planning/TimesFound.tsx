import { useQuery } from "@tanstack/react-query";
import type { TimeFound } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours } from "../format";
import { between } from "../telling/words";
import styles from "./TimesFound.module.css";
import { lateness, offered, reasons } from "./words";

/** What a time has to suit, as it is typed. */
export type Asked = {
  from?: string;
  part?: "morning" | "afternoon";
  technicianId?: number;
  crewSize?: number;
  expected?: string;
};

/** The best times for a visit with why, each taken by a press; `keyed` when 1, 2 and 3 take them too. */
export function TimesFound({
  visitId,
  asked = {},
  keyed,
  take,
}: {
  visitId: number;
  asked?: Asked;
  keyed?: boolean;
  take: (found: TimeFound) => void;
}) {
  const { data, error } = useQuery(queries.timesFound(visitId, asked));
  if (error && !data) {
    return <p className="fault">{error.message}</p>;
  }
  if (!data) {
    return <div className={styles.waiting} aria-busy="true" />;
  }
  if (data.times.length === 0) {
    return (
      <p className="soft small">
        Nobody who may go has {hours(data.expectedMinutes)} free in these four weeks. Ask for a later day, a
        shorter visit, or somebody else.
      </p>
    );
  }
  return (
    <ol className={styles.times}>
      {data.times.map((found, index) => (
        <li key={`${found.personId} ${found.day}`}>
          <button type="button" className={styles.time} onClick={() => take(found)}>
            {keyed && <kbd className={styles.key}>{index + 1}</kbd>}
            <span>
              <b>{offered(found)}</b>
              <span className="small">say “{between(found.window)}”</span>
              <span className="small soft">{reasons(found)}</span>
              {found.lateMinutes > 0 && <span className="small needs">{lateness(found.lateMinutes)}</span>}
              {found.notAsTold && <span className="small needs">the customer was told another time</span>}
            </span>
          </button>
        </li>
      ))}
    </ol>
  );
}
