import { useQuery } from "@tanstack/react-query";
import { Button } from "antd";
import { useEffect, useState } from "react";
import type { TypedAnswer } from "../api/generated/schema";
import { queries } from "../api/queries";
import { words } from "../format";
import styles from "./CallSlip.module.css";

export type Ending = { answer: TypedAnswer; talk: string };

type Step = { question: number; said: string };

/** Asks one question after the other; the keys 1 to 9 answer, Backspace goes back, and every talk comes to an end. */
export function FaultTalkRun({
  kindId,
  ended,
  leave,
}: {
  kindId: number;
  ended: (ending: Ending) => void;
  leave: () => void;
}) {
  const { data: talk, error } = useQuery(queries.faultTalk(kindId));
  const [steps, setSteps] = useState<Step[]>([]);
  const [at, setAt] = useState<number>();
  const question = talk?.questions.find((one) => one.number === at) ?? talk?.questions[0];

  const reply = (answer: TypedAnswer | undefined) => {
    if (!question || !answer) {
      return;
    }
    const said = [...steps, { question: question.number, said: `${question.text} ${answer.text}` }];
    if (answer.leadsTo === "question") {
      setSteps(said);
      setAt(answer.next ?? undefined);
    } else {
      ended({ answer, talk: said.map((step) => step.said).join("\n") });
    }
  };
  const back = () => {
    const last = steps.at(-1);
    if (last) {
      setSteps(steps.slice(0, -1));
      setAt(last.question);
    } else {
      leave();
    }
  };

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.target instanceof HTMLInputElement) {
        return;
      }
      if (/^[1-9]$/.test(event.key)) {
        event.preventDefault();
        event.stopImmediatePropagation();
        reply(question?.answers[Number(event.key) - 1]);
      } else if (event.key === "Backspace" || event.key === "Escape") {
        event.preventDefault();
        event.stopImmediatePropagation();
        back();
      }
    };
    document.addEventListener("keydown", press, true);
    return () => document.removeEventListener("keydown", press, true);
  });

  if (error && !talk) {
    return <p className="fault">{error.message}</p>;
  }
  return (
    <div className={styles.talk} aria-live="polite" data-talk>
      {steps.map((step) => (
        <div key={step.question} className="small soft">
          {step.said}
        </div>
      ))}
      {talk?.questions.length === 0 && (
        <p className="soft">Nothing is asked about this kind yet. Escape goes back.</p>
      )}
      {question && (
        <>
          <h3>{question.text}</h3>
          <ol className={styles.answers} data-answers>
            {question.answers.map((answer, index) => (
              <li key={answer.text}>
                <button type="button" onClick={() => reply(answer)}>
                  <kbd>{index + 1}</kbd> {answer.text}
                </button>
              </li>
            ))}
          </ol>
          <button type="button" className="plain small" onClick={back}>
            {steps.length > 0 ? "back to the question before" : "leave the talk"}
          </button>
        </>
      )}
    </div>
  );
}

/** The end of a talk that needs nobody to come: what to tell the caller, and whether it helped. */
export function Solution({
  solution,
  helped,
  didNotHelp,
  running,
}: {
  solution: string;
  helped: () => void;
  didNotHelp: () => void;
  running: boolean;
}) {
  return (
    <div className={styles.talk} data-talk>
      <p className={styles.tell}>{words(solution)}</p>
      <div className="actions">
        <Button type="primary" autoFocus loading={running} onClick={helped}>
          It helped, keep the call
        </Button>
        <Button onClick={didNotHelp}>It did not help</Button>
      </div>
    </div>
  );
}
