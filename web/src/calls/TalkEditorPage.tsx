import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useEffect, useState } from "react";
import { NavLink, useParams } from "react-router";
import { answer, client, type Problem } from "../api/client";
import type { TalkSheet, TypedAnswer, TypedQuestion } from "../api/generated/schema";
import { queries } from "../api/queries";
import { words } from "../format";
import { besideStyles } from "../kit/Beside";
import { Overtaken } from "../kit/Overtaken";
import { Select } from "../kit/Select";
import sheet from "../kit/Sheet.module.css";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { useTyped } from "../kit/useTyped";
import { CodeLists } from "./CodeLists";
import styles from "./TalkEditorPage.module.css";

const ANSWER: TypedAnswer = { text: "", leadsTo: "visit", priority: "normal", expected: "1:30" };

/** The office's own questions: one talk per kind of equipment, and the codes of faults and causes. */
export default function TalkEditorPage() {
  const kindId = Number(useParams().kind ?? 0);
  const { data: kinds } = useQuery(queries.faultTalks);
  const { data: talk, error } = useQuery({ ...queries.faultTalk(kindId), enabled: kindId > 0 });
  useTitle("Fault talks");
  return (
    <div className={besideStyles.beside}>
      <section className={besideStyles.list} aria-label="Kinds of equipment">
        <div className={besideStyles.head}>
          <div className={besideStyles.line}>
            <h2>Fault talks</h2>
          </div>
        </div>
        <div className={besideStyles.rows}>
          {kinds?.map((kind) => (
            <NavLink
              key={kind.equipmentKindId}
              className={besideStyles.link}
              to={`/fault-talks/${kind.equipmentKindId}`}
            >
              <span>{kind.equipmentKind}</span>
              <span className="soft small">
                {kind.questions === 0 ? "no talk yet" : `${kind.questions} questions`}
              </span>
            </NavLink>
          ))}
          <CodeLists />
        </div>
      </section>
      <div className={sheet.sheet}>
        {error && <p className="pad fault">{error.message}</p>}
        {kindId === 0 && (
          <p className="pad soft">Choose a kind of equipment to write down what is asked about it.</p>
        )}
        {talk && <Editor key={talk.equipmentKindId} talk={talk} />}
      </div>
    </div>
  );
}

function Editor({ talk }: { talk: TalkSheet }) {
  const typed = useTyped(
    { version: talk.version, draft: { questions: talk.questions as TypedQuestion[] } },
    `fault talk ${talk.equipmentKindId}`,
  );
  const { questions } = typed.draft;
  const setQuestions = (changed: TypedQuestion[]) => typed.change({ questions: changed });
  const [problem, setProblem] = useState<Problem>();
  const [saved, setSaved] = useState(false);
  const save = useAct(
    () =>
      answer(
        client.PUT("/api/fault-talks/{kindId}", {
          params: { path: { kindId: talk.equipmentKindId } },
          body: { version: typed.version, questions },
        }),
      ),
    {
      done: () => {
        typed.forget();
        setProblem(undefined);
        setSaved(true);
      },
      refused: setProblem,
    },
  );
  const changed = typed.dirty;
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => changed && event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [changed]);
  const put = (index: number, question: TypedQuestion) =>
    setQuestions(questions.map((old, at) => (at === index ? question : old)));
  const add = () => {
    const number = Math.max(0, ...questions.map((question) => question.number)) + 1;
    setQuestions([...questions, { number, text: "", answers: [ANSWER] }]);
  };
  return (
    <article aria-label={`Talk about ${talk.equipmentKind}`}>
      <header className={sheet.head}>
        <div className={sheet.number}>Talk</div>
        <div className={sheet.titled}>
          <div>
            <h1>{talk.equipmentKind}</h1>
            <div className="small soft">
              The first question opens the talk; each answer leads on, or ends it: solved on the phone, or
              with a job.
            </div>
          </div>
          <div className="actions">
            <Button onClick={add}>Add question</Button>
            <Button type="primary" loading={save.running} disabled={!changed} onClick={() => save.run()}>
              {saved && !changed ? "Saved" : "Save talk"}
            </Button>
          </div>
        </div>
        {problem?.faults.every((fault) => fault.pointer === "" || fault.pointer === "/questions") && (
          <p className="fault">{problem.message}</p>
        )}
      </header>
      {!save.running && <Overtaken what="this talk" typed={typed} />}
      {questions.map((question, index) => (
        <Question
          key={question.number}
          question={question}
          index={index}
          others={questions.filter((other) => other.number !== question.number)}
          problem={problem}
          put={(changedQuestion) => put(index, changedQuestion)}
          remove={() => setQuestions(questions.filter((_, at) => at !== index))}
        />
      ))}
      {questions.length === 0 && (
        <p className="pad soft">Nothing is asked about this kind yet. Add the first question.</p>
      )}
    </article>
  );
}

