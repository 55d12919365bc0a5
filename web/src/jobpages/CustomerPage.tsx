import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useMemo, useState } from "react";
import { useParams } from "react-router";
import { answer, client, type Problem, withKey } from "../api/client";
import type { JobPageView, PageVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { fullDay, moment } from "../format";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { Firm, type Signing, SigningFields } from "../offers/CustomersPage";
import paper from "../offers/CustomersPage.module.css";
import { sayBy, useWords, Words } from "../offers/useWords";
import styles from "./CustomerPage.module.css";

/** A job on its customer's own phone: who comes when, what was done, signing, rating, writing to us. */
export default function CustomerPage() {
  const token = useParams().token ?? "";
  const { data: page, error } = useQuery(queries.jobPage(token));
  const say = useMemo(() => page && sayBy(page.words), [page]);
  useTitle(page?.title ?? "");
  if (error && !page) {
    return (
      <main className={paper.page}>
        <p className="notice-text" role="alert">
          {error.message}
        </p>
      </main>
    );
  }
  return page && say ? (
    <Words value={say}>
      <Page token={token} page={page} />
    </Words>
  ) : null;
}

const isOver = ({ state }: PageVisit) => state === "finished" || state === "checked";

function Page({ token, page }: { token: string; page: JobPageView }) {
  const say = useWords();
  const last = page.visits.findLast(isOver);
  return (
    <main className={paper.page} lang={page.locale}>
      <header>
        <Firm seller={page.seller} logo={page.hasLogo ? `/api/job-pages/${token}/logo` : undefined} />
        <h1>{page.title}</h1>
        <div className="soft">
          {page.customer}
          <br />
          {[page.site, page.address].filter(Boolean).join(", ")}
        </div>
      </header>
      <section aria-label={say("page_visits")}>
        {page.visits.length === 0 && <p className={paper.state}>{say("page_no_visit_yet")}</p>}
        {page.visits.map((visit) => (
          <Visit key={visit.visitId} token={token} visit={visit} latest={visit === last} />
        ))}
      </section>
      <Messages token={token} page={page} />
    </main>
  );
}

function Visit({ token, visit, latest }: { token: string; visit: PageVisit; latest: boolean }) {
  const say = useWords();
  const over = isOver(visit);
  // One form is enough; those of earlier visits are opened by whoever wants them.
  const [signing, setSigning] = useState(latest);
  return (
    <article className={styles.visit}>
      <p>
        <b>{whatOf(visit, say)}</b>
      </p>
      {visit.done && <p>{visit.done}</p>}
      {over && (
        <a href={`/api/job-pages/${token}/visits/${visit.visitId}/report`} target="_blank" rel="noreferrer">
          {say("page_report")}
        </a>
      )}
      {visit.signedBy && visit.signedOn && (
        <p className="soft">
          {say("page_signed", visit.signedBy, fullDay(visit.signedOn))}
          {visit.rating && ` ${say("page_rated", visit.rating)}`}
        </p>
      )}
      {over &&
        !visit.signedBy &&
        (signing ? (
          <Sign token={token} visitId={visit.visitId} />
        ) : (
          <Button className="tall" onClick={() => setSigning(true)}>
            {say("page_sign_for")}
          </Button>
        ))}
      {visit.mayRate && <Rate token={token} visitId={visit.visitId} />}
    </article>
  );
}

function whatOf(visit: PageVisit, say: (key: string, ...values: string[]) => string) {
  const day = fullDay(visit.day);
  switch (visit.state) {
    case "planned":
      return say("page_comes", visit.technician, day, visit.window?.from ?? "", visit.window?.to ?? "");
    case "driving":
      return say("page_on_the_way", visit.technician);
    case "finished":
    case "checked":
      return say(visit.outcome === "come_again" ? "page_comes_again" : "page_came", visit.technician, day);
    default:
      return say("page_at_work", visit.technician);
  }
}

/** What the customer does on their page: it answers with the page as it is then. */
function usePageAct(token: string, act: (key: string) => Promise<JobPageView>, done?: () => void) {
  const [problem, setProblem] = useState<Problem>();
  const running = useAct<void, JobPageView>((_, key) => act(key), {
    answers: queries.jobPage(token).queryKey,
    done: () => {
      setProblem(undefined);
      done?.();
    },
    refused: setProblem,
    said: null,
  });
  return { ...running, problem };
}

const Refusal = ({ problem }: { problem: Problem | undefined }) =>
  problem && (
    <p className="fault" role="alert">
      {problem.message}
    </p>
  );

function Sign({ token, visitId }: { token: string; visitId: number }) {
  const say = useWords();
  const [signing, setSigning] = useState<Signing>({ name: "", drawing: undefined });
  const { name, drawing } = signing;
  const [rating, setRating] = useState<number>();
  const [ratingWords, setRatingWords] = useState("");
  const sign = usePageAct(token, () =>
    answer(
      client.POST("/api/job-pages/{token}/visits/{id}/signature", {
        params: { path: { token, id: visitId } },
        body: { name, signature: drawing ?? name, drawn: drawing !== undefined, rating, words: ratingWords },
      }),
    ),
  );
  return (
    <form
      className={paper.answer}
      aria-label={say("page_sign_for")}
      onSubmit={(event) => {
        event.preventDefault();
        sign.run();
      }}
    >
      <h2>{say("page_sign_for")}</h2>
      <SigningFields signing={signing} sign={setSigning} />
      <Rating rating={rating} rate={setRating} words={ratingWords} write={setRatingWords} />
      <Refusal problem={sign.problem} />
      <Button type="primary" className="big" htmlType="submit" loading={sign.running}>
        {say("page_sign")}
      </Button>
    </form>
  );
}

function Rate({ token, visitId }: { token: string; visitId: number }) {
  const say = useWords();
  const [rating, setRating] = useState<number>();
  const [words, setWords] = useState("");
  const rate = usePageAct(token, () =>
    answer(
      client.POST("/api/job-pages/{token}/visits/{id}/rating", {
        params: { path: { token, id: visitId } },
        body: { rating, words },
      }),
    ),
  );
  return (
    <form
      className={paper.answer}
      aria-label={say("page_how_was_it")}
      onSubmit={(event) => {
        event.preventDefault();
        rate.run();
      }}
    >
      <Rating rating={rating} rate={setRating} words={words} write={setWords} />
      <Refusal problem={rate.problem} />
      {rating && (
        <Button className="tall" htmlType="submit" loading={rate.running}>
          {say("page_send_rating")}
        </Button>
      )}
    </form>
  );
}

function Rating({
  rating,
  rate,
  words,
  write,
}: {
  rating: number | undefined;
  rate: (rating: number | undefined) => void;
  words: string;
  write: (words: string) => void;
}) {
  const say = useWords();
  return (
    <>
      <fieldset className={styles.ratings}>
        <legend>{say("page_how_was_it")}</legend>
        {[1, 2, 3, 4, 5].map((one) => (
          <Button
            key={one}
            className="tall"
            type={one === rating ? "primary" : "default"}
            aria-pressed={one === rating}
            onClick={() => rate(one === rating ? undefined : one)}
          >
            {one}
          </Button>
        ))}
      </fieldset>
      {rating && (
        <label>
          {say("page_a_word")}
          <Input className="tall" value={words} onChange={(event) => write(event.target.value)} />
        </label>
      )}
    </>
  );
}

function Messages({ token, page }: { token: string; page: JobPageView }) {
  const say = useWords();
  const [text, setText] = useState("");
  const send = usePageAct(
    token,
    (key) =>
      answer(
        client.POST("/api/job-pages/{token}/messages", {
          params: { path: { token }, ...withKey(key) },
          body: { text },
        }),
      ),
    () => setText(""),
  );
  return (
    <section aria-label={say("page_messages")}>
      <h2>{say("page_messages")}</h2>
      {page.messages.map((message) => (
        <p
          key={`${message.sentAt} ${message.text}`}
          className={message.sentBy ? `${styles.message} ${styles.ours}` : styles.message}
        >
          {message.text}{" "}
          <span className="soft small">
            {message.sentBy
              ? `${message.sentBy}, ${moment(message.sentAt)}`
              : say("page_you_wrote", moment(message.sentAt))}
          </span>
        </p>
      ))}
      <form
        className={paper.answer}
        aria-label={say("page_write")}
        onSubmit={(event) => {
          event.preventDefault();
          send.run();
        }}
      >
        <Input.TextArea
          className="tall"
          autoSize={{ minRows: 2, maxRows: 8 }}
          maxLength={1000}
          aria-label={say("page_write")}
          placeholder={say("page_write")}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Refusal problem={send.problem} />
        <Button className="tall" htmlType="submit" disabled={text.trim() === ""} loading={send.running}>
          {say("page_send")}
        </Button>
      </form>
    </section>
  );
}
