import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Checkbox, Input, Radio } from "antd";
import { useEffect, useMemo, useState } from "react";
import { useParams } from "react-router";
import { answer, client, type Problem } from "../api/client";
import type { DocumentLine, OfferView, Sum } from "../api/generated/schema";
import { queries } from "../api/queries";
import { fullDay, moment, money } from "../format";
import { useAct } from "../kit/useAct";
import { usePreview } from "../kit/usePreview";
import { useTitle } from "../kit/useTitle";
import { Firm, type Signing, SigningFields } from "./CustomersPage";
import styles from "./CustomersPage.module.css";
import { sayBy, useWords, Words } from "./useWords";

/** A quote on the customer's own phone: read, choose, ask, decline, sign, pay the deposit. */
export default function OfferPage() {
  const token = useParams().token ?? "";
  const { data: offer, error } = useQuery(queries.offer(token));
  const say = useMemo(() => offer && sayBy(offer.words), [offer]);
  useTitle(offer && say ? say("quote", offer.document.printedNumber) : "");
  if (error && !offer) {
    return (
      <main className={styles.page}>
        <p className="notice-text" role="alert">
          {error.message}
        </p>
      </main>
    );
  }
  return offer && say ? (
    <Words value={say}>
      <Offer token={token} offer={offer} />
    </Words>
  ) : null;
}

const takenIn = (lines: DocumentLine[]) =>
  lines.flatMap((line, index) => (line.choice !== "included" && line.taken ? [index] : []));

function Offer({ token, offer }: { token: string; offer: OfferView }) {
  const say = useWords();
  const { document } = offer;
  const open = offer.state === "sent";
  // What was chosen belongs to an edition; what was typed outlives a change of it.
  const [chosen, setChosen] = useState({ edition: document.edition, taken: takenIn(offer.lines) });
  const taken = useMemo(
    () => (chosen.edition === document.edition ? chosen.taken : takenIn(offer.lines)),
    [chosen, document.edition, offer.lines],
  );
  const setTaken = (lines: number[]) => setChosen({ edition: document.edition, taken: lines });
  const [signing, setSigning] = useState<Signing>({ name: "", drawing: undefined });
  const { sum, problem } = useSum(token, offer, taken, open);
  const price = (line: DocumentLine) => (document.pricesWithVat ? line.grossMinor : line.netMinor);
  return (
    <main className={styles.page} lang={document.locale}>
      <header>
        <Firm seller={document.seller} logo={offer.hasLogo ? `/api/offers/${token}/logo` : undefined} />
        <h1>{document.title}</h1>
        <div className="soft">
          {document.customer}
          <br />
          {document.site}
          {document.equipment && (
            <>
              <br />
              {document.equipment}
            </>
          )}
        </div>
        <div className="soft">
          {say(
            "quote_of",
            document.edition > 1
              ? say("page_edition", document.printedNumber, document.edition)
              : say("quote", document.printedNumber),
            fullDay(document.sentOn),
            fullDay(document.validUntil),
          )}
        </div>
      </header>
      <State offer={offer} />
      <section aria-label={say("page_lines")}>
        {offer.lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the lines of a sent quote never change places
          <Line key={index} line={line} price={price(line)} withVat={document.pricesWithVat}>
            <Choosing line={line} index={index} offer={offer} taken={taken} take={setTaken} />
          </Line>
        ))}
        <div className="soft small">
          {say(
            document.pricesWithVat ? "page_prices_with_vat" : "page_prices_without_vat",
            document.currency,
          )}
          {document.discount && `; ${say("page_discount", document.discount)}`}
        </div>
      </section>
      {problem ? (
        <p className="fault" role="alert">
          {problem.message}
        </p>
      ) : (
        <Sums offer={offer} sum={sum} />
      )}
      {document.notes && <p className={styles.notes}>{document.notes}</p>}
      <p>
        <a href={`/api/offers/${token}/pdf`}>{say("page_pdf")}</a>
      </p>
      {offer.state === "accepted" && <Deposit token={token} offer={offer} />}
      {open && (
        <Yes
          token={token}
          offer={offer}
          taken={taken}
          sum={sum}
          impossible={problem !== undefined}
          signing={signing}
          sign={setSigning}
        />
      )}
      <Questions token={token} offer={offer} />
      {open && <No token={token} offer={offer} />}
    </main>
  );
}

/** How the customer takes a line that is theirs to choose; nothing on a line that is included. */
function Choosing({
  line,
  index,
  offer,
  taken,
  take,
}: {
  line: DocumentLine;
  index: number;
  offer: OfferView;
  taken: number[];
  take: (taken: number[]) => void;
}) {
  const say = useWords();
  if (offer.state !== "sent") {
    return line.choice === "included" ? null : (
      <span className="soft small">{say(line.taken ? "page_chosen" : "page_not_chosen")}</span>
    );
  }
  switch (line.choice) {
    case "option":
      return (
        <Checkbox
          checked={taken.includes(index)}
          onChange={(event) =>
            take(event.target.checked ? [...taken, index] : taken.filter((one) => one !== index))
          }
        >
          {say("page_add_this")}
        </Checkbox>
      );
    case "alternative":
      return (
        <Radio
          checked={taken.includes(index)}
          onChange={() => take([...taken.filter((one) => offer.lines[one]?.group !== line.group), index])}
        >
          {say("page_this_one", line.group)}
        </Radio>
      );
    default:
      return null;
  }
}

