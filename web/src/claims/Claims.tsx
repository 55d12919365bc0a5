import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { WarrantyClaim } from "../api/generated/schema";
import { queries } from "../api/queries";
import { day, money } from "../format";
import { Asking } from "../kit/Asking";
import styles from "../kit/Followed.module.css";
import { MoneyField, TextField } from "../kit/fields";
import { InlineForm } from "../kit/InlineForm";
import { useAct } from "../kit/useAct";
import { useForm } from "../kit/useForm";
import { Word } from "../kit/Word";
import { useMay } from "../people/useMay";

/** What manufacturers are asked to bear of a job, with what became of it. */
export function Claims({ jobId }: { jobId: number }) {
  const { data } = useQuery(queries.claims(jobId));
  const mayClaim = useMay("record_work");
  const [making, setMaking] = useState(false);
  return (
    <div className={styles.followed} data-section="claims">
      {(data ?? []).map((claim) => (
        <div key={claim.id} data-claim={claim.id}>
          <b>{money(claim.claimedMinor)}</b> claimed from {claim.manufacturer} for {claim.what}:{" "}
          <span className={claim.state === "open" ? "needs" : "soft"}>{standing(claim)}</span>{" "}
          {mayClaim && <ClaimActs claim={claim} />}
        </div>
      ))}
      {mayClaim && !making && (
        <Word id={`claim-${jobId}`} run={() => setMaking(true)}>
          Claim from the manufacturer
        </Word>
      )}
      {making && <ClaimForm jobId={jobId} close={() => setMaking(false)} />}
    </div>
  );
}

function standing({ state, madeOn, sentOn, decidedOn, creditedMinor, reason }: WarrantyClaim): string {
  switch (state) {
    case "open":
      return `to be sent since ${day(madeOn)}`;
    case "sent":
      return `sent ${day(sentOn ?? madeOn)}`;
    case "credited":
      return `${money(creditedMinor ?? 0)} credited ${day(decidedOn ?? madeOn)}`;
    case "refused":
      return `refused ${day(decidedOn ?? madeOn)}, “${reason}”`;
  }
}

function ClaimActs({ claim }: { claim: WarrantyClaim }) {
  const { id, version, manufacturer } = claim;
  const path = { params: { path: { id } } };
  const of = `, claim from ${manufacturer}`;
  const send = useAct(() => answer(client.POST("/api/claims/{id}/send", { ...path, body: { version } })), {
    said: "Noted as sent.",
  });
  const credit = useAct(
    (amount: string) =>
      answer(client.POST("/api/claims/{id}/credit", { ...path, body: { version, amount } })),
    { said: `${manufacturer} bears it: the job costs less by that.` },
  );
  const refuse = useAct(
    (reason: string) =>
      answer(client.POST("/api/claims/{id}/refuse", { ...path, body: { version, reason } })),
    { said: "Noted as refused." },
  );
  const waits = claim.state === "open" || claim.state === "sent";
  return (
    <span className={styles.acts}>
      {(claim.state === "open" || claim.state === "refused") && (
        <Word of={of} run={() => send.run(undefined)}>
          {claim.state === "open" ? "Sent" : "Sent again"}
        </Word>
      )}
      {waits && (
        <>
          <Asking
            plain
            label="Credited…"
            of={of}
            title={`${manufacturer} credits it`}
            question={`How much of ${money(claim.claimedMinor)}, without VAT? It goes into the books.`}
            confirm="Credit"
            run={credit.run}
          />
          <Asking
            plain
            label="Refused…"
            of={of}
            title={`${manufacturer} bears nothing of it?`}
            question="Why? The reason stays on the job."
            confirm="Note it"
            run={refuse.run}
          />
        </>
      )}
    </span>
  );
}

function ClaimForm({ jobId, close }: { jobId: number; close: () => void }) {
  const form = useForm({ version: 0, draft: { manufacturer: "", what: "", amount: "" } });
  const save = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/jobs/{id}/claims", {
          params: { path: { id: jobId }, ...withKey(key) },
          body: form.draft,
        }),
      ),
    { done: close, refused: form.refused, said: "The claim is on the job, and a to-do reminds you of it." },
  );
  return (
    <InlineForm
      form={form}
      label="Claim from the manufacturer"
      confirm="Claim it"
      running={save.running}
      submit={() => save.run(undefined)}
      close={close}
    >
      <TextField form={form} name="manufacturer" label="Manufacturer" needed autoFocus />
      <TextField form={form} name="what" label="For what" needed />
      <MoneyField form={form} name="amount" label="Amount, without VAT" width={110} needed />
    </InlineForm>
  );
}
