import type { WantedPart } from "../api/generated/schema";
import { PartActs } from "./PartActs";
import styles from "./PartsWantedLines.module.css";
import { partName, standing } from "./words";

/** What a job waits for, and waited for, with what can be done about it. */
export const PartsWantedLines = ({ parts, editable }: { parts: WantedPart[]; editable: boolean }) =>
  parts.map((part) => (
    <div key={part.id} className={styles.part} data-part-wanted={part.id}>
      <b>{partName(part)}</b>
      {part.urgent && <span className="needs"> urgent</span>}
      <span className={part.late ? "needs" : "soft"}> {standing(part)}</span>
      {part.part && part.words && <span className="small"> “{part.words}”</span>}
      {editable && (
        <div className={styles.acts}>
          <PartActs part={part} />
        </div>
      )}
    </div>
  ));
