import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client } from "../api/client";
import type { Asked, DocumentLine, QuoteSheet, SentLetter, TermChange } from "../api/generated/schema";
import { queries } from "../api/queries";
import { moment, money } from "../format";
import { CustomersLink } from "../kit/CustomersLink";
import { Lines, TotalLine } from "../kit/Lines";
import { Section } from "../kit/Section";
import { useAct } from "../kit/useAct";
import { Word } from "../kit/Word";
import { MoneyForm } from "../receipts/MoneyForm";
import { ReceiptLine } from "../receipts/ReceiptLine";
import styles from "./OfferSections.module.css";

const TERMS: Record<TermChange["term"], string> = {
  title: "What is to be done",
  site: "Site",
  equipment: "Equipment",
  promise: "Promise",
  valid_until: "Valid until",
  prices: "Prices",
  discount: "Discount on all",
  deposit: "Deposit",
  deposit_due: "Deposit due",
  stages: "Stages",
  notes: "Notes",
};

/** What passed between us and the customer: the link, mail, questions, editions, the deposit. */
export function OfferSections({ quote }: { quote: QuoteSheet }) {
  return (
    <>
      {quote.link && <LinkOfQuote quote={quote} />}
      {quote.questions.length > 0 && <Questions quote={quote} />}
      {quote.editions.length > 0 && <Editions quote={quote} />}
      {quote.computed.depositMinor > 0 && quote.state === "accepted" && <Money quote={quote} />}
    </>
  );
}

function LinkOfQuote({ quote }: { quote: QuoteSheet }) {
  const withdraw = useAct(
    () => answer(client.POST("/api/quotes/{id}/withdraw-link", { params: { path: { id: quote.id } } })),
    { said: "The link is withdrawn. Sending the quote again makes another one." },
  );
  const link = quote.link;
  if (!link) {
    return null;
  }
  return (
    <Section name="Customer">
      {link.withdrawn ? (
        <div className="soft">The link is withdrawn. Sending the quote again makes another one.</div>
      ) : (
        <CustomersLink address={link.address} openedAt={link.openedAt} withdraw={() => withdraw.run()} />
      )}
      {quote.letters.length === 0 && (
        <div className="needs small">
          No mail went out: neither the customer nor who decides has an address.
        </div>
      )}
      {quote.letters.map((letter) => (
        <div key={`${letter.subject} ${letter.sentAt} ${letter.toAddress}`} className="small">
          {letter.subject} <span className="soft">to {letter.toAddress}:</span>{" "}
          <LetterState letter={letter} />
        </div>
      ))}
    </Section>
  );
}

function LetterState({ letter }: { letter: SentLetter }) {
  switch (letter.state) {
    case "sent":
      return <span className="soft">sent</span>;
    case "undeliverable":
      return (
        <span className="needs">
          could not be delivered. Check the address, or give them the link yourself.
        </span>
      );
    default:
      return letter.lastFault ? (
        <span className="needs">the mail server does not answer; we try again by ourselves</span>
      ) : (
        <span className="soft">on its way</span>
      );
  }
}

function Questions({ quote }: { quote: QuoteSheet }) {
  return (
    <Section name="Asked">
      {quote.questions.map((asked) => (
        <Question key={asked.id} asked={asked} />
      ))}
    </Section>
  );
}

function Question({ asked }: { asked: Asked }) {
  const [typed, setTyped] = useState("");
  const send = useAct(
    () =>
      answer(
        client.POST("/api/quote-questions/{id}/answer", {
          params: { path: { id: asked.id } },
          body: { answer: typed },
        }),
      ),
    { said: "The answer is sent." },
  );
  return (
    <div className={styles.question}>
      <div>
        <b>{asked.question}</b> <span className="soft small">{moment(asked.askedAt)}</span>
      </div>
      {asked.answer ? (
        <div className="soft">{asked.answer}</div>
      ) : (
        <form
          className={styles.answer}
          onSubmit={(event) => {
            event.preventDefault();
            send.run();
          }}
        >
          <Input
            aria-label={`Answer to: ${asked.question}`}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
          <Button type="primary" htmlType="submit" disabled={!typed.trim()} loading={send.running}>
            Send the answer
          </Button>
        </form>
      )}
    </div>
  );
}

