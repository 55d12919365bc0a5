import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox } from "antd";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { ProposedMove } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, time, weekday } from "../format";
import { Heading } from "../kit/Heading";
import { useAct } from "../kit/useAct";
import styles from "./RelayPanel.module.css";
import { lateness, offered } from "./words";

/** The day of somebody who is not there, laid on the others: before and after, taken whole or line by line. */
export function RelayPanel({
  personId,
  name,
  day,
  until,
  close,
}: {
  personId: number;
  name: string;
  day: string;
  /** The last day of the absence; nothing for this day alone. */
  until?: string;
  close: () => void;
}) {
  const { data, error } = useQuery(queries.relay(personId, day, until));
  const [left, setLeft] = useState<number[]>([]);
  const wanted = (data?.moves ?? []).filter((move) => !left.includes(move.visitId));
  const act = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/planner/relays", {
          params: withKey(key),
          body: {
            moves: wanted.flatMap(({ visitId, version, expectedMinutes, found }) =>
              found
                ? [
                    {
                      visitId,
                      version,
                      technicianId: found.personId,
                      companionIds: found.companions.map(({ id }) => id),
                      day: found.day,
                      start: found.start,
                      minutes: expectedMinutes,
                    },
                  ]
                : [],
            ),
            unplaced: wanted.filter(({ found }) => !found).map(({ visitId }) => visitId),
          },
        }),
      ),
    {
      done: close,
      said: ({ moved, calls }) => ({
        text: `${counted(moved, "visit")} moved, ${counted(calls, "call")} to make${calls > 0 ? ", among your to-dos" : ""}.`,
      }),
    },
  );
  return (
    <section className={styles.relay} aria-label={`${name}’s day laid on the others`}>
      <Heading part>
        {name}’s {weekday(day)}
        {until && until !== day && ` to ${weekday(until)}`} on the others
      </Heading>
      {error && <p className="fault">{error.message}</p>}
      {!data && !error && <div className={styles.waiting} aria-busy="true" />}
      {data?.moves.length === 0 && <p className="soft">Nothing that has not begun is planned then.</p>}
      {data?.moves.map((move) => (
        <Move
          key={move.visitId}
          move={move}
          dated={until !== undefined && until !== day}
          on={!left.includes(move.visitId)}
          turn={(on) => setLeft(on ? left.filter((id) => id !== move.visitId) : [...left, move.visitId])}
        />
      ))}
      <Button
        size="small"
        type="primary"
        disabled={wanted.length === 0}
        loading={act.running}
        onClick={() => act.run(undefined)}
      >
        {wanted.length === data?.moves.length ? "Move all" : `Move ${wanted.length}`}
      </Button>{" "}
      <Button size="small" onClick={close}>
        Leave
      </Button>
    </section>
  );
}

const counted = (count: number, what: string): string => `${count} ${what}${count === 1 ? "" : "s"}`;

function Move({
  move,
  dated,
  on,
  turn,
}: {
  move: ProposedMove;
  /** Whether its day is said. */
  dated: boolean;
  on: boolean;
  turn: (on: boolean) => void;
}) {
  return (
    <div className={styles.move}>
      <Checkbox checked={on} onChange={(event) => turn(event.target.checked)}>
        {dated && `${weekday(move.day)} `}
        {time(move.start)} {move.customer}, {hours(move.expectedMinutes)}
      </Checkbox>
      {move.found ? (
        <div>
          {offered(move.found)}
          {move.found.notAsTold && <div className="needs">not as the customer was told</div>}
          {move.found.lateMinutes > 0 && <div className="needs">{lateness(move.found.lateMinutes)}</div>}
        </div>
      ) : (
        <div className="needs">nobody has room within a week</div>
      )}
      {move.ring && <div className="small soft">ring {move.phone || "them"}</div>}
    </div>
  );
}
