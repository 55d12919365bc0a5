import { Checkbox } from "antd";
import { useState } from "react";
import type { Mate } from "../api/generated/schema";
import { words } from "../format";
import styles from "./CrewTicks.module.css";

export type Ticked = { crewIds: number[]; isOn: (id: number) => boolean; turn: (id: number) => void };

/**
 * For whom of the crew a tap counts. Whoever is responsible taps for all of them until somebody is unticked; whoever
 * comes along taps for themselves, so that they stop nobody else's clock unawares.
 */
export function useTicked(crew: Mate[], forAll: boolean): Ticked {
  const [turned, setTurned] = useState<number[]>([]);
  const isOn = (id: number) => turned.includes(id) !== forAll;
  return {
    crewIds: crew.map((mate) => mate.personId).filter(isOn),
    isOn,
    turn: (id) => setTurned(turned.includes(id) ? turned.filter((other) => other !== id) : [...turned, id]),
  };
}

/** Who comes along, each to be ticked or not. */
export function CrewTicks({ crew, ticked }: { crew: Mate[]; ticked: Ticked }) {
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
