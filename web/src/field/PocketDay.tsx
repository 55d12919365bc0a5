import { useQueries, useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { Link } from "react-router";
import type { Day, OwnLateAct, PocketVisit, Stop } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, moment, time, weekday, words } from "../format";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { signOut, useSession } from "../people/SessionGate";
import { dayAsTapped } from "./asTapped";
import { ChangedStops } from "./ChangedStops";
import { mondayOf } from "./mondays";
import styles from "./PocketDay.module.css";
import { useChangedVisits } from "./seenVisits";
import { TAPPED } from "./tapped";
import { useCarried } from "./useCarried";
import { useWaiting, useWaitingPhotos } from "./useWaiting";
import { Waiting } from "./Waiting";

// The stops are there to be read and tapped first. A network that is gone by then does not take them away again.
const parts = (): Promise<typeof import("./DayParts")> =>
  import("./DayParts").catch(() => ({ AfterStops: NotFetched, OwnChoices: () => <></> }));
const AfterStops = lazy(async () => ({ default: (await parts()).AfterStops }));
const OwnChoices = lazy(async () => ({ default: (await parts()).OwnChoices }));

const OVER = ["finished", "checked"];

/** The technician's stops of the day, the next one first in view. */
export default function PocketDay() {
  const { data: read, error } = useQuery(queries.pocketDay);
  const kept = useWaiting();
  const photos = useWaitingPhotos();
  const data = read && dayAsTapped(read, kept);
  useCarried(data !== undefined);
  // A forgotten clock is put right without a network too.
  useQuery({ ...queries.ownWeek(read ? mondayOf(read.day) : ""), enabled: read !== undefined });
  useTitle("Today");
  const changed = useChangedVisits(useAlong(read ? [...read.stops, ...read.later] : []));
  const next = data?.stops.find((stop) => !OVER.includes(stop.state));
  return (
    <main className="pocket">
      <header className="bar">
        <span>{data ? weekday(data.day) : ""}</span>
        <SignOut waiting={kept.length + photos.length} />
      </header>
      <Waiting />
      <div className="body">
        {data && data.stops.length > 0 && (
          <div className={styles.ribbon} aria-hidden="true">
            {data.stops.map((stop) => (
              <i
                key={stop.visitId}
                className={
                  OVER.includes(stop.state)
                    ? styles.solid
                    : stop.state === "planned"
                      ? undefined
                      : styles.running
                }
                style={{ flexGrow: stop.expectedMinutes }}
              />
            ))}
          </div>
        )}
        <h1>{data ? `${data.stops.length} ${data.stops.length === 1 ? "stop" : "stops"} today` : "Today"}</h1>
        {data?.stops.length === 0 && (
          <p className="soft">Nothing is planned for you today. The office plans your next stop.</p>
        )}
        {error && !data && <p className="fault">{error.message}</p>}
        {data && data.asked > 0 && (
          <Link className="tall-link needs" to="/pocket/van">
            {data.asked === 1 ? "Parts wait" : `${data.asked} times parts wait`} for your yes
          </Link>
        )}
      </div>
      <ChangedStops now={read} />
      {data?.stops.map((stop) => (
        <StopLine key={stop.visitId} stop={stop} next={stop === next} changed={changed.has(stop.visitId)} />
      ))}
      {data && answeredAlike(data.lateActs).map((acts) => <CameInLate key={acts[0]?.id} acts={acts} />)}
      {data && (
        <Suspense fallback={<PlaceOfOffVisit day={data} />}>
          <AfterStops day={data} />
        </Suspense>
      )}
      {data?.later[0] && (
        <section aria-label={weekday(data.later[0].day)}>
          <h2 className="body">{weekday(data.later[0].day)}</h2>
          {data.later.map((stop) => (
            <StopLine key={stop.visitId} stop={stop} changed={changed.has(stop.visitId)} />
          ))}
        </section>
      )}
      {data && (
        <p className={`body ${styles.places}`}>
          <Link className="tall-link" to={`/pocket/week/${mondayOf(data.day)}`}>
            My week
          </Link>
          <Link className="tall-link" to="/pocket/van">
            My van
          </Link>
        </p>
      )}
      <Suspense>
        <OwnChoices />
      </Suspense>
    </main>
  );
}

