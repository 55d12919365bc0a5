import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { answer, client, type Problem } from "../api/client";
import type { Code } from "../api/generated/schema";
import { queries } from "../api/queries";
import { useAct } from "../kit/useAct";
import styles from "./CodeLists.module.css";

type Kind = "faults" | "causes";

/** The codes of faults and of causes; one that is out of use stays on the records that carry it. */
export function CodeLists() {
  const { data: codes } = useQuery(queries.codes);
  return (
    <div className={styles.codes}>
      <CodeList kind="faults" title="Fault codes" codes={codes?.faults ?? []} />
      <CodeList kind="causes" title="Cause codes" codes={codes?.causes ?? []} />
    </div>
  );
}

function CodeList({ kind, title, codes }: { kind: Kind; title: string; codes: Code[] }) {
  const [code, setCode] = useState("");
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<Problem>();
  const save = useAct(
    (entry: Code) => {
      const body = { name: entry.name, active: entry.active };
      const params = { path: { code: entry.code } };
      return kind === "faults"
        ? answer(client.PUT("/api/codes/faults/{code}", { params, body }))
        : answer(client.PUT("/api/codes/causes/{code}", { params, body }));
    },
    {
      done: () => {
        setCode("");
        setName("");
        setProblem(undefined);
      },
      refused: setProblem,
    },
  );
  return (
    <section aria-label={title}>
      <h3>{title}</h3>
      {codes.map((entry) => (
        <div key={entry.code} className={entry.active ? styles.code : `${styles.code} gone`}>
          <span className="small">{entry.code}</span>
          <span>{entry.name}</span>
          <button
            type="button"
            className="plain small"
            onClick={() => save.run({ ...entry, active: !entry.active })}
          >
            {entry.active ? "take out of use" : "use again"}
          </button>
        </div>
      ))}
      <form
        className={styles.code}
        onSubmit={(event) => {
          event.preventDefault();
          save.run({ code, name, active: true });
        }}
      >
        <Input
          aria-label={`New code of ${title}`}
          value={code}
          placeholder="CODE"
          onChange={(event) => setCode(event.target.value.toUpperCase())}
        />
        <Input
          aria-label={`Name of the new code of ${title}`}
          value={name}
          placeholder="in words"
          onChange={(event) => setName(event.target.value)}
        />
        <Button htmlType="submit" loading={save.running}>
          Add
        </Button>
      </form>
      {problem && <p className="fault">{problem.message}</p>}
    </section>
  );
}
