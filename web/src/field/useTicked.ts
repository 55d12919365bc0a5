import { useState } from "react";
import type { Mate } from "../api/generated/schema";

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
