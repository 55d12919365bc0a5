import { useState } from "react";
import type { AskedChecklist, AskedItem } from "../api/generated/schema";
import { headline, moment } from "../format";
import { Word } from "../kit/Word";
import styles from "./ChecklistAnswers.module.css";
import { Correction } from "./Correction";
import { limits, said } from "./words";

/** What was answered on a visit, for the office; what is out of limits stands out. */
export const ChecklistAnswers = ({
  visitId,
  checklists,
  photographed,
  editable,
}: {
  visitId: number;
  checklists: AskedChecklist[];
  /** Which questions a photo answers. */
  photographed: Set<number | null | undefined>;
  editable: boolean;
}) =>
  checklists.map((checklist) => (
    <details
      key={checklist.checklistId}
      className={styles.answers}
      open={checklist.items.some((item) => item.given?.outOfLimits)}
    >
      <summary>
        {checklist.name}{" "}
        <span className="soft small">
          {checklist.items.filter((item) => item.given || photographed.has(item.id)).length} of{" "}
          {checklist.items.length} answered
        </span>
      </summary>
      <dl>
        {checklist.items.map((item) => (
          <Answered
            key={item.id}
            visitId={visitId}
            item={item}
            photo={photographed.has(item.id)}
            editable={editable}
          />
        ))}
      </dl>
    </details>
  ));

function Answered({
  visitId,
  item,
  photo,
  editable,
}: {
  visitId: number;
  item: AskedItem;
  photo: boolean;
  editable: boolean;
}) {
  const [open, setOpen] = useState(false);
  const { given } = item;
  return (
    <>
      <dt>{item.question}</dt>
      <dd>
        {given ? (
          <span title={`${given.answeredBy}, ${moment(given.answeredAt)}`}>
            <b className={given.outOfLimits ? "needs" : undefined}>{headline(said(item, given))}</b>
            {given.outOfLimits && (
              <span className="needs"> out of limits{limits(item) && `: ${limits(item)}`}</span>
            )}
            {given.word && ` “${given.word}”`}
          </span>
        ) : (
          <span className="soft">{photo ? "a photo" : "not answered"}</span>
        )}{" "}
        {editable && item.asks !== "photo" && !open && (
          <Word id={`answer-${visitId}-${item.id}`} of={item.question} run={() => setOpen(true)}>
            {given ? "Put right" : "Answer"}
          </Word>
        )}
        {open && <Correction visitId={visitId} item={item} close={() => setOpen(false)} />}
      </dd>
    </>
  );
}
