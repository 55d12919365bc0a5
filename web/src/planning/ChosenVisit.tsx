import { Button } from "antd";
import { Link } from "react-router";
import type { Block, Drive } from "../api/generated/schema";
import { headline } from "../format";
import { Heading } from "../kit/Heading";
import { ToldOfVisit } from "../telling/ToldOfVisit";
import styles from "./PlannerPage.module.css";
import { clock } from "./scale";
import { clashWords, NO_ROAD } from "./words";

/** The visit that is looked at, and how it is moved. */
export function ChosenVisit({
  block,
  name,
  drive,
  unplan,
}: {
  block: Block;
  name: string;
  /** The way to it; nothing where somebody is there already. */
  drive?: Drive;
  unplan?: () => void;
}) {
  const against = clashWords(block.clashes);
  return (
    <section className={styles.chosen}>
      <Heading part>{block.customer}</Heading>
      <div>
        {block.title}, {block.site}
      </div>
      <div>
        {clock(block.at.from)} to {clock(block.at.to)}, {name}, {block.state.replaceAll("_", " ")}
      </div>
      {against && <div className="needs">{against}</div>}
      {drive?.noRoad && <div className="needs small">{headline(NO_ROAD)}.</div>}
      <div className="small soft">
        <Link to={`/jobs/${block.jobNumber}`}>Job {block.jobNumber}</Link>
        {unplan && ". Drag it, or press the space bar and the arrows."}
      </div>
      <ToldOfVisit visitId={block.visitId} mayTell={unplan !== undefined} />{" "}
      {unplan && (
        <Button size="small" onClick={unplan}>
          Take it off the day
        </Button>
      )}
    </section>
  );
}
