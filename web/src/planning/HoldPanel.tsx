import { useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, withKey } from "../api/client";
import type { Held, HoldMade, Ribbon, WaitingVisit } from "../api/generated/schema";
import { hours, time } from "../format";
import { Heading } from "../kit/Heading";
import { useAct } from "../kit/useAct";
import styles from "./HoldPanel.module.css";
import { clock } from "./scale";

/** How many of the waiting visits that fit are offered. */
const OFFERED = 5;

/** A time that whoever plans holds, with the waiting visits that fit into it. */
export function HoldPanel({
  held,
  ribbon,
  waiting,
  give,
}: {
  held: Held;
  ribbon: Ribbon;
  waiting: WaitingVisit[];
  give: (visit: WaitingVisit) => void;
}) {
  const end = useAct(
    () => answer(client.DELETE("/api/planner/holds/{id}", { params: { path: { id: held.holdId } } })),
    { said: "The time is free again." },
  );
  const longer = useAct(
    () => answer(client.POST("/api/planner/holds/{id}/longer", { params: { path: { id: held.holdId } } })),
    { said: "Held for five minutes more." },
  );
  const fitting = waiting.filter((visit) => visit.expectedMinutes <= held.at.to - held.at.from);
  return (
    <section className={styles.hold} aria-label="A time that you hold">
      <Heading part>
        Held: {ribbon.name}, {clock(held.at.from)} to {clock(held.at.to)}
      </Heading>
      <div className="small soft">Nobody else is planned there until {time(held.until.slice(11))}.</div>
      {fitting.length === 0 && <p className="soft small">No waiting visit is as short as this.</p>}
      {fitting.slice(0, OFFERED).map((visit) => (
        <button key={visit.visitId} type="button" className={styles.fitting} onClick={() => give(visit)}>
          <b>{visit.customer}</b>
          <span className="small">
            {visit.title}, {hours(visit.expectedMinutes)}
          </span>
        </button>
      ))}
      <p className="small soft">
        For somebody else, find the caller with / or take <Link to="/customers/new">a new one</Link>; the job
        is offered this time.
      </p>
      <Button size="small" loading={longer.running} onClick={() => longer.run()}>
        Hold it longer
      </Button>{" "}
      <Button size="small" loading={end.running} onClick={() => end.run()}>
        Give the time back
      </Button>
    </section>
  );
}

/** "imre tue 10-12" as a name, a day (the one that is shown where none is typed) and a part of it. */
function parsed(typed: string, ribbons: Ribbon[], shown: string) {
  const [, name = "", day = "", at = ""] =
    /^\s*(\D+?)(?:\s+(.*?))?\s+(\d[\d:.]*\s*(?:to|[-–])\s*\d[\d:.]*)\s*$/.exec(typed) ?? [];
  const words = `${name} ${day}`.trim().split(/\s+/);
  const called = ribbons.filter((ribbon) =>
    ribbon.name.toLowerCase().startsWith((words[0] ?? "").toLowerCase()),
  );
  return {
    personId: called.length === 1 ? called[0]?.personId : undefined,
    day: words.slice(1).join(" ") || shown,
    at,
  };
}

/** Holds a time that is typed in one line, for whoever has the customer on the telephone. */
export function HoldLine({ ribbons, day }: { ribbons: Ribbon[]; day: string }) {
  const [typed, setTyped] = useState("");
  const [fault, setFault] = useState<string>();
  const hold = useHold(() => setTyped(""), setFault);
  const go = () => {
    const { personId, day: on, at } = parsed(typed, ribbons, day);
    if (!personId || !at) {
      setFault("Type who, when and for how long, such as imre tue 10-12.");
      return;
    }
    setFault(undefined);
    hold.run({ personId, day: on, at });
  };
  return (
    <div className={styles.line}>
      <Input
        size="small"
        aria-label="Hold a time"
        aria-invalid={fault ? true : undefined}
        placeholder="hold a time: imre tue 10-12"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        onPressEnter={() => typed.trim() && go()}
      />
      {fault && (
        <span className="fault" role="alert">
          {fault}
        </span>
      )}
    </div>
  );
}

/** Keeps a time of somebody's day free for five minutes. */
export function useHold(done: () => void, refused?: (words: string) => void) {
  const queryClient = useQueryClient();
  return useAct<{ personId: number; day: string; at: string }, HoldMade>(
    (body: { personId: number; day: string; at: string }, key) =>
      answer(client.POST("/api/planner/holds", { params: withKey(key), body })),
    {
      done: () => {
        void queryClient.invalidateQueries({ queryKey: ["work", "planner"] });
        done();
      },
      refused: refused && ((problem) => refused(problem.faults[0]?.detail ?? problem.message)),
      said: (made) => ({ text: `Held until ${time(made.until.slice(11))}. Choose what it is for.` }),
    },
  );
}
