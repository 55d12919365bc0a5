import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { MoneyForm, MoneyOfJob, PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { currencyMark, day, moment, money, words } from "../format";
import { useAct } from "../kit/useAct";
import { isWaiting } from "./outbox";
import { useTap } from "./useTap";
import { useWaiting } from "./useWaiting";

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
  // A card is asked for at once or not at all: no phone keeps its number.
  const charge = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/pocket/visits/{id}/money", {
          params: { path: { id: visit.visitId }, ...withKey(key) },
          body: { amount, method: "card", card, receiptTo },
        }),
      ),
    {
      answers: queryKey,
      done: back,
      // It may have been asked for all the same.
      refused: () => void queryClient.invalidateQueries({ queryKey }),
      said: SAID.card,
    },
  );
  const tap = useTap({ done: back, said: ({ form }) => ({ text: SAID[form.method as Method] }) });
  const take = (method: Method) =>
    tap.run({ step: "take_money", visitId: visit.visitId, form: { amount, method, receiptTo } });
  const { problem } = card === undefined ? tap : charge;
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
      {problem && (
        <p className="fault" role="alert">
          {problem.faults.find((fault) => fault.pointer !== "")?.detail ?? problem.message}
        </p>
      )}
      {card !== undefined ? (
        <Button type="primary" className="big" loading={charge.running} onClick={() => charge.run(undefined)}>
          Take it from the card
        </Button>
      ) : (
        <div className="pair">
          {data?.cardNotice != null && <Button onClick={() => setCard("")}>By card</Button>}
          <Button loading={tap.running} onClick={() => take("cash")}>
            It is cash
          </Button>
          <Button loading={tap.running} onClick={() => take("cheque")}>
            It is a cheque
          </Button>
          <Button loading={tap.running} onClick={() => take("bank_transfer")}>
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

const NOTHING: Pick<MoneyOfJob, "taken" | "promised" | "asked"> = { taken: [], promised: [], asked: [] };

/** What was paid for the job so far, what is promised, and what the phone has still to send. */
export function MoneyTakenSoFar({ visit }: { visit: PocketVisit }) {
  const { data = NOTHING } = useQuery(queries.moneyTaken(visit.visitId));
  const kept = useWaiting().filter(
    (act) => act.step === "take_money" && act.visitId === visit.visitId && isWaiting(act),
  );
  if (data.taken.length + data.promised.length + data.asked.length + kept.length === 0) {
    return null;
  }
  return (
    <div className="fact">
      <div className="first">
        <span>Paid so far</span>
      </div>
      {kept.map(({ count, form }) => (
        <p key={`kept ${count}`}>
          {String(form.amount)} {words(String(form.method))}, <span className="needs">not sent yet</span>
        </p>
      ))}
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
