import { Button, Input } from "antd";
import { useState } from "react";
import type { PocketVisit } from "../api/generated/schema";

export type Outcome = NonNullable<PocketVisit["outcome"]>;

/** What came of a visit, in the technician's words. */
export const OUTCOMES: Record<Outcome, string> = {
  done: "Done",
  come_again: "Come again",
  not_let_in: "Could not get in",
  declined: "Customer declined",
};

type Said = { note: string; causeCode?: string; outcome: Outcome; reason?: string };

/** The end of a visit: what came of it, why it was wrong, what was done. */
export function Finish({
  visit,
  submit,
  running,
  back,
}: {
  visit: PocketVisit;
  submit: (said: Said) => void;
  running: boolean;
  back: () => void;
}) {
  const [outcome, setOutcome] = useState<Outcome>("done");
  const [note, setNote] = useState(visit.note);
  const [reason, setReason] = useState("");
  const [cause, setCause] = useState(visit.causeCode ?? undefined);
  const done = outcome === "done";
  return (
    <form
      className="form"
      aria-label="Finish"
      onSubmit={(event) => {
        event.preventDefault();
        submit({ note, causeCode: cause, outcome, reason: done ? undefined : reason });
      }}
    >
      <Choices
        legend="What came of it?"
        choices={Object.entries(OUTCOMES).map(([code, name]) => ({ code: code as Outcome, name }))}
        chosen={outcome}
        choose={setOutcome}
      />
      {!done && (
        <label>
          Why? The office reads it.
          <Input className="tall" value={reason} onChange={(event) => setReason(event.target.value)} />
        </label>
      )}
      {done && visit.causes.length > 0 && (
        <Choices
          legend="Why was it wrong?"
          choices={visit.causes}
          chosen={cause}
          choose={(code) => setCause(code === cause ? undefined : code)}
        />
      )}
      <label>
        What was done
        <Input.TextArea
          autoSize={{ minRows: 3 }}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      <Button type="primary" className="big" htmlType="submit" loading={running}>
        {done ? "Finish this visit" : `Finish: ${OUTCOMES[outcome].toLowerCase()}`}
      </Button>
      <Button className="tall" onClick={back}>
        Not finished yet
      </Button>
    </form>
  );
}

function Choices<Code extends string>({
  legend,
  choices,
  chosen,
  choose,
}: {
  legend: string;
  choices: { code: Code; name: string }[];
  chosen: Code | undefined;
  choose: (code: Code) => void;
}) {
  return (
    <fieldset className="causes">
      <legend>{legend}</legend>
      {choices.map((one) => (
        <Button
          key={one.code}
          className="tall"
          type={one.code === chosen ? "primary" : "default"}
          aria-pressed={one.code === chosen}
          onClick={() => choose(one.code)}
        >
          {one.name}
        </Button>
      ))}
    </fieldset>
  );
}
