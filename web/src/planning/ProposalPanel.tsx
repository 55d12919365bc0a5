import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input } from "antd";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type {
  Figures,
  ProposedPlan,
  ProposedVisit,
  UnplacedVisit,
  WaitingVisit,
} from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, time, weekday } from "../format";
import { Heading } from "../kit/Heading";
import { useAct } from "../kit/useAct";
import styles from "./ProposalPanel.module.css";
import { crew, lateness } from "./words";

const WHY: Record<UnplacedVisit["why"], string> = {
  waits_longer: "what it waits for comes after these days",
  out_of_area: "whoever could make it does not go there",
  nobody_skilled: "nobody knows all that it needs",
  no_room: "nobody has room for it on these days",
};

/** Asks for a plan of these visits and shows what is proposed, taken whole or line by line. */
export function ProposalPanel({
  visits,
  day,
  proposalId,
  found,
  close,
}: {
  visits: WaitingVisit[];
  /** The first day that is planned. */
  day: string;
  /** Of the plan that was asked for. */
  proposalId: number | undefined;
  found: (proposalId: number) => void;
  close: () => void;
}) {
  const [until, setUntil] = useState("");
  const [fault, setFault] = useState<string>();
  const ask = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/planner/proposals", {
          params: withKey(key),
          body: {
            firstDay: day,
            lastDay: until.trim() || day,
            technicianIds: [],
            visitIds: visits.map((visit) => visit.visitId),
            seconds: 10,
          },
        }),
      ),
    {
      done: (made) => {
        setFault(undefined);
        found(made.id);
      },
      refused: (problem) => setFault(problem.faults[0]?.detail ?? problem.message),
      said: null,
    },
  );
  const { data, error } = useQuery({
    ...queries.proposal(proposalId ?? 0),
    enabled: proposalId !== undefined,
  });
  return (
    <section className={styles.proposal} aria-label="Proposed plan">
      <Heading part>A plan from {weekday(day)}</Heading>
      <div className={styles.ask}>
        <Input
          size="small"
          aria-label="Plan until"
          aria-invalid={fault ? true : undefined}
          placeholder="until fri"
          value={until}
          onChange={(event) => setUntil(event.target.value)}
          onPressEnter={() => ask.run(undefined)}
        />
        <Button
          size="small"
          type={data ? "default" : "primary"}
          loading={ask.running}
          onClick={() => ask.run(undefined)}
        >
          {data ? "Search again" : `Search for ${visits.length}`}
        </Button>
        <Button size="small" onClick={close}>
          Leave
        </Button>
      </div>
      {fault && (
        <p className="fault" role="alert">
          {fault}
        </p>
      )}
      {error && <p className="fault">{error.message}</p>}
      {data && <Proposed key={data.id} plan={data} close={close} />}
    </section>
  );
}

function Proposed({ plan, close }: { plan: ProposedPlan; close: () => void }) {
  const [left, setLeft] = useState<number[]>([]);
  const wanted = plan.visits.filter((visit) => !left.includes(visit.visitId));
  const stop = useAct(
    () => answer(client.POST("/api/planner/proposals/{id}/stop", { params: { path: { id: plan.id } } })),
    { said: null },
  );
  const take = useAct(
    () =>
      answer(
        client.POST("/api/planner/plans", {
          body: {
            moves: wanted.map((visit) => ({
              visitId: visit.visitId,
              version: visit.version,
              technicianId: visit.personId,
              companionIds: visit.companions.map(({ id }) => id),
              day: visit.day,
              start: visit.start,
              minutes: visit.expectedMinutes,
            })),
          },
        }),
      ),
    {
      done: close,
      said: ({ planned, left: kept }) => ({
        text: [
          `${planned} ${planned === 1 ? "visit" : "visits"} planned.`,
          ...kept.map((visit) => `${visit.customer} is left: ${visit.reason}.`),
        ].join(" "),
      }),
    },
  );
  const searching = plan.state === "searching";
  return (
    <>
      {searching && (
        <p role="status">
          Searching. What is below is the best so far.{" "}
          <Button size="small" loading={stop.running} onClick={() => stop.run()}>
            Enough
          </Button>
        </p>
      )}
      {plan.state === "failed" && (
        <p className="fault">The search came to nothing by a fault here. Search again.</p>
      )}
      {plan.figures && <Sums figures={plan.figures} plan={plan} />}
      {plan.visits.map((visit) => (
        <Line
          key={visit.visitId}
          visit={visit}
          on={!left.includes(visit.visitId)}
          turn={(on) => setLeft(on ? left.filter((id) => id !== visit.visitId) : [...left, visit.visitId])}
        />
      ))}
      {plan.unplaced.map((visit) => (
        <div key={visit.visitId} className={styles.line}>
          <b>{visit.customer}</b> <span className="small">{visit.title}</span>
          <div className="small needs">{WHY[visit.why]}</div>
        </div>
      ))}
      {plan.visits.length > 0 && (
        <Button
          size="small"
          type="primary"
          disabled={searching || wanted.length === 0}
          loading={take.running}
          onClick={() => take.run()}
        >
          {wanted.length === plan.visits.length ? "Plan all" : `Plan ${wanted.length}`}
        </Button>
      )}
    </>
  );
}

/** What the plan is judged by, against the days as they are. */
function Sums({ figures, plan }: { figures: Figures; plan: ProposedPlan }) {
  return (
    <p className="small">
      {plan.visits.length} placed, {figures.unplaced} not; {hours(figures.drivingMinutes)} driving,{" "}
      {hours(plan.drivingMinutes)} now;{" "}
      {figures.lateMinutes > 0 ? (
        <span className="needs">{lateness(figures.lateMinutes)} in all</span>
      ) : (
        "none late"
      )}
      {figures.minutesOver > 0 && `; ${hours(figures.minutesOver)} over the day`}.
    </p>
  );
}

function Line({ visit, on, turn }: { visit: ProposedVisit; on: boolean; turn: (on: boolean) => void }) {
  return (
    <div className={styles.line}>
      <Checkbox checked={on} onChange={(event) => turn(event.target.checked)}>
        {weekday(visit.day)} {time(visit.start)}, {crew(visit)}
      </Checkbox>
      <div className="small">
        {visit.customer}, {visit.title}
        {visit.lateMinutes > 0 && <span className="needs"> {lateness(visit.lateMinutes)}</span>}
      </div>
    </div>
  );
}
