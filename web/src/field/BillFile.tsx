import { answer, client } from "../api/client";
import type { JobSheet } from "../api/generated/schema";
import { useAct } from "../kit/useAct";
import styles from "./BillFile.module.css";

type OtherCost = JobSheet["otherCosts"][number];

/** A supplier's bill as it came, to be opened or kept. */
export function BillFile({ cost, editable }: { cost: OtherCost; editable: boolean }) {
  const path = { id: cost.id };
  const keep = useAct(
    (file: File) =>
      answer(
        client.PUT("/api/other-costs/{id}/file", {
          params: { path, query: { fileName: file.name } },
          body: "",
          bodySerializer: () => file,
          headers: { "Content-Type": "application/octet-stream" },
        }),
      ),
    { said: `The bill of ${cost.supplier} is kept.` },
  );
  return (
    <span className="small">
      {cost.fileName && (
        <a href={`/api/other-costs/${cost.id}/file`} download={cost.fileName}>
          {cost.fileName}
        </a>
      )}{" "}
      {editable && (
        <label className={styles.keep}>
          {keep.running ? "Sending…" : cost.fileName ? "Another scan" : "Keep the bill"}
          <span className="visually-hidden"> of {cost.supplier}</span>
          <input
            type="file"
            accept="application/pdf,image/jpeg,image/png"
            className="visually-hidden"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) {
                keep.run(file);
              }
            }}
          />
        </label>
      )}
    </span>
  );
}
