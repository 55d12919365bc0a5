import { Button } from "antd";
import type { PocketVisit } from "../api/generated/schema";
import styles from "./ChangedVisit.module.css";
import { useVisitChanges } from "./seenVisits";

/** What the office changed of a visit since its technician last saw it, until they say that they have seen it. */
export function ChangedVisit({ visit }: { visit: PocketVisit }) {
  const { changed, saw } = useVisitChanges(visit);
  if (changed.length === 0) {
    return null;
  }
  return (
    <section className={styles.changes} aria-label="Changed by the office">
      <h2>Changed by the office</h2>
      {changed.map(({ name, now, was }) => (
        <p key={name}>
          <b className="needs">{name}:</b> {now || "none any more"}
          <span className="soft small"> · before: {was || "none"}</span>
        </p>
      ))}
      <Button className="tall" onClick={saw}>
        I have seen it
      </Button>
    </section>
  );
}
