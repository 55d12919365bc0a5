import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { MoneyForm, PocketVisit } from "../api/generated/schema";
import { queries } from "../api/queries";
import { currencyMark, day, money, words } from "../format";
import { useAct } from "../kit/useAct";

/** Takes in what the customer hands over: how much, and one tap for what it is. */
export function TakeMoney({ visit, back }: { visit: PocketVisit; back: () => void }) {
  const queryClient = useQueryClient();
  const [amount, setAmount] = useState("");
  const take = useAct(
    (method: NonNullable<MoneyForm["method"]>, key) =>
      answer(
        client.POST("/api/pocket/visits/{id}/money", {
          params: { path: { id: visit.visitId }, ...withKey(key) },
          body: { amount, method },
        }),
      ),
    {
      done: (taken) => {
        queryClient.setQueryData(queries.moneyTaken(visit.visitId).queryKey, taken);
        back();
      },
      said: "Taken in. The invoice takes it off.",
    },
  );
  return (
    <section className="form" aria-label="Take money">
      <label>
        How much did they hand over, {currencyMark()}?
        <Input
          className="tall"
          autoFocus
          inputMode="decimal"
          placeholder="120.00"
          value={amount}
          onChange={(event) => setAmount(event.target.value)}
        />
      </label>
      {take.problem && (
        <p className="fault" role="alert">
          {take.problem.faults[0]?.detail ?? take.problem.message}
        </p>
      )}
      <div className="pair">
        <Button loading={take.running} onClick={() => take.run("cash")}>
          It is cash
        </Button>
        <Button loading={take.running} onClick={() => take.run("cheque")}>
          It is a cheque
        </Button>
      </div>
      <Button className="tall" onClick={back}>
        Go back
      </Button>
    </section>
  );
}

/** What came in for the job so far. */
export function MoneyTakenSoFar({ visit }: { visit: PocketVisit }) {
  const { data } = useQuery(queries.moneyTaken(visit.visitId));
  if (!data || data.length === 0) {
    return null;
  }
  return (
    <div className="fact">
      <div className="first">
        <span>Paid so far</span>
      </div>
      {data.map((one) => (
        <p key={one.number}>
          {money(one.amountMinor)} {words(one.method)}, {day(one.receivedOn)}, receipt {one.number}
        </p>
      ))}
    </div>
  );
}
