import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Load, Loads } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, weekday } from "../format";
import { Lines } from "../kit/Lines";
import styles from "./PlannerLoads.module.css";
import { clock } from "./scale";

/** A week of everybody, seven narrow days each, or how full each day of a month is; a day leads to its ribbons. */
export function PlannerLoads({ view, day, today }: { view: "week" | "month"; day: string; today: string }) {
  const { data, error } = useQuery(view === "week" ? queries.plannerWeek(day) : queries.plannerMonth(day));
  if (error && !data) {
    return <p className="fault">{error.message}</p>;
  }
  if (!data) {
    return <div className={styles.loads} aria-busy="true" />;
  }
  return (
    <div className={styles.loads}>
      {view === "week" ? <Week loads={data} today={today} /> : <Month loads={data} today={today} />}
    </div>
  );
}

function Week({ loads, today }: { loads: Loads; today: string }) {
  const days = loads.technicians[0]?.days.map((load) => load.day) ?? [];
  return (
    <Lines
      caption={`The week from ${weekday(loads.from)}`}
      columns={[{ name: "Technician" }, ...days.map((day) => ({ name: weekday(day) }))]}
    >
      {loads.technicians.map((technician) => (
        <tr key={technician.personId}>
          <th scope="row">{technician.name}</th>
          {technician.days.map((load) => (
            <td key={load.day} className={load.day === today ? styles.today : undefined}>
              <Link to={`/planner/${load.day}`} aria-label={`${weekday(load.day)}, ${technician.name}`}>
                <Bar load={load} />
              </Link>
              {load.visits.map((visit) => (
                <Link
                  key={visit.visitId}
                  className={styles.visit}
                  to={`/planner/${load.day}?visit=${visit.visitId}`}
                  title={`${visit.title}, ${hours(visit.at.to - visit.at.from)}`}
                >
                  {clock(visit.at.from)} {visit.customer}
                </Link>
              ))}
            </td>
          ))}
        </tr>
      ))}
    </Lines>
  );
}

/** Weeks below each other, so that a month fits the page: each day with its load in numbers and as a bar. */
function Month({ loads, today }: { loads: Loads; today: string }) {
  const days = loads.technicians[0]?.days.map((load) => load.day) ?? [];
  return (
    <Lines
      caption={`How full each day is from ${weekday(loads.from)} to ${weekday(loads.to)}`}
      columns={[{ name: "Day" }, ...loads.technicians.map((technician) => ({ name: technician.name }))]}
    >
      {days.map((day, index) => (
        <tr key={day} className={day === today ? styles.today : undefined}>
          <th scope="row">
            <Link to={`/planner/${day}`}>{weekday(day)}</Link>
          </th>
          {loads.technicians.map((technician) => (
            <td key={technician.personId}>
              {technician.days[index] && <Bar load={technician.days[index]} />}
            </td>
          ))}
        </tr>
      ))}
    </Lines>
  );
}

/** How full a day is, in words and as a bar of its width. */
function Bar({ load }: { load: Load }) {
  const full = load.percent ?? 0;
  return (
    <span className={styles.day}>
      <span className={styles.bar} aria-hidden="true">
        <i
          className={full > 100 || load.clashing > 0 ? styles.over : undefined}
          style={{ width: `${Math.min(full, 100)}%` }}
        />
      </span>
      <span className={load.clashing > 0 ? "small needs" : "small soft"}>{said(load)}</span>
    </span>
  );
}

function said(load: Load): string {
  if (load.percent == null) {
    return load.away ?? (load.count > 0 ? `${load.count} planned, not at work` : "free");
  }
  const away = load.away ? `, ${load.away}` : "";
  const clashing = load.clashing > 0 ? `, ${load.clashing} to look at` : "";
  return load.count === 0
    ? `nothing yet${away}`
    : `${hours(load.workMinutes + load.drivingMinutes)}, ${load.percent} %${away}${clashing}`;
}