/** What the chosen lines come to. */
function useSum(token: string, offer: OfferView, taken: number[], open: boolean) {
  const queryClient = useQueryClient();
  const { edition } = offer.document;
  const { figures, problem } = usePreview(open ? { edition, taken } : undefined, (body, signal) =>
    answer(client.POST("/api/offers/{token}/sum", { params: { path: { token } }, body, signal })),
  );
  const stale = problem?.rule === "STALE_VERSION";
  useEffect(() => {
    if (stale) {
      void queryClient.invalidateQueries(queries.offer(token));
    }
  }, [stale, token, queryClient]);
  return { sum: figures ?? offer.sum, problem };
}

function State({ offer }: { offer: OfferView }) {
  const say = useWords();
  const at = offer.acceptedAt ? moment(offer.acceptedAt) : "";
  switch (offer.state) {
    case "accepted":
      return (
        <p className={styles.state} role="status">
          <b>{offer.acceptedBy ? say("page_accepted_by", offer.acceptedBy, at) : say("page_accepted", at)}</b>{" "}
          {say("page_in_touch")}
          {offer.contentHash && <span className={styles.hash}>{say("page_kept_as", offer.contentHash)}</span>}
        </p>
      );
    case "declined":
      return (
        <p className={styles.state} role="status">
          <b>{say("page_declined")}</b> {say("page_think_again")}
        </p>
      );
    case "lapsed":
      return (
        <p className={`${styles.state} needs`} role="status">
          <b>{say("page_lapsed", fullDay(offer.document.validUntil))}</b> {say("page_ask_new")}
        </p>
      );
    case "draft":
      return (
        <p className={`${styles.state} needs`} role="status">
          <b>{say("page_changing")}</b> {say("page_same_address")}
        </p>
      );
    default:
      return null;
  }
}

function Line({
  line,
  price,
  withVat,
  children,
}: {
  line: DocumentLine;
  price: number;
  withVat: boolean;
  children: React.ReactNode;
}) {
  const say = useWords();
  if (line.kind !== "line") {
    return line.kind === "heading" ? <h2>{line.description}</h2> : <p>{line.description}</p>;
  }
  return (
    <div className={line.taken ? styles.line : `${styles.line} ${styles.notTaken}`}>
      <span>
        {line.description}
        {line.quantity && <span className="soft small"> {line.quantity}</span>}
        {line.warrantyMinor > 0 && (
          <div className="soft small">
            {withVat
              ? say("warranty_bears_already", line.warrantyPercent)
              : say("warranty_bears", money(line.fullMinor), money(line.warrantyMinor), line.warrantyPercent)}
          </div>
        )}
      </span>
      <span className="figure">{money(price)}</span>
      {line.choice !== "included" && <div className={styles.choose}>{children}</div>}
    </div>
  );
}

function Sums({ offer, sum }: { offer: OfferView; sum: Sum }) {
  const say = useWords();
  const { document } = offer;
  return (
    <section aria-label={say("total")} className={styles.sums}>
      <div>
        <span>{say("net")}</span> <span className="figure">{money(sum.netMinor)}</span>
      </div>
      {sum.vat.map((rate) => (
        <div key={rate.words} className="soft">
          <span>{rate.words}</span> <span className="figure">{money(rate.vatMinor)}</span>
        </div>
      ))}
      <div className={styles.all}>
        <span>{say("total")}</span> <span className="figure">{money(sum.grossMinor)}</span>
      </div>
      <p className="small">{document.promised}</p>
      {sum.depositMinor > 0 && (
        <div>
          <span>{say("deposit_within", document.depositDueDays)}</span>{" "}
          <span className="figure">{money(sum.depositMinor)}</span>
        </div>
      )}
      {document.stages.map((stage, index) => (
        <div key={stage.name} className="soft">
          <span>
            {stage.name}, {stage.part}
          </span>{" "}
          <span className="figure">
            {sum.stageMinors[index] == null ? "" : money(sum.stageMinors[index])}
          </span>
        </div>
      ))}
    </section>
  );
}

