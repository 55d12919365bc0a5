import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { type FormEvent, useState } from "react";
import type { AskedItem, PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { limits, said } from "../checklists/words";
import { day, headline } from "../format";
import { useDraft } from "../kit/useKept";
import styles from "./Checklists.module.css";
import { PhotoButton } from "./Photos";
import { useKeptPhotos } from "./photoBox";
import { useTap } from "./useTap";

/** A measurement as the server reads it, so that none waits without a network that it will not take. */
const NUMBER = /^[-−]?\d{1,3}(,\d{3})+(\.\d{1,3})?$|^[-−]?\d{1,9}(\.\d{1,3})?$/;

/** Which questions are answered by photos, sent or still on the phone. */
function useAnsweredByPhoto(visitId: number): Set<number | null | undefined> {
  const { data } = useQuery(queries.photosOnSite(visitId));
  const kept = useKeptPhotos().filter((photo) => photo.visitId === visitId && !photo.refusal);
  return new Set([...(data?.photos ?? []), ...kept].map((photo) => photo.checklistItemId));
}

/** The questions of a visit's checklists, and which of them are still to be answered. */
export function useChecklists(visit: PocketVisit) {
  const shown = useAnsweredByPhoto(visit.visitId);
  const items = visit.checklists.flatMap((checklist) => checklist.items);
  const isOpen = (item: AskedItem) => !item.given && !shown.has(item.id);
  return {
    count: items.length,
    answered: items.filter((item) => !isOpen(item)).length,
    outOfLimits: items.filter((item) => item.given?.outOfLimits),
    missing: items.filter((item) => item.required && isOpen(item)),
    isOpen,
  };
}

/** What is gone through on a visit, question by question; each answer is sent by itself. */
export function Checklists({ visit, back }: { visit: PocketVisit; back: () => void }) {
  const { isOpen } = useChecklists(visit);
  return (
    <section aria-label="Checklists">
      {visit.checklists.map((checklist) => (
        <div key={checklist.checklistId} className={styles.list}>
          <h2>
            {checklist.name}
            <span className={`soft small ${styles.count}`}>
              {checklist.items.filter((item) => !isOpen(item)).length} of {checklist.items.length}
            </span>
          </h2>
          {checklist.items.map((item) => (
            <Item key={item.id} visitId={visit.visitId} item={item} open={isOpen(item)} />
          ))}
        </div>
      ))}
      <Button className="tall" block onClick={back}>
        Back to the visit
      </Button>
    </section>
  );
}

/** One question; once it is answered it says so, until somebody wants to change it. */
function Item({ visitId, item, open }: { visitId: number; item: AskedItem; open: boolean }) {
  const [changing, setChanging] = useState(false);
  const asking = open || changing;
  return (
    <fieldset className={styles.item}>
      <legend>{item.question}</legend>
      {asking ? (
        <Asked visitId={visitId} item={item} answered={() => setChanging(false)} />
      ) : (
        <div className={styles.given}>
          <span>
            <b className={item.given?.outOfLimits ? "needs" : undefined}>
              {item.given ? headline(said(item, item.given)) : "There is a photo"}
              {item.given?.outOfLimits && ", out of limits"}
            </b>
            {item.given?.word && <div className="soft small">“{item.given.word}”</div>}
          </span>
          {item.given ? (
            <Button
              className="tall"
              aria-label={`Change: ${item.question}`}
              onClick={() => setChanging(true)}
            >
              Change
            </Button>
          ) : (
            <PhotoButton
              visitId={visitId}
              checklistItemId={item.id}
              words={item.question}
              label="One more"
              of={item.question}
            />
          )}
        </div>
      )}
    </fieldset>
  );
}

const about = (item: AskedItem): string =>
  [
    limits(item),
    item.before && `${said(item, item.before)} on ${day(item.before.day)}`,
    !item.required && "may be left out",
  ]
    .filter(Boolean)
    .join(" · ");

/** Whether an answer is out of limits, so that its word is asked for before it is sent; the server says in the end. */
function isOut(item: AskedItem, answer: string): boolean {
  if (item.asks !== "measurement") {
    return item.wrong.includes(answer);
  }
  const measured = Number(answer.replaceAll(",", "").replace("−", "-"));
  return (item.least != null && measured < item.least) || (item.most != null && measured > item.most);
}

/** What is asked in words once an answer alone is not enough. */
type Pending = { answer: string; doesNotApply: boolean };

/** An answer that is not given yet. */
type Draft = { typed: string; word: string; pending?: Pending };

function Asked({ visitId, item, answered }: { visitId: number; item: AskedItem; answered: () => void }) {
  const { draft, change, forget } = useDraft<Draft>(`answer ${visitId} ${item.id}`, {
    typed: item.given?.answer ?? "",
    word: item.given?.word ?? "",
  });
  const { pending, word } = draft;
  const setPending = (asked: Pending | undefined) => change({ pending: asked });
  const [fault, setFault] = useState<string>();
  const send = useTap({
    done: () => {
      forget();
      setFault(undefined);
      answered();
    },
    refused: (problem) =>
      setFault(problem.faults.find((one) => one.pointer !== "")?.detail ?? problem.message),
    said: "Answered.",
  });
  const give = (answer: string, doesNotApply: boolean, said: string) =>
    send.run({
      step: "answer_checklist",
      visitId,
      form: { checklistItemId: item.id, answer, doesNotApply, word: said },
      name: item.question,
    });
  const choose = (answer: string) => {
    if (isOut(item, answer)) {
      setPending({ answer, doesNotApply: false });
    } else {
      give(answer, false, "");
    }
  };
  return (
    <>
      <div className={styles.about}>
        <span className="soft small">{about(item)}</span>
        {!pending && (
          <button
            type="button"
            className={`plain ${styles.pass}`}
            aria-label={`Does not apply: ${item.question}`}
            onClick={() => setPending({ answer: "", doesNotApply: true })}
          >
            does not apply
          </button>
        )}
      </div>
      {pending ? (
        <Word
          legend={
            pending.doesNotApply
              ? "Why does it not apply here?"
              : `${headline(said(item, pending))} is out of limits. What did you do about it?`
          }
          word={word}
          setWord={(typed) => change({ word: typed })}
          running={send.running}
          submit={() => give(pending.answer, pending.doesNotApply, word)}
          back={() => setPending(undefined)}
        />
      ) : (
        <Answers
          item={item}
          visitId={visitId}
          typed={draft.typed}
          type={(typed) => change({ typed })}
          choose={choose}
          running={send.running}
        />
      )}
      {fault && (
        <p className="fault" role="alert">
          {fault}
        </p>
      )}
    </>
  );
}

function Answers({
  item,
  visitId,
  typed,
  type,
  choose,
  running,
}: {
  item: AskedItem;
  visitId: number;
  typed: string;
  type: (typed: string) => void;
  choose: (answer: string) => void;
  running: boolean;
}) {
  if (item.asks === "measurement" || item.asks === "text") {
    return <Typed item={item} typed={typed} type={type} choose={choose} running={running} />;
  }
  const choices = item.asks === "yes_no" ? ["yes", "no"] : item.choices;
  return (
    <div className={styles.answers}>
      {item.asks === "photo" ? (
        <PhotoButton
          visitId={visitId}
          checklistItemId={item.id}
          words={item.question}
          label="Take a photo"
          of={item.question}
        />
      ) : (
        choices.map((choice) => (
          <Button
            key={choice}
            className="tall"
            type={item.given?.answer === choice ? "primary" : "default"}
            disabled={running}
            aria-label={`${headline(choice)}: ${item.question}`}
            onClick={() => choose(choice)}
          >
            {headline(choice)}
          </Button>
        ))
      )}
    </div>
  );
}

function Typed({
  item,
  typed,
  type,
  choose,
  running,
}: {
  item: AskedItem;
  typed: string;
  type: (typed: string) => void;
  choose: (answer: string) => void;
  running: boolean;
}) {
  const [fault, setFault] = useState(false);
  const measured = item.asks === "measurement";
  const note = (event: FormEvent) => {
    event.preventDefault();
    const answer = typed.trim();
    const readable = answer !== "" && (!measured || NUMBER.test(answer));
    setFault(!readable);
    if (readable) {
      choose(answer);
    }
  };
  const field = {
    className: "tall",
    "aria-label": measured ? `${item.question}, in ${item.unit || "figures"}` : item.question,
    value: typed,
    "aria-invalid": fault,
  };
  return (
    <form onSubmit={note}>
      <div className={styles.measured}>
        {measured ? (
          <Input
            {...field}
            inputMode="decimal"
            autoComplete="off"
            onChange={(event) => type(event.target.value)}
          />
        ) : (
          <Input.TextArea
            {...field}
            autoSize={{ minRows: 2 }}
            maxLength={1000}
            onChange={(event) => type(event.target.value)}
          />
        )}
        <span>{item.unit}</span>
        <Button className="tall" htmlType="submit" loading={running} aria-label={`Note: ${item.question}`}>
          Note
        </Button>
      </div>
      {fault && (
        <p className="fault" role="alert">
          {measured
            ? "Enter what was measured, such as 380 or -2.5, with at most three decimals."
            : "Enter an answer, or say that it does not apply."}
        </p>
      )}
    </form>
  );
}

function Word({
  legend,
  word,
  setWord,
  running,
  submit,
  back,
}: {
  legend: string;
  word: string;
  setWord: (word: string) => void;
  running: boolean;
  submit: () => void;
  back: () => void;
}) {
  const [empty, setEmpty] = useState(false);
  return (
    <form
      className={styles.word}
      onSubmit={(event) => {
        event.preventDefault();
        setEmpty(word.trim() === "");
        if (word.trim() !== "") {
          submit();
        }
      }}
    >
      <label className="needs">
        {legend}
        <Input
          className="tall"
          autoFocus
          maxLength={300}
          value={word}
          onChange={(event) => setWord(event.target.value)}
        />
      </label>
      {empty && (
        <p className="fault" role="alert">
          A word is enough, such as: adjusted.
        </p>
      )}
      <div className={styles.answers}>
        <Button className="tall" type="primary" htmlType="submit" loading={running}>
          Note it
        </Button>
        <Button className="tall" onClick={back}>
          Answer anew
        </Button>
      </div>
    </form>
  );
}

/** How far the checklists are, on the visit's page. */
export function ChecklistsSoFar({ visit }: { visit: PocketVisit }) {
  const { count, answered, outOfLimits } = useChecklists(visit);
  if (count === 0) {
    return null;
  }
  return (
    <div className="fact">
      <div className="first">
        <span>{visit.checklists.map((checklist) => checklist.name).join(", ")}</span>
        <span>
          {answered} of {count}
        </span>
      </div>
      {outOfLimits.map((item) => (
        <p key={item.id} className="needs">
          {item.question}: {item.given && said(item, item.given)}, out of limits
        </p>
      ))}
    </div>
  );
}