function NotFetched() {
  return (
    <p className="body">
      <span className="fault">Breaks and other time could not be fetched: there is no network.</span>{" "}
      <button type="button" className="early" onClick={() => window.location.reload()}>
        Load them again
      </button>
    </p>
  );
}

/** Nothing below moves when what is done on no visit comes in. */
function PlaceOfOffVisit({ day }: { day: Day }) {
  return (
    <div className="body" aria-busy="true">
      <div className="pair">
        {["break", "drive", ...day.otherWork].map((work) => (
          <span key={work} className="tall" />
        ))}
      </div>
    </div>
  );
}

/** These stops' visits, as far as the phone has them along. */
function useAlong(stops: Stop[]): PocketVisit[] {
  return useQueries({
    queries: stops.map(({ visitId }) => ({ ...queries.pocketVisit(visitId), enabled: false })),
  }).flatMap(({ data }) => data ?? []);
}

function StopLine({ stop, next = false, changed }: { stop: Stop; next?: boolean; changed: boolean }) {
  return (
    <Link to={`/pocket/${stop.visitId}`} className={next ? "stop next" : "stop"}>
      <span>
        <b>{time(stop.start)}</b>
        <div className="soft small">{hours(stop.expectedMinutes)}</div>
      </span>
      <span>
        <b>{stop.customer}</b>
        <div className="soft what">
          {stop.title}, {stop.site}
        </div>
        {changed && <div className="needs">Changed by the office</div>}
        {stop.unseenMessages > 0 && <div className="needs">The office has written</div>}
      </span>
      <span
        className={`${styles.state} ${OVER.includes(stop.state) ? styles.solid : stop.state === "planned" ? "" : styles.running}`}
      >
        {words(stop.state)}
      </span>
    </Link>
  );
}

const ANSWERED = {
  taken: "",
  waiting: "The office is asked whether it counts.",
  written_down: "The office has written it down.",
  refused: "It does not count:",
};

/** Taps of which the same is to be said: at one customer, with one answer. */
function answeredAlike(acts: OwnLateAct[]): OwnLateAct[][] {
  const alike = new Map<string, OwnLateAct[]>();
  for (const act of acts) {
    const said = [act.customer, act.state, act.reason].join("\n");
    alike.set(said, [...(alike.get(said) ?? []), act]);
  }
  return [...alike.values()];
}

/** What was tapped without a network at one customer and could not be taken as it was. */
function CameInLate({ acts }: { acts: OwnLateAct[] }) {
  const [first] = acts;
  if (!first) {
    return null;
  }
  return (
    <p className="body">
      <b>
        {acts.map((act) => `${TAPPED[act.step]} ${moment(act.at)}`).join(", ")}
        {first.customer && `, ${first.customer}`}
      </b>{" "}
      came in late. {first.detail} {ANSWERED[first.state]} {first.reason}
    </p>
  );
}

/** Nobody signs out over what is not sent without being told. */
function SignOut({ waiting }: { waiting: number }) {
  const { person } = useSession();
  const [asked, setAsked] = useState(false);
  const out = useAct(signOut, { said: null });
  if (asked) {
    return (
      <span role="alert">
        {waiting} not sent. {waiting === 1 ? "It stays" : "They stay"} on this phone until you sign in again.{" "}
        <button type="button" className="plain" onClick={() => out.run()}>
          Sign out
        </button>{" "}
        <button type="button" className="plain" onClick={() => setAsked(false)}>
          Stay
        </button>
      </span>
    );
  }
  return (
    <button type="button" className="plain" onClick={() => (waiting > 0 ? setAsked(true) : out.run())}>
      {person.name}, sign out
    </button>
  );
}
