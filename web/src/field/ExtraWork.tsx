import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client, withKey } from "../api/client";
import type { ExtraWorkOffer, PocketVisit, VanPart } from "../api/generated/schema";
import { queries } from "../api/queries";
import { money } from "../format";
import { Signature } from "../kit/Signature";
import { useAct } from "../kit/useAct";
import { useDraft } from "../kit/useKept";
import { useSession } from "../people/SessionGate";
import styles from "./ExtraWork.module.css";
import { noteAdded } from "./seenVisits";
import { SIGN_HERE } from "./signHere";
import { useParts } from "./useCarried";

/** What is typed of it before it is priced. */
type Draft = { what: string; time: string; exclusion: string; chosen: Chosen[] };
type Chosen = { part: Pick<VanPart, "id" | "name">; quantity: number };
type Props = { visit: PocketVisit; back: () => void };

const MOST_FOUND = 5;

/** What is found on site: said, priced, read by the customer and signed, before it is done. */
export function ExtraWork({ visit, back }: Props) {
  const { data: offers, error } = useQuery(queries.extraWork(visit.visitId));
  const open = offers?.find(({ state }) => state === "sent");
  const [changing, setChanging] = useState(false);
  if (error && !offers) {
    return (
      <>
        <p className="fault">{error.message} Prices need a network.</p>
        <Button block className="tall" onClick={back}>
          Go back
        </Button>
      </>
    );
  }
  if (!offers) {
    return <p aria-busy="true" />;
  }
  return open && !changing ? (
    <Answer key={open.edition} visit={visit} offer={open} change={() => setChanging(true)} back={back} />
  ) : (
    <Said visit={visit} replaced={open} priced={() => setChanging(false)} back={back} />
  );
}

/** What is to be done, how long it takes and with which parts. */
function Said({
  visit,
  replaced,
  priced,
  back,
}: Props & { replaced: ExtraWorkOffer | undefined; priced: () => void }) {
  const { draft, change, forget } = useDraft<Draft>(
    `extra work ${visit.visitId} ${replaced?.quoteId ?? ""}`,
    {
      what: replaced?.title ?? "",
      time: "",
      exclusion: "",
      chosen: [],
    },
  );
  const { what, time, exclusion, chosen } = draft;
  const [wanted, setWanted] = useState("");
  const found = useParts(wanted);
  const price = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/pocket/visits/{id}/extra-work", {
          params: { path: { id: visit.visitId }, ...withKey(key) },
          body: {
            quoteId: replaced?.quoteId,
            what,
            time,
            warrantyExclusion: exclusion,
            parts: chosen.map(({ part, quantity }) => ({ partId: part.id, quantity: String(quantity) })),
          },
        }),
      ),
    {
      answers: queries.extraWork(visit.visitId).queryKey,
      done: () => {
        forget();
        priced();
      },
      said: "Priced. Let the customer read it.",
    },
  );
  const put = (part: Chosen["part"], by: number) =>
    change({
      chosen: (chosen.some((one) => one.part.id === part.id) ? chosen : [...chosen, { part, quantity: 0 }])
        .map((one) => (one.part.id === part.id ? { ...one, quantity: one.quantity + by } : one))
        .filter(({ quantity }) => quantity > 0),
    });
  return (
    <form
      className="form"
      aria-label="Extra work"
      onSubmit={(event) => {
        event.preventDefault();
        price.run(undefined);
      }}
    >
      <label>
        What else is to be done? The customer reads it.
        <Input className="tall" value={what} onChange={(event) => change({ what: event.target.value })} />
      </label>
      <label>
        How long it takes, empty for parts alone
        <Input
          className="tall"
          inputMode="decimal"
          placeholder="1:30"
          value={time}
          onChange={(event) => change({ time: event.target.value })}
        />
      </label>
      <label>
        Parts
        <Input
          className="tall"
          allowClear
          placeholder="Find a part"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
      </label>
      {wanted.trim() !== "" &&
        found.slice(0, MOST_FOUND).map((part) => (
          <Button
            key={part.id}
            className="tall"
            onClick={() => {
              put(part, 1);
              setWanted("");
            }}
          >
            {part.name}
          </Button>
        ))}
      {chosen.map(({ part, quantity }) => (
        <div key={part.id} className={styles.chosen}>
          <b>{part.name}</b>
          <span className="stepper">
            <Button aria-label={`Fewer ${part.name}`} onClick={() => put(part, -1)}>
              −
            </Button>
            <output aria-label={`How many ${part.name}`} className={styles.many}>
              {quantity}
            </output>
            <Button aria-label={`More ${part.name}`} onClick={() => put(part, 1)}>
              +
            </Button>
          </span>
        </div>
      ))}
      {visit.warrantyUntil && visit.warrantyUntil >= visit.day && (
        <label>
          Not under warranty? Say why; empty where it is
          <Input
            className="tall"
            placeholder="was never part of it"
            value={exclusion}
            onChange={(event) => change({ exclusion: event.target.value })}
          />
        </label>
      )}
      {price.problem && (
        <p className="fault" role="alert">
          {price.problem.faults[0]?.detail ?? price.problem.message}
        </p>
      )}
      <Button type="primary" className="big" htmlType="submit" loading={price.running}>
        Price it
      </Button>
      <Button className="tall" onClick={back}>
        Go back
      </Button>
    </form>
  );
}

