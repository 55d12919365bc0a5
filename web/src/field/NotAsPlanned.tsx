import { Button, Input } from "antd";
import { type ReactNode, useState } from "react";
import { useNavigate } from "react-router";
import type { PocketVisit } from "../api/generated/schema";
import { hours, time } from "../format";
import { useDraft } from "../kit/useKept";
import { useSession } from "../people/SessionGate";
import { noteHandedBack } from "./seenStops";
import { useTap } from "./useTap";

const OFFERED = [15, 30, 45, 60];

type Props = { visit: PocketVisit; back: () => void };

/** Says that one comes later: one tap for the usual lengths, anything else typed. */
export function Late({ visit, back }: Props) {
  const [typed, setTyped] = useState("");
  const tap = useTap({ done: back, said: "Noted. The customer is told, where they want to be." });
  const tell = (late: string) => tap.run({ step: "tell_late", visitId: visit.visitId, form: { late } });
  return (
    <Asked
      label="I am late"
      back={back}
      submit={() => tell(typed)}
      question={`How much later than ${time(visit.start)}?`}
      typed={typed}
      setTyped={setTyped}
      placeholder="20 or 1:15"
      confirm="Tell them"
      running={tap.running}
    >
      <div className="pair">
        {OFFERED.map((minutes) => (
          <Button key={minutes} loading={tap.running} onClick={() => tell(String(minutes))}>
            {hours(minutes)} later
          </Button>
        ))}
      </div>
    </Asked>
  );
}

/** Says that one comes as planned; once said it stands there until the plan is another. */
export function Accept({ visit }: { visit: PocketVisit }) {
  const accept = useTap({ said: "Accepted. The office sees it." });
  return visit.accepted ? (
    <Button disabled>Accepted</Button>
  ) : (
    <Button
      loading={accept.running}
      onClick={() => accept.run({ step: "accept_visit", visitId: visit.visitId, form: {} })}
    >
      Accept it
    </Button>
  );
}

/** Gives the visit back to the office, which plans it anew. */
export function HandBack({ visit, back }: Props) {
  const { draft, change, forget } = useDraft(`hand back ${visit.visitId}`, { reason: "" });
  const navigate = useNavigate();
  const { person } = useSession();
  const give = useTap({
    done: () => {
      forget();
      noteHandedBack(person.id, visit.visitId);
      void navigate("/pocket");
    },
    said: "Handed back. The office plans it anew.",
  });
  return (
    <Asked
      label="Hand it back"
      back={back}
      submit={() => give.run({ step: "hand_back", visitId: visit.visitId, form: draft })}
      question="Why can you not go? The office reads it."
      typed={draft.reason}
      setTyped={(reason) => change({ reason })}
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