function Question({
  question,
  index,
  others,
  problem,
  put,
  remove,
}: {
  question: TypedQuestion;
  index: number;
  others: TypedQuestion[];
  problem: Problem | undefined;
  put: (question: TypedQuestion) => void;
  remove: () => void;
}) {
  const putAnswer = (at: number, changed: TypedAnswer) =>
    put({ ...question, answers: question.answers.map((old, position) => (position === at ? changed : old)) });
  const fault = problem?.at(`/questions/${index}/text`);
  return (
    <section className={sheet.section} aria-label={`Question ${index + 1}`}>
      <div className={sheet.margin}>
        <h2>{index + 1}</h2>
      </div>
      <div>
        <div className={styles.question}>
          <Input
            aria-label={`Question ${index + 1}`}
            value={question.text ?? ""}
            placeholder="What is asked"
            onChange={(event) => put({ ...question, text: event.target.value })}
          />
          <button
            type="button"
            className="icon-button"
            aria-label={`Remove question ${index + 1}`}
            onClick={remove}
          >
            ×
          </button>
        </div>
        {fault && (
          <p className="fault" role="alert">
            {fault}
          </p>
        )}
        {question.answers.map((reply, at) => (
          <AnswerLine
            // biome-ignore lint/suspicious/noArrayIndexKey: an answer has no other name while it is typed
            key={at}
            reply={reply}
            name={`answer ${at + 1} of question ${index + 1}`}
            others={others}
            faults={(problem?.faults ?? []).filter((one) =>
              one.pointer.startsWith(`/questions/${index}/answers/${at}/`),
            )}
            put={(changed) => putAnswer(at, changed)}
            remove={() =>
              put({ ...question, answers: question.answers.filter((_, position) => position !== at) })
            }
          />
        ))}
        <button
          type="button"
          className="plain small"
          onClick={() => put({ ...question, answers: [...question.answers, ANSWER] })}
        >
          add an answer
        </button>
      </div>
    </section>
  );
}

function AnswerLine({
  reply,
  name,
  others,
  faults,
  put,
  remove,
}: {
  reply: TypedAnswer;
  name: string;
  others: TypedQuestion[];
  faults: { pointer: string; detail: string }[];
  put: (reply: TypedAnswer) => void;
  remove: () => void;
}) {
  const leads = reply.leadsTo === "question" ? `question-${reply.next ?? 0}` : reply.leadsTo;
  const lead = (chosen: string) => {
    if (chosen === "solved") {
      put({ text: reply.text, leadsTo: "solved", solution: "", faultCode: reply.faultCode });
    } else if (chosen === "visit") {
      put({ ...ANSWER, text: reply.text, faultCode: reply.faultCode });
    } else {
      put({ text: reply.text, leadsTo: "question", next: Number(chosen.split("-")[1]) });
    }
  };
  return (
    <div className={styles.answer}>
      <Input
        aria-label={`Text of ${name}`}
        value={reply.text ?? ""}
        placeholder="What they say"
        onChange={(event) => put({ ...reply, text: event.target.value })}
      />
      <Select
        aria-label={`Where ${name} leads`}
        value={leads}
        popupMatchSelectWidth={false}
        onChange={lead}
        options={[
          ...others.map((other) => ({ value: `question-${other.number}`, label: `ask: ${other.text}` })),
          { value: "solved", label: "solved on the phone" },
          { value: "visit", label: "somebody comes" },
        ]}
      />
      <Ending reply={reply} name={name} put={put} />
      <button type="button" className="icon-button" aria-label={`Remove ${name}`} onClick={remove}>
        ×
      </button>
      {faults.map((fault) => (
        <p key={fault.pointer} className="fault" role="alert">
          {fault.detail}
        </p>
      ))}
    </div>
  );
}

function Ending({
  reply,
  name,
  put,
}: {
  reply: TypedAnswer;
  name: string;
  put: (reply: TypedAnswer) => void;
}) {
  const { data: codes } = useQuery(queries.codes);
  if (reply.leadsTo === "question") {
    return <span />;
  }
  const faultCode = (
    <Select
      aria-label={`Fault code of ${name}`}
      allowClear
      placeholder="fault"
      value={reply.faultCode ?? undefined}
      popupMatchSelectWidth={false}
      onChange={(code?: string) => put({ ...reply, faultCode: code })}
      options={(codes?.faults ?? [])
        .filter((code) => code.active || code.code === reply.faultCode)
        .map((code) => ({ value: code.code, label: code.name }))}
    />
  );
  return reply.leadsTo === "solved" ? (
    <span className={styles.ending}>
      <Input
        aria-label={`Solution of ${name}`}
        value={reply.solution ?? ""}
        placeholder="What to tell them"
        onChange={(event) => put({ ...reply, solution: event.target.value })}
      />
      {faultCode}
    </span>
  ) : (
    <span className={styles.ending}>
      <Select
        aria-label={`How pressing is ${name}`}
        value={reply.priority ?? "normal"}
        onChange={(priority) => put({ ...reply, priority })}
        options={["emergency", "urgent", "normal", "low"].map((value) => ({ value, label: words(value) }))}
      />
      <Input
        aria-label={`Expected length of ${name}`}
        value={reply.expected ?? ""}
        placeholder="1:30"
        onChange={(event) => put({ ...reply, expected: event.target.value })}
      />
      {faultCode}
    </span>
  );
}