function Editions({ quote }: { quote: QuoteSheet }) {
  const [compared, setCompared] = useState<{ before: number; after: number }>();
  return (
    <Section name="Editions">
      {quote.editions.map((edition, index) => {
        const before = quote.editions[index + 1];
        return (
          <div key={edition.edition}>
            Edition {edition.edition} <span className="soft">sent {moment(edition.sentAt)},</span>{" "}
            {money(edition.netMinor)} <span className="soft">net, cost {money(edition.costMinor)}</span>{" "}
            {before && (
              <Word
                of={`in edition ${edition.edition}`}
                run={() => setCompared({ before: before.edition, after: edition.edition })}
              >
                what changed?
              </Word>
            )}
          </div>
        );
      })}
      {compared && <Comparison quoteId={quote.id} {...compared} />}
    </Section>
  );
}

function Comparison({ quoteId, before, after }: { quoteId: number; before: number; after: number }) {
  const { data } = useQuery(queries.comparison(quoteId, before, after));
  if (!data) {
    return null;
  }
  return (
    <div className={styles.comparison} ref={(shown) => shown?.scrollIntoView({ block: "nearest" })}>
      <Lines
        caption={`Edition ${before} against ${after}`}
        columns={[
          { name: "What became of it", silent: true },
          { name: "What", silent: true },
          { name: `edition ${before}`, figure: true },
          { name: `edition ${after}`, figure: true },
        ]}
      >
        {data.changes.map((change, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: what was sent never changes places
          <tr key={index} className={change.what === "same" ? "soft" : undefined}>
            <td className="small">{change.what === "same" ? "" : change.what}</td>
            <td>
              {(change.after ?? change.before)?.description}{" "}
              <span className="soft small">
                {change.what === "changed" && change.before?.quantity !== change.after?.quantity
                  ? `${change.before?.quantity} became ${change.after?.quantity}`
                  : (change.after ?? change.before)?.quantity}
              </span>
            </td>
            <td className="figure">{net(change.before)}</td>
            <td className="figure">{net(change.after)}</td>
          </tr>
        ))}
        {data.terms.map((term) => (
          <tr key={term.term} className={styles.term}>
            <td className="small">changed</td>
            <td>{TERMS[term.term]}</td>
            <td>{term.before || <span className="soft">nothing</span>}</td>
            <td>{term.after || <span className="soft">nothing</span>}</td>
          </tr>
        ))}
        <TotalLine>
          <td />
          <td>Net</td>
          <td className="figure">{money(data.netBeforeMinor)}</td>
          <td className="figure">{money(data.netAfterMinor)}</td>
        </TotalLine>
      </Lines>
    </div>
  );
}

/** A heading or text has no amount, nor has a line that is not in this edition. */
const net = (line: DocumentLine | null | undefined) => (line?.kind === "line" ? money(line.netMinor) : "");

function Money({ quote }: { quote: QuoteSheet }) {
  const { data } = useQuery(queries.receipts({ quoteId: quote.id }));
  const came = data?.rows.filter((receipt) => !receipt.takenBackOn) ?? [];
  return (
    <Section name="Deposit">
      {data?.rows.map((receipt) => (
        <ReceiptLine key={receipt.id} receipt={receipt} />
      ))}
      {data && came.length === 0 && (
        <>
          <span className="needs">{money(quote.computed.depositMinor)} is still to come.</span>
          <MoneyForm expectedMinor={quote.computed.depositMinor} purpose={{ quoteId: quote.id }} />
        </>
      )}
    </Section>
  );
}
