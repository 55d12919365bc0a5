import { useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, withKey } from "../api/client";
import type { PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { hours, time } from "../format";
import { useAct } from "../kit/useAct";

const OFFERED = [15, 30, 45, 60];

type Props = { visit: PocketVisit; back: () => void };

/** Says that one comes later: one tap for the usual lengths, anything else typed. */
export function Late({ visit, back }: Props) {
  const [typed, setTyped] = useState("");
  const tell = useAct(
    (late: string, key) =>
      answer(
        client.POST("/api/pocket/visits/{id}/late", {
          params: { path: { id: visit.visitId }, ...withKey(key) },
          body: { late },
        }),
      ),
    { done: back, said: "Noted. The customer is told, where they want to be." },
  );
  return (
    <Asked
      label="I am late"
      back={back}
      submit={() => tell.run(typed)}
      question={`How much later than ${time(visit.start)}?`}
      typed={typed}
      setTyped={setTyped}
      placeholder="20 or 1:15"
      confirm="Tell them"
      running={tell.running}
    >
      <div className="pair">
        {OFFERED.map((minutes) => (
          <Button key={minutes} loading={tell.running} onClick={() => tell.run(String(minutes))}>
            {hours(minutes)} later
          </Button>
        ))}
      </div>
    </Asked>
  );
}

/** Gives the visit back to the office, which plans it anew. */
export function HandBack({ visit, back }: Props) {
  const [typed, setTyped] = useState("");
  const queryClient = useQueryClient();
  const navigate = useNavigate();
  const give = useAct(
    (reason: string, key) =>
      answer(
        client.POST("/api/pocket/visits/{id}/hand-back", {
          params: { path: { id: visit.visitId }, ...withKey(key) },
          body: { reason },
        }),
      ),
    {
      done: (day) => {
        queryClient.setQueryData(queries.pocketDay.queryKey, day);
        void navigate("/pocket");
      },
      said: "Handed back. The office plans it anew.",
    },
  );
  return (
    <Asked
      label="Hand it back"
      back={back}
      submit={() => give.run(typed)}
      question="Why can you not go? The office reads it."
      typed={typed}
      setTyped={setTyped}
      placeholder="the van does not start"
      confirm="Hand it back"
      running={give.running}
    />
  );
}

function Asked({
  label,
  back,
  submit,
  question,
  typed,
  setTyped,
  placeholder,
  confirm,
  running,
  children,
}: {
  label: string;
  back: () => void;
  submit: () => void;
  question: string;
  typed: string;
  setTyped: (typed: string) => void;
  placeholder: string;
  confirm: string;
  running: boolean;
  children?: ReactNode;
}) {
  return (
    <form
      className="form"
      aria-label={label}
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      {children}
      <label>
        {question}
        <Input
          className="tall"
          placeholder={placeholder}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      <Button type="primary" className="big" htmlType="submit" loading={running}>
        {confirm}
      </Button>
      <Button className="tall" onClick={back}>
        Go back
      </Button>
    </form>
  );
}
