import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { queries } from "../api/queries";
import { hours, time, weekday, words } from "../format";
import { useTitle } from "../kit/useTitle";
import { signOut, useSession } from "../people/SessionGate";
import { OwnCalendar } from "../telling/OwnCalendar";
import { InDoubt } from "./InDoubt";
import { mondayOf } from "./mondays";
import { OffVisit } from "./OffVisit";

const OVER = ["finished", "checked"];

/** The technician's stops of the day, the next one first in view. */
export default function PocketDay() {
  const { person } = useSession();
  const { data, error } = useQuery(queries.pocketDay);
  useTitle("Today");
  const next = data?.stops.find((stop) => !OVER.includes(stop.state));
  return (
    <main className="pocket">
      <header className="bar">
        <span>{data ? weekday(data.day) : ""}</span>
        <button type="button" className="plain" onClick={() => void signOut()}>
          {person.name}, sign out
        </button>
      </header>
      <div className="body">
        {data && data.stops.length > 0 && (
          <div className="day-ribbon" aria-hidden="true">
            {data.stops.map((stop) => (
              <i
                key={stop.visitId}
                className={OVER.includes(stop.state) ? "solid" : stop.state === "planned" ? "" : "running"}
                style={{ flexGrow: stop.expectedMinutes }}
              />
            ))}
          </div>
        )}
        <h1>{data ? `${data.stops.length} ${data.stops.length === 1 ? "stop" : "stops"} today` : "Today"}</h1>
        {data?.stops.length === 0 && (
          <p className="soft">Nothing is planned for you today. The office plans your next stop.</p>
        )}
        {error && <p className="fault">{error.message}</p>}
      </div>
      {data?.stops.map((stop) => (
        <Link
          key={stop.visitId}
          to={`/pocket/${stop.visitId}`}
          className={stop === next ? "stop next" : "stop"}
        >
          <span>
            <b>{time(stop.start)}</b>
            <div className="soft small">{hours(stop.expectedMinutes)}</div>
          </span>
          <span>
            <b>{stop.customer}</b>
            <div className="soft what">
              {stop.title}, {stop.site}
            </div>
          </span>
          <span
            className={`state ${OVER.includes(stop.state) ? "solid" : stop.state === "planned" ? "" : "running"}`}
          >
            {words(stop.state)}
          </span>
        </Link>
      ))}
      {data?.inDoubt.map((entry) => (
        <InDoubt key={entry.id} entry={entry} />
      ))}
      {data && <OffVisit day={data} />}
      {data && (
        <p className="body">
          <Link className="tall-link" to={`/pocket/week/${mondayOf(data.day)}`}>
            My week
          </Link>
        </p>
      )}
      <OwnCalendar />
    </main>
  );
}
