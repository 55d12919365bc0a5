import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { MoneyForm, PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { currencyMark, day, moment, money, words } from "../format";
import { useAct } from "../kit/useAct";

type Method = NonNullable<MoneyForm["method"]>;

const SAID: Record<Method, string> = {
  cash: "Taken in. The invoice takes it off.",
  cheque: "Taken in. The invoice takes it off.",
  card: "The card has paid. The invoice takes it off.",
  bank_transfer: "The office looks out for it.",
};

/** Takes in what the customer pays: how much, and one tap for how. */
export function TakeMoney({ visit, back }: { visit: PocketVisit; back: () => void }) {
  const queryClient = useQueryClient();
  const { queryKey } = queries.moneyTaken(visit.visitId);
  const { data } = useQuery(queries.moneyTaken(visit.visitId));
  const [amount, setAmount] = useState("");
  const [mail, setMail] = useState<string>();
  const [card, setCard] = useState<string>();
  const receiptTo = mail ?? "";
  const take = useAct(
    (method: Method, key) =>
      answer(
        client.POST("/api/pocket/visits/{id}/money", {
          params: { path: { id: visit.visitId }, ...withKey(key) },
          body: { amount, method, card: method === "card" ? card : undefined, receiptTo },
        }),
      ),
    {
      answers: queryKey,
      done: back,
      // A card may have been asked for all the same.
      refused: () => void queryClient.invalidateQueries({ queryKey }),
      said: (_, method) => ({ text: SAID[method] }),
    },
  );
  return (
    <section className="form" aria-label="Take money">
      <label>
        How much do they pay, {currencyMark()}?
        <Input
          className="tall"
          autoFocus
          inputMode="decimal"
          placeholder="120.00"
          value={amount}
          onChange={(event) => setAmount(event.target.value)}
        />
      </label>
      <label>
        Where a receipt goes by mail; empty for none
        <Input
          className="tall"
          type="email"
          autoComplete="off"
          placeholder={data?.receiptTo}
          value={receiptTo}
          onChange={(event) => setMail(event.target.value)}
        />
      </label>
      {data?.receiptTo && mail === undefined && (
        <Button className="tall" onClick={() => setMail(data.receiptTo)}>
          To {data.receiptTo}
        </Button>
      )}
      {card !== undefined && (
        <label>
          The card's number
          <Input
            className="tall"
            autoFocus
            inputMode="numeric"
            autoComplete="off"
            value={card}
            onChange={(event) => setCard(event.target.value)}
          />
          <span className="soft small">{data?.cardNotice}</span>
        </label>
      )}
      {take.problem && (
        <p className="fault" role="alert">
          {take.problem.faults.find((fault) => fault.pointer !== "")?.detail ?? take.problem.message}
        </p>
      )}
      {card !== undefined ? (
        <Button type="primary" className="big" loading={take.running} onClick={() => take.run("card")}>
          Take it from the card
        </Button>
      ) : (
        <div className="pair">
          {data?.cardNotice != null && <Button onClick={() => setCard("")}>By card</Button>}
          <Button loading={take.running} onClick={() => take.run("cash")}>
            It is cash
          </Button>
          <Button loading={take.running} onClick={() => take.run("cheque")}>
            It is a cheque
          </Button>
          <Button loading={take.running} onClick={() => take.run("bank_transfer")}>
            They send it
          </Button>
        </div>
      )}
      <Button className="tall" onClick={card === undefined ? back : () => setCard(undefined)}>
        {card === undefined ? "Go back" : "Not by card"}
      </Button>
    </section>
  );
}

/** What was paid for the job so far, and what is promised. */
export function MoneyTakenSoFar({ visit }: { visit: PocketVisit }) {
  const { data } = useQuery(queries.moneyTaken(visit.visitId));
  if (!data || data.taken.length + data.promised.length + data.asked.length === 0) {
    return null;
  }
  return (
    <div className="fact">
      <div className="first">
        <span>Paid so far</span>
      </div>
      {data.asked.map((one) => (
        <p key={`asked ${one.id}`} className="needs">
          {money(one.amountMinor)} by card, {moment(one.askedAt)}: nobody knows yet whether it was taken. Do
          not take it again.
        </p>
      ))}
      {data.taken.map((one) => (
        <p key={one.number}>
          {money(one.amountMinor)} {words(one.method)}, {day(one.receivedOn)}, receipt {one.number}
        </p>
      ))}
      {data.promised.map((one) => (
        <p key={`promised ${one.id}`}>
          {money(one.amountMinor)} promised by transfer, {moment(one.promisedAt)}
        </p>
      ))}
    </div>
  );
}
