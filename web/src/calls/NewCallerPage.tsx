import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useDeferredValue, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import { answer, client, type Problem, withKey } from "../api/client";
import { queries } from "../api/queries";
import { words } from "../format";
import sheet from "../kit/Sheet.module.css";
import { useAct } from "../kit/useAct";
import { useTitle } from "../kit/useTitle";
import styles from "./NewCallerPage.module.css";
import { emptySlip } from "./slip";

/** A new caller in one breath; who is on record already is shown before anything is saved. */
export default function NewCallerPage() {
  const [search] = useSearchParams();
  const said = search.get("said") ?? "";
  const spokenPhone = /^[0-9+()./ -]+$/.test(said.trim()) && said.trim() !== "";
  const [name, setName] = useState(spokenPhone ? "" : said);
  const [phone, setPhone] = useState(spokenPhone ? said : "");
  const [place, setPlace] = useState("");
  const [about, setAbout] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const navigate = useNavigate();
  useTitle("New caller");
  const doubles = useDoubles(name, phone, place);
  const create = useAct(
    (_: undefined, key) =>
      answer(client.POST("/api/customers", { params: withKey(key), body: { name, phone, place } })),
    {
      done: ({ id }) => {
        keepAbout(id, about);
        navigate(`/customers/${id}`, { replace: true });
      },
      refused: setProblem,
    },
  );
  const fault = (pointer: string) =>
    problem?.at(pointer) && (
      <p className="fault" role="alert">
        {problem.at(pointer)}
      </p>
    );
  return (
    <div className={`${sheet.sheet} ${sheet.alone} ${styles.caller}`}>
      <form
        aria-label="New caller"
        onSubmit={(event) => {
          event.preventDefault();
          create.run(undefined);
        }}
      >
        <h1>New caller</h1>
        <label className="field">
          Name
          <Input
            size="large"
            autoFocus={!said || spokenPhone}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        {fault("/name")}
        <label className="field">
          Phone
          <Input
            size="large"
            autoFocus={said !== "" && !spokenPhone}
            value={phone}
            placeholder="01632 960121"
            onChange={(event) => setPhone(event.target.value)}
          />
        </label>
        {fault("/phone")}
        <label className="field">
          Place
          <Input
            size="large"
            value={place}
            placeholder="12 Weir Street, Ostmere OS4 2TD"
            onChange={(event) => setPlace(event.target.value)}
          />
        </label>
        {fault("/place")}
        <label className="field">
          What is wrong, or what do they want?
          <Input size="large" value={about} onChange={(event) => setAbout(event.target.value)} />
        </label>
        <Button type="primary" size="large" htmlType="submit" loading={create.running}>
          Save and go on <span aria-hidden="true">⏎</span>
        </Button>
      </form>
      <section className={styles.doubles} aria-label="On record already" aria-live="polite">
        {doubles.length > 0 && <h2>On record already?</h2>}
        {doubles.map((double) => (
          <Link key={double.id} to={`/customers/${double.id}`} onClick={() => keepAbout(double.id, about)}>
            <b>{double.name}</b> C {double.number}
            <span className="soft">
              {double.phone} · {double.address}, {double.postcode}
            </span>
            <span className="needs">{double.same.map(words).join(", ")}</span>
          </Link>
        ))}
      </section>
    </div>
  );
}

function useDoubles(name: string, phone: string, place: string) {
  const { data } = useQuery(
    queries.doubles(useDeferredValue(name), useDeferredValue(phone), useDeferredValue(place), 0),
  );
  return data ?? [];
}

/** What was said goes to the caller's slip, so that nobody types it again. */
function keepAbout(customerId: number, about: string) {
  if (about.trim()) {
    window.sessionStorage.setItem(
      `call-${customerId}`,
      JSON.stringify({ ...emptySlip, about, step: "what" }),
    );
  }
}
