import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input } from "antd";
import { useDeferredValue, useState } from "react";
import type { Ribbon } from "../api/generated/schema";
import { queries } from "../api/queries";
import { weekday } from "../format";
import { Heading } from "../kit/Heading";
import { Select } from "../kit/Select";
import { Printing } from "./Printing";
import styles from "./PrintPanel.module.css";

/** Which rounds and job sheets are printed; how many they are is said before. */
export function PrintPanel({ day, people, close }: { day: string; people: Ribbon[]; close: () => void }) {
  const [to, setTo] = useState("");
  const [technicianIds, setTechnicianIds] = useState<number[]>([]);
  const [kinds, setKinds] = useState<string[]>([]);
  const [areas, setAreas] = useState<string[]>([]);
  const [onlyPlanned, setOnlyPlanned] = useState(false);
  const [priced, setPriced] = useState(false);
  const asked = { from: day, to: useDeferredValue(to.trim()), technicianIds, kinds, areas, onlyPlanned };
  const { data, error } = useQuery({ ...queries.jobSheets(asked), placeholderData: keepPreviousData });
  const words = new URLSearchParams({
    from: asked.from,
    to: asked.to,
    onlyPlanned: String(onlyPlanned),
    priced: String(priced),
  });
  for (const [name, values] of Object.entries({ technicianIds, kinds, areas })) {
    for (const value of values) {
      words.append(name, String(value));
    }
  }
  const narrowing = [
    { label: "Of which kinds", every: "every kind", values: kinds, set: setKinds, from: data?.kinds },
    { label: "In which areas", every: "every area", values: areas, set: setAreas, from: data?.areas },
  ];
  return (
    <section className={styles.print} aria-label="Job sheets">
      <Heading part>Job sheets from {weekday(day)}</Heading>
      <div className={styles.fields}>
        <Input
          size="small"
          aria-label="Print until"
          placeholder="until fri"
          value={to}
          onChange={(event) => setTo(event.target.value)}
        />
        <Select
          size="small"
          mode="multiple"
          aria-label="Whose"
          placeholder="everybody’s"
          value={technicianIds}
          options={people.map(({ personId, name }) => ({ value: personId, label: name }))}
          onChange={setTechnicianIds}
        />
        {narrowing.map(({ label, every, values, set, from }) => (
          <Select
            key={label}
            size="small"
            mode="multiple"
            aria-label={label}
            placeholder={every}
            value={values}
            options={(from ?? values).map((value) => ({ value, label: value }))}
            onChange={set}
          />
        ))}
      </div>
      <Checkbox checked={onlyPlanned} onChange={(event) => setOnlyPlanned(event.target.checked)}>
        only what has not begun
      </Checkbox>
      <Checkbox checked={priced} onChange={(event) => setPriced(event.target.checked)}>
        with prices
      </Checkbox>
      {error && <p className="fault">{error.message}</p>}
      <p>
        {data &&
          (data.sheets === 0 ? "Nothing is planned there." : `${data.sheets} sheets, ${data.rounds} rounds.`)}
      </p>
      {data && data.sheets > 0 && <Printing key={`${words}`} address={`/api/job-sheets/pdf?${words}`} />}{" "}
      <Button size="small" onClick={close}>
        Leave
      </Button>
    </section>
  );
}
