import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, type Problem, withKey } from "../api/client";
import type { Day } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, time, weekday, words } from "../format";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { signOut, useSession } from "../people/SessionGate";
import { OwnCalendar } from "../telling/OwnCalendar";
import { Arrive, EndedAt, useMinutesSince } from "./PocketForms";

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
      {data && <DriveHome day={data} />}
      <OwnCalendar />
    </main>
  );
}

type Tap = { home: boolean; form: { miles?: string; endedAt?: string }; tappedAt: string };

/** The way home, or to the yard: its own clock, while none runs on a visit. */
function DriveHome({ day }: { day: Day }) {
  const queryClient = useQueryClient();
  const since = useMinutesSince(day.drivingHomeSince ?? undefined);
  const [problem, setProblem] = useState<Problem>();
  const act = useAct(
    ({ home, form, tappedAt }: Tap, key) => {
      const params = { params: withKey(key), body: { ...form, tappedAt, sentAt: new Date().toISOString() } };
      return answer(
        home
          ? client.POST("/api/pocket/drive-home/end", params)
          : client.POST("/api/pocket/drive-home", params),
      );
    },
    {
      done: (changed) => {
        queryClient.setQueryData(queries.pocketDay.queryKey, changed);
        setProblem(undefined);
      },
      refused: setProblem,
      said: (changed) => ({ text: changed.drivingHomeSince ? "Driving home." : "You are home." }),
    },
  );
  const take = (home: boolean, form: Tap["form"] = {}) =>
    act.run({ home, form, tappedAt: new Date().toISOString() });
  if (day.stops.some((stop) => stop.running)) {
    return null;
  }
  return (
    <div className="body">
      {!day.drivingHomeSince ? (
        <div className="pair">
          <Button loading={act.running} onClick={() => take(false)}>
            Drive home
          </Button>
        </div>
      ) : problem?.rule === "LONGER_THAN_SIXTEEN_HOURS" ? (
        <EndedAt running={act.running} submit={(endedAt) => take(true, { endedAt })} />
      ) : (
        <>
          <p>
            <b>Driving home</b>, {hours(since)} so far.
          </p>
          <Arrive words="I am home" running={act.running} submit={(miles) => take(true, { miles })} />
        </>
      )}
      {day.otherMinutes > 0 && !day.drivingHomeSince && (
        <p className="soft">{hours(day.otherMinutes)} driven home today.</p>
      )}
      {problem && problem.rule !== "LONGER_THAN_SIXTEEN_HOURS" && (
        <p className="fault" role="alert">
          {problem.message}
        </p>
      )}
    </div>
  );
}
