import { Checkbox } from "antd";
import type { Mate } from "../api/generated/schema";
import { words } from "../format";
import styles from "./CrewTicks.module.css";
import type { Ticked } from "./useTicked";

/** Who comes along, each to be ticked or not. */
export default function CrewTicks({ crew, ticked }: { crew: Mate[]; ticked: Ticked }) {
  if (crew.length === 0) {
    return null;
  }
  return (
    <fieldset className={styles.crew}>
      <legend>My taps count for me and</legend>
      {crew.map((mate) => (
        <Checkbox
          key={mate.personId}
          className={styles.mate}
          checked={ticked.isOn(mate.personId)}
          onChange={() => ticked.turn(mate.personId)}
        >
          {mate.name}
          {mate.onClock && <span className="soft">, on the clock: {words(mate.onClock)}</span>}
        </Checkbox>
      ))}
    </fieldset>
  );
}