/** What the customer reads and signs, or does not want. */
function Answer({ visit, offer, change, back }: Props & { offer: ExtraWorkOffer; change: () => void }) {
  const { person } = useSession();
  const [name, setName] = useState("");
  const [drawing, setDrawing] = useState<string>();
  const [refusing, setRefusing] = useState(false);
  const [reason, setReason] = useState("");
  const path = { id: visit.visitId, quoteId: offer.quoteId };
  const answers = queries.extraWork(visit.visitId).queryKey;
  const accept = useAct(
    (_: undefined, key) =>
      answer(
        client.POST("/api/pocket/visits/{id}/extra-work/{quoteId}/accept", {
          params: { path, ...withKey(key) },
          body: { edition: offer.edition, name, signature: drawing ?? name, drawn: drawing !== undefined },
        }),
      ),
    {
      answers,
      done: () => {
        noteAdded(person.id, visit.visitId);
        back();
      },
      said: "Agreed and signed. It is part of the job.",
    },
  );
  const decline = useAct(
    () =>
      answer(
        client.POST("/api/pocket/visits/{id}/extra-work/{quoteId}/decline", {
          params: { path },
          body: { edition: offer.edition, reason },
        }),
      ),
    { answers, done: back, said: "Noted. Nothing is added to the job." },
  );
  const problem = accept.problem ?? decline.problem;
  return (
    <form
      className="form"
      aria-label="Extra work for the customer to sign"
      onSubmit={(event) => {
        event.preventDefault();
        accept.run(undefined);
      }}
    >
      <h2>{offer.title}</h2>
      <table className={styles.offer}>
        <caption className="soft small">
          Offer {offer.number}, edition {offer.edition}
        </caption>
        <tbody>
          {offer.lines.map((line, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the lines of an edition never change
            <tr key={at}>
              <td>
                {line.description}
                <div className="soft small">{line.quantity}</div>
              </td>
              <td>{money(line.netMinor)}</td>
            </tr>
          ))}
          <tr>
            <td>VAT</td>
            <td>{money(offer.sum.vatMinor)}</td>
          </tr>
          <tr className={styles.total}>
            <th scope="row">To pay for it, with VAT</th>
            <td>{money(offer.sum.grossMinor)}</td>
          </tr>
        </tbody>
      </table>
      {refusing ? (
        <>
          <label>
            Why not? The office reads it.
            <Input className="tall" value={reason} onChange={(event) => setReason(event.target.value)} />
          </label>
          <Button className="tall" loading={decline.running} onClick={() => decline.run()}>
            The customer does not want it
          </Button>
          <Button className="tall" onClick={() => setRefusing(false)}>
            Back to the price
          </Button>
        </>
      ) : (
        <>
          <label>
            Name of whoever agrees
            <Input className="tall" value={name} onChange={(event) => setName(event.target.value)} />
          </label>
          <Signature drawing={drawing} draw={setDrawing} words={SIGN_HERE} />
          {problem && (
            <p className="fault" role="alert">
              {problem.faults[0]?.detail ?? problem.message}
            </p>
          )}
          <Button type="primary" className="big" htmlType="submit" loading={accept.running}>
            <span>Agree</span> <span>{money(offer.sum.grossMinor)}</span>
          </Button>
          <div className="pair">
            <Button onClick={() => setRefusing(true)}>Not wanted</Button>
            <Button onClick={change}>Change it</Button>
            <Button onClick={back}>Later</Button>
          </div>
        </>
      )}
    </form>
  );
}

const STANDING: Record<string, string> = {
  sent: "not answered yet",
  accepted: "agreed",
  declined: "not wanted",
};

/** What was offered on this job beside what was promised, and what the customer said. */
export function ExtraWorkOffers({ visit }: { visit: PocketVisit }) {
  const { data } = useQuery(queries.extraWork(visit.visitId));
  if (!data || data.length === 0) {
    return null;
  }
  return (
    <div className="fact">
      <div className="first">
        <span>Extra work</span>
      </div>
      {data.map((offer) => (
        <p key={offer.quoteId}>
          {offer.title}: {STANDING[offer.state] ?? offer.state}
        </p>
      ))}
    </div>
  );
}