function Yes({
  token,
  offer,
  taken,
  sum,
  impossible,
  signing,
  sign,
}: {
  token: string;
  offer: OfferView;
  taken: number[];
  sum: Sum;
  impossible: boolean;
  signing: Signing;
  sign: (signing: Signing) => void;
}) {
  const say = useWords();
  const { name, drawing } = signing;
  const [problem, setProblem] = useState<Problem>();
  const accept = useAct(
    () =>
      answer(
        client.POST("/api/offers/{token}/accept", {
          params: { path: { token } },
          body: {
            edition: offer.document.edition,
            taken,
            name,
            signature: drawing ?? name,
            drawn: drawing !== undefined,
          },
        }),
      ),
    {
      answers: queries.offer(token).queryKey,
      refused: setProblem,
      said: null,
    },
  );
  return (
    <form
      className={styles.answer}
      aria-label={say("page_accept")}
      onSubmit={(event) => {
        event.preventDefault();
        accept.run();
      }}
    >
      <h2>{say("page_accept")}</h2>
      <SigningFields signing={signing} sign={sign} fault={problem?.at("/name")} />
      {problem?.faults.every((fault) => fault.pointer === "") && (
        <p className="fault" role="alert">
          {problem.message}
        </p>
      )}
      <Button type="primary" className="big" htmlType="submit" disabled={impossible} loading={accept.running}>
        <span>{say("page_accept_for", money(sum.grossMinor))}</span>
      </Button>
    </form>
  );
}

function Deposit({ token, offer }: { token: string; offer: OfferView }) {
  const say = useWords();
  const [card, setCard] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const pay = useAct(
    () => answer(client.POST("/api/offers/{token}/deposit", { params: { path: { token } }, body: { card } })),
    {
      answers: queries.offer(token).queryKey,
      done: () => setProblem(undefined),
      refused: setProblem,
      said: null,
    },
  );
  if (offer.depositDueMinor === 0) {
    return offer.depositHeldMinor > 0 ? (
      <p className={styles.state} role="status">
        <b>{say("page_deposit_arrived", money(offer.depositHeldMinor))}</b> {say("page_comes_off")}
      </p>
    ) : null;
  }
  if (offer.cardNotice == null) {
    const { seller, printedNumber } = offer.document;
    return (
      <p className={styles.state} role="status">
        <b>{say("page_deposit_due", money(offer.depositDueMinor))}</b>{" "}
        {seller.bank === ""
          ? say("page_pay_by_transfer", say("quote", printedNumber))
          : say("page_pay_by_transfer_to", seller.bank, say("quote", printedNumber))}
      </p>
    );
  }
  return (
    <form
      className={styles.answer}
      aria-label={say("page_deposit")}
      onSubmit={(event) => {
        event.preventDefault();
        pay.run();
      }}
    >
      <h2>{say("page_pay_deposit", money(offer.depositDueMinor))}</h2>
      <label>
        {say("page_card_number")}
        <Input
          className="tall"
          inputMode="numeric"
          autoComplete="cc-number"
          value={card}
          onChange={(event) => setCard(event.target.value)}
        />
      </label>
      {problem && (
        <p className="fault" role="alert">
          {problem.message}
        </p>
      )}
      <Button type="primary" className="big" htmlType="submit" loading={pay.running}>
        <span>{say("page_pay_by_card", money(offer.depositDueMinor))}</span>
      </Button>
      <p className="soft small">{offer.cardNotice}</p>
    </form>
  );
}

function Questions({ token, offer }: { token: string; offer: OfferView }) {
  const say = useWords();
  const [question, setQuestion] = useState("");
  const ask = useAct(
    () =>
      answer(
        client.POST("/api/offers/{token}/questions", { params: { path: { token } }, body: { question } }),
      ),
    {
      answers: queries.offer(token).queryKey,
      done: () => setQuestion(""),
      said: say("page_have_question"),
    },
  );
  return (
    <section className={styles.answer} aria-label={say("page_questions")}>
      <h2>{say("page_ask")}</h2>
      {offer.questions.map((asked) => (
        <div key={asked.askedAt} className={styles.asked} data-asked>
          <div>{asked.question}</div>
          <div className={asked.answer ? styles.ours : "soft"}>{asked.answer ?? say("page_answer_soon")}</div>
        </div>
      ))}
      <Input.TextArea
        aria-label={say("page_your_question")}
        autoSize={{ minRows: 2 }}
        value={question}
        onChange={(event) => setQuestion(event.target.value)}
      />
      <Button className="tall" disabled={!question.trim()} loading={ask.running} onClick={() => ask.run()}>
        {say("page_send_question")}
      </Button>
    </section>
  );
}

function No({ token, offer }: { token: string; offer: OfferView }) {
  const say = useWords();
  const [saying, setSaying] = useState(false);
  const [reason, setReason] = useState("");
  const decline = useAct(
    () =>
      answer(
        client.POST("/api/offers/{token}/decline", {
          params: { path: { token } },
          body: { edition: offer.document.edition, reason },
        }),
      ),
    {
      answers: queries.offer(token).queryKey,
      said: null,
    },
  );
  if (!saying) {
    return (
      <button type="button" className="plain" onClick={() => setSaying(true)}>
        {say("page_no")}
      </button>
    );
  }
  return (
    <form
      className={styles.answer}
      aria-label={say("page_decline")}
      onSubmit={(event) => {
        event.preventDefault();
        decline.run();
      }}
    >
      <label>
        {say("page_why")}
        <Input className="tall" value={reason} onChange={(event) => setReason(event.target.value)} />
      </label>
      <Button className="tall" htmlType="submit" disabled={!reason.trim()} loading={decline.running}>
        {say("page_decline")}
      </Button>
    </form>
  );
}
