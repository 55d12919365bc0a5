import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, withKey } from "../api/client";
import type { Handover, PartInVan, Van } from "../api/generated/schema";
import { queries } from "../api/queries";
import { Select } from "../kit/Select";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import { onItsWay } from "./Handovers";
import styles from "./PocketVan.module.css";

/** What one's van holds, and what goes out of it and into it with the other side's yes. */
export default function PocketVan() {
  const { data, error } = useQuery(queries.van);
  const [typed, setTyped] = useState("");
  const [fetching, setFetching] = useState(false);
  useTitle("My van");
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const parts = (data?.parts ?? []).filter((part) =>
    words.every((word) => `${part.number} ${part.name}`.toLowerCase().includes(word)),
  );
  return (
    <main className="pocket">
      <header className="bar">
        <Link to="/pocket">Today's stops</Link>
      </header>
      <div className="body">
        <h1>{data?.name ?? "My van"}</h1>
        {error && !data && <p className="fault">{error.message}</p>}
        {data?.waiting.map((handover) => (
          <Answer key={handover.id} handover={handover} />
        ))}
        {data && fetching && <Fetch van={data} close={() => setFetching(false)} />}
        {data && !fetching && (
          <div className="pair">
            <Button onClick={() => setFetching(true)}>Get parts from somewhere</Button>
          </div>
        )}
        {data && data.parts.length > 8 && (
          <Input
            className={`tall ${styles.find}`}
            allowClear
            placeholder="Find a part in the van"
            aria-label="Find a part in the van"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        )}
        {data?.parts.length === 0 && <p className="soft">The books hold nothing in this van.</p>}
      </div>
      {data && parts.map((part) => <InVan key={part.id} part={part} van={data} />)}
    </main>
  );
}

function Answer({ handover }: { handover: Handover }) {
  const params = { path: { id: handover.id } };
  const body = { version: handover.version };
  const agree = useAct(() => answer(client.POST("/api/pocket/handovers/{id}/agree", { params, body })), {
    said: `Moved: ${onItsWay(handover)}.`,
  });
  const refuse = useAct(() => answer(client.POST("/api/pocket/handovers/{id}/refuse", { params, body })), {
    said: "It stays where it was.",
  });
  const withdraw = useAct(
    () => answer(client.POST("/api/pocket/handovers/{id}/withdraw", { params, body })),
    {
      said: "Not asked for any more.",
    },
  );
  return (
    <section className={styles.waiting} aria-label={onItsWay(handover)}>
      <p>
        <b>{onItsWay(handover)}.</b>{" "}
        {handover.yours
          ? `${handover.askedBy} asks.`
          : `Waits for ${handover.waitsFor ?? "the office"} to say yes.`}
      </p>
      <div className="pair">
        {handover.yours ? (
          <>
            <Button type="primary" loading={agree.running} onClick={() => agree.run()}>
              Yes, it is so
            </Button>
            <Button loading={refuse.running} onClick={() => refuse.run()}>
              No
            </Button>
          </>
        ) : (
          <Button loading={withdraw.running} onClick={() => withdraw.run()}>
            Take it back
          </Button>
        )}
      </div>
    </section>
  );
}

type Asked = { partId: number; quantity: string; fromPlaceId?: number; toPlaceId?: number };

const useAsking = (done: () => void) =>
  useAct(
    (asked: Asked, key) =>
      answer(client.POST("/api/pocket/handovers", { params: withKey(key), body: asked })),
    { done, said: "Asked. It moves with the other side’s yes." },
  );

function InVan({ part, van }: { part: PartInVan; van: Van }) {
  const [open, setOpen] = useState(false);
  const [to, setTo] = useState(van.others[0]?.id);
  const [quantity, setQuantity] = useState("1");
  const ask = useAsking(() => setOpen(false));
  return (
    <div className="fact">
      <div className="first">
        <span>{part.name}</span>
        <span className={part.quantity < 0 ? "needs" : undefined}>
          {String(part.quantity).replace("-", "−")} {part.unit}
          {part.quantity < 0 && " below zero"}
        </span>
      </div>
      {open ? (
        <form
          className="form"
          aria-label={`Give ${part.name} away`}
          onSubmit={(event) => {
            event.preventDefault();
            ask.run({ partId: part.id, quantity, toPlaceId: to });
          }}
        >
          <label>
            How many
            <Input
              className="tall"
              autoFocus
              inputMode="decimal"
              value={quantity}
              onChange={(event) => setQuantity(event.target.value)}
            />
          </label>
          <Place label="To" van={van} value={to} change={setTo} />
          <Button type="primary" className="big" htmlType="submit" loading={ask.running}>
            Give away
          </Button>
          <Button className="tall" onClick={() => setOpen(false)}>
            Back
          </Button>
        </form>
      ) : (
        <div className={styles.line}>
          <span className="soft small">{part.number}</span>
          <Button className="tall" aria-label={`Give ${part.name} away`} onClick={() => setOpen(true)}>
            Give away
          </Button>
        </div>
      )}
    </div>
  );
}

function Place({
  label,
  van,
  value,
  change,
}: {
  label: string;
  van: Van;
  value: number | undefined;
  change: (id: number) => void;
}) {
  return (
    <label>
      {label}
      <Select
        className="tall"
        aria-label={label}
        value={value}
        onChange={(id) => id !== undefined && change(id)}
        options={van.others.map((place) => ({ value: place.id, label: place.name }))}
      />
    </label>
  );
}

/** Parts that somebody else has, or the store. */
function Fetch({ van, close }: { van: Van; close: () => void }) {
  const [typed, setTyped] = useState("");
  const [chosen, setChosen] = useState<{ id: number; name: string }>();
  const [from, setFrom] = useState(van.others[0]?.id);
  const [quantity, setQuantity] = useState("1");
  const { data: found } = useQuery(queries.vanParts(chosen ? "" : typed));
  const ask = useAsking(close);
  return (
    <form
      className="form"
      aria-label="Parts from somewhere"
      onSubmit={(event) => {
        event.preventDefault();
        if (chosen) {
          ask.run({ partId: chosen.id, quantity, fromPlaceId: from });
        }
      }}
    >
      <label>
        Which part?
        <Input
          className="tall"
          autoFocus
          allowClear
          value={chosen?.name ?? typed}
          onChange={(event) => {
            setChosen(undefined);
            setTyped(event.target.value);
          }}
        />
      </label>
      {typed !== "" &&
        !chosen &&
        found?.slice(0, 6).map((part) => (
          <Button key={part.id} className="tall" onClick={() => setChosen({ id: part.id, name: part.name })}>
            {part.name}
          </Button>
        ))}
      <label>
        How many
        <Input
          className="tall"
          inputMode="decimal"
          value={quantity}
          onChange={(event) => setQuantity(event.target.value)}
        />
      </label>
      <Place label="From" van={van} value={from} change={setFrom} />
      <Button type="primary" className="big" htmlType="submit" disabled={!chosen} loading={ask.running}>
        Ask for them
      </Button>
      <Button className="tall" onClick={close}>
        Back
      </Button>
    </form>
  );
}
