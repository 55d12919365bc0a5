import { useQuery } from "@tanstack/react-query";
import { Button, Checkbox, Input } from "antd";
import { useDeferredValue, useState } from "react";
import type { Ribbon } from "../api/generated/schema";
import { queries } from "../api/queries";
import { weekday } from "../format";
import { Heading } from "../kit/Heading";
import { Select } from "../kit/Select";
import styles from "./PrintPanel.module.css";

/** Which rounds and job sheets are printed; how many they are is said before. */
export function PrintPanel({ day, people, close }: { day: string; people: Ribbon[]; close: () => void }) {
  const [to, setTo] = useState("");
  const [technicianIds, setTechnicianIds] = useState<number[]>([]);
  const [onlyPlanned, setOnlyPlanned] = useState(false);
  const [priced, setPriced] = useState(false);
  const asked = { from: day, to: useDeferredValue(to.trim()), technicianIds, onlyPlanned };
  const { data, error } = useQuery(queries.jobSheets(asked));
  const words = new URLSearchParams({
    from: asked.from,
    to: asked.to,
    onlyPlanned: String(onlyPlanned),
    priced: String(priced),
  });
  for (const id of technicianIds) {
    words.append("technicianIds", String(id));
  }
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
      {data && data.sheets > 0 && (
        <Button size="small" type="primary" href={`/api/job-sheets/pdf?${words}`} target="_blank">
          Open them as PDF
        </Button>
      )}{" "}
      <Button size="small" onClick={close}>
        Leave
      </Button>
    </section>
  );
}
