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
import { Signature } from "./Signature";

/** A quote on the customer's own phone: read, choose, ask, decline, sign, pay the deposit. */
export default function OfferPage() {
  const token = useParams().token ?? "";
  const { data: offer, error } = useQuery(queries.offer(token));
  useTitle(offer ? `Quote ${offer.document.number}` : "Quote");
  if (error) {
    return (
      <main className="offer">
        <p className="notice-text" role="alert">
          {error.message}
        </p>
      </main>
    );
  }
  return offer ? <Offer token={token} offer={offer} /> : null;
}

/** What the customer has written of their name so far. */
type Signing = { name: string; drawing: string | undefined };

const takenIn = (lines: DocumentLine[]) =>
  lines.flatMap((line, index) => (line.choice !== "included" && line.taken ? [index] : []));

function Offer({ token, offer }: { token: string; offer: OfferView }) {
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
    <main className="offer">
      <header>
        <div className="firm">{document.seller.name}</div>
        <div className="soft">
          {[document.seller.address, document.seller.phone, document.seller.email]
            .filter(Boolean)
            .join(" · ")}
        </div>
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
          Quote {document.number}
          {document.edition > 1 && `, edition ${document.edition}, in place of the one before`} of{" "}
          {fullDay(document.sentOn)}, valid until {fullDay(document.validUntil)}
        </div>
      </header>
      <State offer={offer} />
      <section aria-label="Lines">
        {offer.lines.map((line, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: the lines of a sent quote never change places
          <Line key={index} line={line} price={price(line)} withVat={document.pricesWithVat}>
            <Choosing line={line} index={index} offer={offer} taken={taken} take={setTaken} />
          </Line>
        ))}
        <div className="soft small">
          Prices in {document.currency}, {document.pricesWithVat ? "with" : "without"} VAT
          {document.discount && `; a discount of ${document.discount} on all is taken off already`}
        </div>
      </section>
      {problem ? (
        <p className="fault" role="alert">
          {problem.message}
        </p>
      ) : (
        <Sums offer={offer} sum={sum} />
      )}
      {document.notes && <p className="notes">{document.notes}</p>}
      <p>
        <a href={`/api/offers/${token}/pdf`}>The quote as PDF</a>
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
  if (offer.state !== "sent") {
    return line.choice === "included" ? null : (
      <span className="soft small">{line.taken ? "chosen" : "not chosen"}</span>
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
          add this
        </Checkbox>
      );
    case "alternative":
      return (
        <Radio
          checked={taken.includes(index)}
          onChange={() => take([...taken.filter((one) => offer.lines[one]?.group !== line.group), index])}
        >
          {line.group}: this one
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
  switch (offer.state) {
    case "accepted":
      return (
        <p className="state" role="status">
          <b>
            Accepted{offer.acceptedBy && ` by ${offer.acceptedBy}`}
            {offer.acceptedAt && `, ${moment(offer.acceptedAt)}`}.
          </b>{" "}
          We get in touch about the day.
          {offer.contentHash && (
            <span className="hash">What exactly was accepted is kept as {offer.contentHash}.</span>
          )}
        </p>
      );
    case "declined":
      return (
        <p className="state" role="status">
          <b>You declined this quote.</b> Ask below if you think again.
        </p>
      );
    case "lapsed":
      return (
        <p className="state needs" role="status">
          <b>This quote lapsed on {fullDay(offer.document.validUntil)}.</b> Ask below, and we send you a new
          one.
        </p>
      );
    case "draft":
      return (
        <p className="state needs" role="status">
          <b>We are changing this quote.</b> The new one comes to this same address.
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
  if (line.kind !== "line") {
    return line.kind === "heading" ? <h2>{line.description}</h2> : <p>{line.description}</p>;
  }
  return (
    <div className={line.taken ? "offer-line" : "offer-line not-taken"}>
      <span>
        {line.description}
        {line.quantity && <span className="soft small"> {line.quantity}</span>}
        {line.warrantyMinor > 0 && (
          <div className="soft small">
            {withVat
              ? `of which the warranty bears ${line.warrantyPercent} % already`
              : `${money(line.fullMinor)} less ${money(line.warrantyMinor)}, which the warranty bears (${line.warrantyPercent} %)`}
          </div>
        )}
      </span>
      <span className="figure">{money(price)}</span>
      {line.choice !== "included" && <div className="choose">{children}</div>}
    </div>
  );
}

function Sums({ offer, sum }: { offer: OfferView; sum: Sum }) {
  const { document } = offer;
  return (
    <section aria-label="Total" className="sums">
      <div>
        <span>Net</span> <span className="figure">{money(sum.netMinor)}</span>
      </div>
      {sum.vat.map((rate) => (
        <div key={rate.words} className="soft">
          <span>{rate.words}</span> <span className="figure">{money(rate.vatMinor)}</span>
        </div>
      ))}
      <div className="all">
        <span>Total</span> <span className="figure">{money(sum.grossMinor)}</span>
      </div>
      <p className="small">{document.promised}</p>
      {sum.depositMinor > 0 && (
        <div>
          <span>Deposit, within {document.depositDueDays} days of your yes</span>{" "}
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
  signing: { name, drawing },
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
  const [problem, setProblem] = useState<Problem>();
  const queryClient = useQueryClient();
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
      done: (accepted) => queryClient.setQueryData(queries.offer(token).queryKey, accepted),
      refused: setProblem,
      said: null,
    },
  );
  return (
    <form
      className="answer"
      aria-label="Accept"
      onSubmit={(event) => {
        event.preventDefault();
        accept.run();
      }}
    >
      <h2>Accept it</h2>
      <label>
        Your name
        <Input
          className="tall"
          autoComplete="name"
          value={name}
          onChange={(event) => sign({ name: event.target.value, drawing })}
        />
      </label>
      {problem?.at("/name") && <p className="fault">{problem.at("/name")}</p>}
      <Signature drawing={drawing} draw={(png) => sign({ name, drawing: png })} />
      {problem?.faults.every((fault) => fault.pointer === "") && (
        <p className="fault" role="alert">
          {problem.message}
        </p>
      )}
      <Button type="primary" className="big" htmlType="submit" disabled={impossible} loading={accept.running}>
        <span>Accept for {money(sum.grossMinor)} with VAT</span>
      </Button>
    </form>
  );
}

function Deposit({ token, offer }: { token: string; offer: OfferView }) {
  const [card, setCard] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const queryClient = useQueryClient();
  const pay = useAct(
    () => answer(client.POST("/api/offers/{token}/deposit", { params: { path: { token } }, body: { card } })),
    {
      done: (paid) => {
        setProblem(undefined);
        queryClient.setQueryData(queries.offer(token).queryKey, paid);
      },
      refused: setProblem,
      said: null,
    },
  );
  if (offer.depositDueMinor === 0) {
    return offer.depositHeldMinor > 0 ? (
      <p className="state" role="status">
        <b>Your deposit of {money(offer.depositHeldMinor)} has arrived.</b> It comes off the invoice.
      </p>
    ) : null;
  }
  if (offer.cardNotice == null) {
    const { seller, number } = offer.document;
    return (
      <p className="state" role="status">
        <b>A deposit of {money(offer.depositDueMinor)} is due.</b> Please pay it by bank transfer
        {seller.bank !== "" && ` to ${seller.bank}`}, with “quote {number}” as the reference.
      </p>
    );
  }
  return (
    <form
      className="answer"
      aria-label="Deposit"
      onSubmit={(event) => {
        event.preventDefault();
        pay.run();
      }}
    >
      <h2>Pay the deposit of {money(offer.depositDueMinor)}</h2>
      <label>
        Card number
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
        <span>Pay {money(offer.depositDueMinor)} by card</span>
      </Button>
      <p className="soft small">{offer.cardNotice}</p>
    </form>
  );
}

function Questions({ token, offer }: { token: string; offer: OfferView }) {
  const [question, setQuestion] = useState("");
  const queryClient = useQueryClient();
  const ask = useAct(
    () =>
      answer(
        client.POST("/api/offers/{token}/questions", { params: { path: { token } }, body: { question } }),
      ),
    {
      done: (asked) => {
        setQuestion("");
        queryClient.setQueryData(queries.offer(token).queryKey, asked);
      },
      said: "We have your question.",
    },
  );
  return (
    <section className="answer" aria-label="Questions">
      <h2>Ask us</h2>
      {offer.questions.map((asked) => (
        <div key={asked.askedAt} className="asked">
          <div>{asked.question}</div>
          <div className={asked.answer ? "ours" : "soft"}>
            {asked.answer ?? "We have your question and answer it soon."}
          </div>
        </div>
      ))}
      <Input.TextArea
        aria-label="Your question"
        autoSize={{ minRows: 2 }}
        value={question}
        onChange={(event) => setQuestion(event.target.value)}
      />
      <Button className="tall" disabled={!question.trim()} loading={ask.running} onClick={() => ask.run()}>
        Send the question
      </Button>
    </section>
  );
}

function No({ token, offer }: { token: string; offer: OfferView }) {
  const [saying, setSaying] = useState(false);
  const [reason, setReason] = useState("");
  const queryClient = useQueryClient();
  const decline = useAct(
    () =>
      answer(
        client.POST("/api/offers/{token}/decline", {
          params: { path: { token } },
          body: { edition: offer.document.edition, reason },
        }),
      ),
    {
      done: (declined) => queryClient.setQueryData(queries.offer(token).queryKey, declined),
      said: null,
    },
  );
  if (!saying) {
    return (
      <button type="button" className="plain" onClick={() => setSaying(true)}>
        No, thank you
      </button>
    );
  }
  return (
    <form
      className="answer"
      aria-label="Decline"
      onSubmit={(event) => {
        event.preventDefault();
        decline.run();
      }}
    >
      <label>
        Would you tell us why?
        <Input className="tall" value={reason} onChange={(event) => setReason(event.target.value)} />
      </label>
      <Button className="tall" htmlType="submit" disabled={!reason.trim()} loading={decline.running}>
        Decline the quote
      </Button>
    </form>
  );
}
