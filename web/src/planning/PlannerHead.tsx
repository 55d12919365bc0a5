import { useQueryClient } from "@tanstack/react-query";
import { Input } from "antd";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import type { PlannerDay } from "../api/generated/schema";
import { queries } from "../api/queries";
import { headline, hours, weekday } from "../format";
import { Heading } from "../kit/Heading";
import styles from "./PlannerPage.module.css";

/** How much of the calendar is shown. */
export const VIEWS = ["day", "week", "month"] as const;

type View = (typeof VIEWS)[number];

/** Which days are shown, and the way to others. */
export function PlannerHead({
  day,
  today,
  view,
  shown,
}: {
  day: string;
  today: string;
  view: View;
  shown?: PlannerDay;
}) {
  const kept = view === "day" ? "" : `?view=${view}`;
  return (
    <header className={styles.head}>
      <Heading>{view === "day" ? weekday(day) : `${headline(view)} of ${weekday(day)}`}</Heading>
      {shown && (
        <span className="soft">
          {shown.ribbons.length} technicians, {shown.visits} visits, {hours(shown.drivingMinutes)} driving,{" "}
          {shown.miles} miles
        </span>
      )}
      {shown && shown.late > 0 && <span className="needs">{shown.late} later than promised</span>}
      <nav className={styles.days} aria-label="Days">
        {VIEWS.map((each) => (
          <Link
            key={each}
            to={`/planner/${day}${each === "day" ? "" : `?view=${each}`}`}
            aria-current={each === view ? "page" : undefined}
          >
            {each}
          </Link>
        ))}
        <Link to={`/planner/${shifted(day, view, -1)}${kept}`} aria-label={`The ${view} before`}>
          ←
        </Link>
        <Link to={`/planner${kept}`} aria-current={day === today ? "date" : undefined}>
          today
        </Link>
        <Link to={`/planner/${shifted(day, view, 1)}${kept}`} aria-label={`The ${view} after`}>
          →
        </Link>
        <GoTo kept={kept} />
      </nav>
    </header>
  );
}

/** A day as people type it: "tue", "3 dec". */
function GoTo({ kept }: { kept: string }) {
  const [typed, setTyped] = useState("");
  const [fault, setFault] = useState<string>();
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const go = () =>
    queryClient.fetchQuery({ ...queries.plannerDay(typed.trim()), retry: false }).then(
      ({ day }) => {
        setTyped("");
        setFault(undefined);
        navigate(`/planner/${day}${kept}`);
      },
      (problem: Error) => setFault(problem.message),
    );
  return (
    <span className={styles.goTo}>
      <Input
        size="small"
        aria-label="Go to a day"
        aria-invalid={fault ? true : undefined}
        placeholder="tue, 3 dec"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onPressEnter={() => typed.trim() && void go()}
      />
      {fault && (
        <span className="fault" role="alert">
          {fault}
        </span>
      )}
    </span>
  );
}

/** The same day of the view before or after; a month's last days lead to the last of a shorter one. */
function shifted(day: string, view: View, by: number): string {
  const moved = new Date(`${day}T12:00:00Z`);
  if (view === "month") {
    const month = moved.getUTCMonth() + by;
    const last = new Date(Date.UTC(moved.getUTCFullYear(), month + 1, 0)).getUTCDate();
    moved.setUTCMonth(month, Math.min(moved.getUTCDate(), last));
  } else {
    moved.setUTCDate(moved.getUTCDate() + by * (view === "week" ? 7 : 1));
  }
  return moved.toISOString().slice(0, 10);
}
